package eleutheria.core.directory.intake;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.PlainText;
import eleutheria.core.directory.SourceLink;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Judges a file of memberships: one row for each person or group in a group. The groups are
 * mirrored; members are found by their keys in the same source.
 */
final class GroupIntake {
  private final Moment moment;
  private final DirectoryView directory;
  private final Intake.Delivery delivery;
  private final LineNotes notes;
  private final Map<String, PersonId> people = new HashMap<>();
  private final Map<String, GroupId> known = new LinkedHashMap<>();
  private final Map<String, GroupId> groups = new LinkedHashMap<>();
  private final Map<String, String> names = new LinkedHashMap<>();
  private final Map<DeliveredFile.Row, ObjectId> members = new LinkedHashMap<>();

  GroupIntake(Moment moment, Intake.Delivery delivery) {
    this.moment = moment;
    this.directory = moment.directory();
    this.delivery = delivery;
    this.notes = new LineNotes(delivery.file().rows());
  }

  Preview judge() {
    List<Problem> problems = new ArrayList<>();
    for (String doubled : delivery.matching().doubled()) {
      problems.add(problem("Two columns are matched to “" + doubled + "”."));
    }
    boolean member =
        delivery.matching().heading(Matching.MEMBER).isPresent()
            || delivery.matching().heading(Matching.MEMBER_GROUP).isPresent();
    if (!member) {
      problems.add(problem("Say which column holds the members' keys."));
    }
    if (!problems.isEmpty()) {
      return new Preview(List.of(), List.of(), 0, problems, List.of(), List.of());
    }
    findKnown();
    judgeGroups();
    judgeMembers();
    judgeCycles();
    return workOut();
  }

  private static Problem problem(String sentence) {
    return Problem.invalid("intake.matching", "columns", sentence);
  }

  private void findKnown() {
    for (Person person : directory.people()) {
      keys(person.links()).forEach(key -> people.put(key, person.id()));
    }
    for (Group group : directory.groups()) {
      keys(directory.links(group.id())).forEach(key -> known.put(key, group.id()));
    }
    groups.putAll(known);
  }

  private List<String> keys(List<SourceLink> links) {
    return links.stream()
        .filter(link -> link.source().equals(delivery.source()))
        .map(SourceLink::key)
        .toList();
  }

  private void judgeGroups() {
    Map<String, GroupId> taken = new HashMap<>();
    directory.groups().forEach(group -> taken.put(Folding.fold(group.name()), group.id()));
    for (DeliveredFile.Row row : delivery.file().rows()) {
      if (row.cells().stream().anyMatch(PlainText::hides)) {
        notes.wrong(row, PlainText.SENTENCE);
      }
      String key = cell(row, Matching.GROUP);
      if (key.isEmpty()) {
        notes.wrong(row, "The group's key is missing.");
        continue;
      }
      String name = cell(row, Matching.GROUP_NAME);
      String wanted = name.isEmpty() ? key : name;
      String first = names.putIfAbsent(key, wanted);
      if (first != null && !name.isEmpty() && !first.equals(wanted)) {
        notes.wrong(row, "The group “%s” is called “%s” further up.".formatted(key, first));
      }
      if (wanted.length() > GroupDecisions.LONGEST_NAME) {
        notes.wrong(row, "The group's name is longer than 120 characters.");
      }
      GroupId holder = taken.get(Folding.fold(wanted));
      if (holder != null && !holder.equals(known.get(key))) {
        notes.wrong(row, "There is a group “%s” already that is not from here.".formatted(wanted));
      }
      if (notes.good(row)) {
        groups.computeIfAbsent(key, k -> new GroupId(moment.ids().get()));
      }
    }
  }

