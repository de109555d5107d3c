package eleutheria.core.directory.intake;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.FactValue;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What each column of a source's files is. Targets are {@code key}, {@code given}, {@code family},
 * {@code displayed}, {@code firstDay}, {@code lastDay}, {@code attribute:NAME}; for groups {@code
 * group}, {@code groupName}, {@code member}, {@code memberGroup}; {@code none} for what stays out.
 *
 * @param columns target by heading
 */
public record Matching(Map<String, String> columns) {
  public static final String KEY = "key";
  public static final String GIVEN = "given";
  public static final String FAMILY = "family";
  public static final String DISPLAYED = "displayed";
  public static final String FIRST_DAY = "firstDay";
  public static final String LAST_DAY = "lastDay";
  public static final String GROUP = "group";
  public static final String GROUP_NAME = "groupName";
  public static final String MEMBER = "member";
  public static final String MEMBER_GROUP = "memberGroup";
  public static final String NONE = "none";
  public static final String ATTRIBUTE = "attribute:";

  private static final Map<String, String> USUAL =
      Map.ofEntries(
          Map.entry("staffno", KEY),
          Map.entry("staffnumber", KEY),
          Map.entry("personnumber", KEY),
          Map.entry("employeenumber", KEY),
          Map.entry("key", KEY),
          Map.entry("id", KEY),
          Map.entry("given", GIVEN),
          Map.entry("givenname", GIVEN),
          Map.entry("firstname", GIVEN),
          Map.entry("family", FAMILY),
          Map.entry("familyname", FAMILY),
          Map.entry("lastname", FAMILY),
          Map.entry("surname", FAMILY),
          Map.entry("displayname", DISPLAYED),
          Map.entry("name", DISPLAYED),
          Map.entry("firstday", FIRST_DAY),
          Map.entry("startdate", FIRST_DAY),
          Map.entry("lastday", LAST_DAY),
          Map.entry("enddate", LAST_DAY),
          Map.entry("email", ATTRIBUTE + Attributes.MAIL),
          Map.entry("signin", ATTRIBUTE + Attributes.USER_NAME),
          Map.entry("signinname", ATTRIBUTE + Attributes.USER_NAME),
          Map.entry("login", ATTRIBUTE + Attributes.USER_NAME),
          Map.entry("department", ATTRIBUTE + Attributes.UNIT),
          Map.entry("managerno", ATTRIBUTE + Attributes.MANAGER),
          Map.entry("group", GROUP),
          Map.entry("groupname", GROUP_NAME),
          Map.entry("member", MEMBER),
          Map.entry("membergroup", MEMBER_GROUP));

  /** A first guess from the headings; each target is guessed once. */
  public static Matching guess(List<String> headings, Map<String, FactValue.Definition> known) {
    Map<String, String> columns = new LinkedHashMap<>();
    Set<String> used = new LinkedHashSet<>();
    for (String heading : headings) {
      String plain = Folding.bare(heading).replaceAll("[^a-z0-9]", "");
      String target = USUAL.getOrDefault(plain, NONE);
      for (Map.Entry<String, FactValue.Definition> entry : known.entrySet()) {
        String label = Folding.bare(entry.getValue().label()).replaceAll("[^a-z0-9]", "");
        if (plain.equals(Folding.bare(entry.getKey())) || plain.equals(label)) {
          target = ATTRIBUTE + entry.getKey();
        }
      }
      columns.put(heading, target.equals(NONE) || used.add(target) ? target : NONE);
    }
    return new Matching(columns);
  }

  public Optional<String> heading(String target) {
    return columns.entrySet().stream()
        .filter(entry -> entry.getValue().equals(target))
        .map(Map.Entry::getKey)
        .findFirst();
  }

  /** Whether the file brings groups and their members, and not people. */
  public boolean ofGroups() {
    return heading(GROUP).isPresent();
  }

  /** Targets that more than one column has. */
  List<String> doubled() {
    Set<String> seen = new LinkedHashSet<>();
    List<String> doubled = new ArrayList<>();
    for (String target : columns.values()) {
      if (!target.equals(NONE) && !seen.add(target)) {
        doubled.add(target);
      }
    }
    return doubled;
  }
}