  private void judgeMembers() {
    Map<String, DeliveredFile.Row> seen = new HashMap<>();
    for (DeliveredFile.Row row : delivery.file().rows()) {
      String person = cell(row, Matching.MEMBER);
      String group = cell(row, Matching.MEMBER_GROUP);
      if (person.isEmpty() == group.isEmpty()) {
        notes.wrong(row, "A row names one member: a person or a group.");
        continue;
      }
      ObjectId member = person.isEmpty() ? groups.get(group) : people.get(person);
      if (member == null) {
        notes.wrong(
            row,
            person.isEmpty()
                ? "The group “%s” is unknown.".formatted(group)
                : "The person “%s” is unknown in this source.".formatted(person));
        continue;
      }
      DeliveredFile.Row first =
          seen.putIfAbsent(cell(row, Matching.GROUP) + "\n" + member.text(), row);
      if (first != null) {
        notes.wrong(row, "Line %d says the same.".formatted(first.line()));
      }
      if (member instanceof PersonId id) {
        judgePerson(row, id);
      }
      GroupId target = groups.get(cell(row, Matching.GROUP));
      if (target != null) {
        judgePowers(row, target, member);
      }
      members.put(row, member);
    }
  }

  private void judgePerson(DeliveredFile.Row row, PersonId id) {
    Person person = directory.person(id).orElseThrow();
    if (person.status() == PersonStatus.DEPARTED) {
      notes.wrong(row, person.name().displayed() + " has departed.");
    }
    if (!moment.authority().reaches(Power.PEOPLE_IMPORT, person.value(Attributes.UNIT))) {
      notes.wrong(row, "This person is outside your reach.");
    }
  }

  private void judgePowers(DeliveredFile.Row row, GroupId target, ObjectId member) {
    Set<PersonId> moved =
        member instanceof PersonId id ? Set.of(id) : directory.members((GroupId) member);
    Set<PersonId> gained = new HashSet<>(moved);
    gained.removeAll(directory.members(target));
    GroupDecisions.mandatesReached(moment, target, gained)
        .forEach(problem -> notes.wrong(row, problem.sentence()));
  }

  private void judgeCycles() {
    Map<GroupId, Set<GroupId>> inside = new HashMap<>();
    directory.groups().forEach(g -> inside.put(g.id(), new LinkedHashSet<>(g.groups())));
    for (DeliveredFile.Row row : delivery.file().rows()) {
      if (!notes.good(row) || !(members.get(row) instanceof GroupId nested)) {
        continue;
      }
      GroupId outer = groups.get(cell(row, Matching.GROUP));
      if (outer == null || reaches(inside, nested, outer)) {
        notes.wrong(row, "The groups would contain each other in a circle.");
      } else {
        inside.computeIfAbsent(outer, g -> new LinkedHashSet<>()).add(nested);
      }
    }
  }

  private static boolean reaches(Map<GroupId, Set<GroupId>> inside, GroupId from, GroupId to) {
    Set<GroupId> seen = new HashSet<>();
    List<GroupId> open = new ArrayList<>(List.of(from));
    while (!open.isEmpty()) {
      GroupId next = open.removeLast();
      if (next.equals(to)) {
        return true;
      }
      if (seen.add(next)) {
        open.addAll(inside.getOrDefault(next, Set.of()));
      }
    }
    return false;
  }

  private Preview workOut() {
    Edits edits = moment.edits();
    List<Preview.Line> lines = new ArrayList<>();
    Set<GroupId> begun = new HashSet<>();
    Map<GroupId, Set<ObjectId>> delivered = new HashMap<>();
    for (DeliveredFile.Row row : delivery.file().rows()) {
      String key = cell(row, Matching.GROUP);
      String label = names.getOrDefault(key, key);
      GroupId group = groups.get(key);
      ObjectId member = members.get(row);
      if (group != null && member != null) {
        delivered.computeIfAbsent(group, g -> new HashSet<>()).add(member);
      }
      if (!notes.good(row) || group == null || member == null) {
        lines.add(line(row, Preview.Verdict.BAD, label, List.of()));
        continue;
      }
      List<Preview.Difference> differences = new ArrayList<>();
      if (begun.add(group)) {
        beginGroup(edits, group, key, label, differences);
      }
      boolean there =
          moment.facts().valueAt(new FactKey.Membership(group, member), moment.at()) != null;
      if (!there) {
        edits.put(new FactKey.Membership(group, member), FactValue.Present.PRESENT);
        differences.add(new Preview.Difference("Member", null, told(member, row)));
      }
      lines.add(
          line(
              row,
              there
                  ? differences.isEmpty() ? Preview.Verdict.SAME : Preview.Verdict.CHANGED
                  : Preview.Verdict.ADDED,
              label,
              differences));
    }
    int standing =
        known.values().stream()
            .flatMap(id -> directory.group(id).stream())
            .mapToInt(group -> group.people().size() + group.groups().size())
            .sum();
    return new Preview(lines, end(edits, delivered), standing, List.of(), edits.list(), List.of());
  }

  private void beginGroup(
      Edits edits, GroupId id, String key, String name, List<Preview.Difference> differences) {
    if (!known.containsKey(key)) {
      edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
      edits.put(new FactKey.GroupForm(id), new FactValue.Form.Mirrored(delivery.source()));
      edits.put(new FactKey.Link(delivery.source(), ObjectKind.GROUP, key), new FactValue.Ref(id));
    }
    String before = directory.group(id).map(Group::name).orElse(null);
    if (!name.equals(before) && (before == null || named(key))) {
      edits.put(new FactKey.GroupName(id), new FactValue.Text(name));
      differences.add(new Preview.Difference("Group", before, name));
    }
  }

  /** Whether the file says what the group is called, so that the key is not taken for its name. */
  private boolean named(String key) {
    return delivery.matching().heading(Matching.GROUP_NAME).isPresent()
        && !key.equals(names.get(key));
  }

  private List<Preview.Ended> end(Edits edits, Map<GroupId, Set<ObjectId>> delivered) {
    List<Preview.Ended> ended = new ArrayList<>();
    if (delivery.scope() != Intake.Scope.ALL) {
      return ended;
    }
    known.forEach(
        (key, id) -> {
          Group group = directory.group(id).orElseThrow();
          List<ObjectId> all = new ArrayList<>(group.people());
          all.addAll(group.groups());
          all.removeAll(delivered.getOrDefault(id, Set.of()));
          all.removeIf(this::unreached);
          all.sort(null);
          for (ObjectId member : all) {
            edits.end(new FactKey.Membership(id, member));
            ended.add(new Preview.Ended(member, key, group.name() + ": " + told(member, null)));
          }
        });
    return ended;
  }

  private boolean unreached(ObjectId member) {
    return member instanceof PersonId id
        && !moment
            .authority()
            .reaches(
                Power.PEOPLE_IMPORT,
                directory.person(id).map(p -> p.value(Attributes.UNIT)).orElse(null));
  }

  private String told(ObjectId member, DeliveredFile.@Nullable Row row) {
    return switch (member) {
      case PersonId id ->
          directory.person(id).map(p -> p.name().familyFirst()).orElse(member.text());
      case GroupId id ->
          directory
              .group(id)
              .map(Group::name)
              .orElse(
                  row == null
                      ? member.text()
                      : names.getOrDefault(
                          cell(row, Matching.MEMBER_GROUP), cell(row, Matching.MEMBER_GROUP)));
      default -> member.text();
    };
  }

  private Preview.Line line(
      DeliveredFile.Row row,
      Preview.Verdict verdict,
      String label,
      List<Preview.Difference> differences) {
    return new Preview.Line(
        row.line(), verdict, cell(row, Matching.GROUP), label, differences, notes.of(row));
  }

  private String cell(DeliveredFile.Row row, String target) {
    return delivery
        .matching()
        .heading(target)
        .map(heading -> row.cells().get(delivery.file().columns().indexOf(heading)))
        .orElse("");
  }
}
