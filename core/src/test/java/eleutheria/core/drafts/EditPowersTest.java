package eleutheria.core.drafts;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.FactKind;
import eleutheria.core.ledger.FactSamples;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Over one fact of every kind: which power publishes a change of it, and that no other does. */
class EditPowersTest {
  private final House house = new House();

  /** What is judged by what hangs on it, so that by itself it needs nothing. */
  private static final Set<FactKind> NOTHING = EnumSet.of(FactKind.GRANT_REASON);

  /** What comes from sources, and powers themselves, are never a draft's. */
  private static final Set<FactKind> NEVER =
      EnumSet.of(
          FactKind.LINK, FactKind.SOURCE, FactKind.MANDATE, FactKind.MANDATE_HELD, FactKind.DEPUTY);

  static List<Map.Entry<FactKey, FactValue>> samples() {
    return List.copyOf(FactSamples.ALL.entrySet());
  }

  private List<Problem> missing(Authority authority, Edit... edits) {
    Instant at = house.now();
    return EditPowers.missing(
        new Moment(house.facts, house.directory(), at, House.ZONE, () -> new UUID(0, 1), authority),
        List.of(edits));
  }

  private static Authority by(Power power, Reach reach) {
    return new Authority(
        null, List.of(new Authority.Allowed("one", EnumSet.of(power), reach)), Set.of());
  }

  private Edit opens(FactKey key, FactValue value) {
    return new Edit(key, null, new Spell(value, house.now(), Moments.FOREVER));
  }

  private Edit ends(FactKey key, FactValue value) {
    return new Edit(key, new Spell(value, house.now(), Moments.FOREVER), null);
  }

  /** The powers each of which alone is enough, for opening a fact and for dropping it. */
  private Set<Power> enough(Edit edit) {
    Set<Power> found = EnumSet.noneOf(Power.class);
    for (Power power : Power.values()) {
      if (missing(by(power, Reach.ALL), edit).isEmpty()) {
        found.add(power);
      }
    }
    return found;
  }

  @ParameterizedTest
  @MethodSource("samples")
  void nobodyPublishesWithoutAPowerAndAStewardAllThatADraftCanHold(
      Map.Entry<FactKey, FactValue> sample) {
    FactKind kind = FactKind.of(sample.getKey());
    for (Edit edit :
        List.of(
            opens(sample.getKey(), sample.getValue()), ends(sample.getKey(), sample.getValue()))) {
      assertThat(missing(Authority.NONE, edit).isEmpty()).isEqualTo(NOTHING.contains(kind));
      assertThat(missing(Authority.SETUP, edit).isEmpty()).isNotEqualTo(NEVER.contains(kind));
    }
  }

  @Test
  void oneLineSaysWhichPowerEachKindNeeds() {
    Map<String, Set<String>> opening = new TreeMap<>();
    FactSamples.ALL.forEach(
        (key, value) ->
            opening
                .computeIfAbsent(FactKind.of(key).word(), k -> new TreeSet<>())
                .addAll(enough(opens(key, value)).stream().map(Power::word).toList()));
    opening.values().removeIf(powers -> powers.size() == Power.values().length);
    Map<String, Set<String>> wanted = new LinkedHashMap<>();
    wanted.put(
        "apps.edit",
        Set.of("application", "application-state", "seats", "entitlement", "approved"));
    wanted.put("apps.signon", Set.of("way-in"));
    wanted.put("groups.edit", Set.of("group-name", "group-form", "membership", "ownership"));
    wanted.put("people.edit", Set.of("existence", "name", "status", "attribute"));
    wanted.put("settings.edit", Set.of("definition"));
    wanted.put("access.give", Set.of("grant"));
    wanted.put("access.rules", Set.of("separation-rule"));
    wanted.put("access.except", Set.of("excepted"));
    wanted.put("requests.configure", Set.of("route", "request-form"));
    wanted.put("portal.brand", Set.of("brand"));
    for (Map.Entry<String, Set<String>> each : wanted.entrySet()) {
      for (String kind : each.getValue()) {
        if (opening.containsKey(kind)) {
          assertThat(opening.remove(kind)).as(kind).containsExactly(each.getKey());
        }
      }
    }
    NEVER.forEach(kind -> assertThat(opening.remove(kind.word())).as(kind.word()).isEmpty());
    assertThat(opening.remove("self-service")).containsExactly("apps.edit");
    // All that is left is the portal's.
    assertThat(opening).hasSizeGreaterThan(8);
    assertThat(opening.values()).allMatch(powers -> powers.equals(Set.of("portal.arrange")));
  }

  /** Ending is another power than granting, and replacing one by the other needs both. */
  @Test
  void endingAndGrantingAreTwoPowers() {
    Map.Entry<FactKey, FactValue> grant =
        samples().stream().filter(s -> s.getKey() instanceof FactKey.Grant).findFirst().get();
    assertThat(enough(opens(grant.getKey(), grant.getValue()))).containsExactly(Power.ACCESS_GIVE);
    assertThat(enough(ends(grant.getKey(), grant.getValue()))).containsExactly(Power.ACCESS_END);
    Spell base = new Spell(grant.getValue(), house.now(), Moments.FOREVER);
    Spell wanted = new Spell(grant.getValue(), house.now(), house.now().plusSeconds(60));
    assertThat(enough(new Edit(grant.getKey(), base, wanted))).isEmpty();
  }

  /** An owner is set, and a thing begins, by the power over that kind of thing. */
  @Test
  void ownersAndBeginningsGoByTheKindOfThing() {
    FactValue present = FactValue.Present.PRESENT;
    PersonId oda = new PersonId(new UUID(1, 1));
    Map<ObjectId, Power> owned =
        Map.of(
            new GroupId(new UUID(2, 2)), Power.GROUPS_EDIT,
            new ApplicationId(new UUID(5, 5)), Power.APPS_EDIT,
            new CollectionId(new UUID(9, 9)), Power.PORTAL_ARRANGE,
            new ListingId(new UUID(12, 1)), Power.APPS_EDIT);
    owned.forEach(
        (thing, power) ->
            assertThat(enough(opens(new FactKey.Ownership(thing, oda), present)))
                .as(thing.text())
                .containsExactly(power));
    assertThat(enough(opens(new FactKey.Ownership(oda, oda), present))).isEmpty();
    assertThat(enough(opens(new FactKey.Existence(new GroupId(new UUID(2, 2))), present)))
        .containsExactly(Power.GROUPS_EDIT);
    assertThat(enough(opens(new FactKey.Existence(new SourceId(new UUID(3, 3))), present)))
        .isEmpty();
    // What they are is judged with what is said of them.
    for (ObjectId said :
        List.of(
            new ApplicationId(new UUID(5, 5)),
            new TileId(new UUID(8, 8)),
            new CollectionId(new UUID(9, 9)),
            new ListingId(new UUID(12, 1)))) {
      assertThat(missing(Authority.NONE, opens(new FactKey.Existence(said), present))).isEmpty();
    }
  }

  /** Each missing power is told once, however many edits need it. */
  @Test
  void whatIsMissingIsToldOnce() {
    Edit[] all =
        FactSamples.ALL.entrySet().stream()
            .map(s -> opens(s.getKey(), s.getValue()))
            .toArray(Edit[]::new);
    List<Problem> problems = missing(Authority.NONE, all);
    assertThat(problems).extracting(Problem::sentence).doesNotHaveDuplicates();
    assertThat(problems)
        .extracting(Problem::sentence)
        .contains(
            "This needs the power “portal.arrange”: to arrange tiles, collections and front pages.",
            "A draft cannot make such a change.");
  }

  /** A unit, a group of one's own, and oneself. */
  @Test
  void reachOwnershipAndOneselfCount() {
    PersonId mira = house.person("Mira", "Safety");
    PersonId otto = house.person("Otto", "Deck crew");
    Authority safety = by(Power.PEOPLE_EDIT, Reach.units("Safety"));
    FactValue name = new FactValue.PersonName("M", "", "M");
    assertThat(missing(safety, opens(new FactKey.Naming(mira), name))).isEmpty();
    assertThat(missing(safety, opens(new FactKey.Naming(otto), name))).hasSize(1);

    FactKey membership =
        samples().stream()
            .map(Map.Entry::getKey)
            .filter(FactKey.Membership.class::isInstance)
            .findFirst()
            .get();
    ObjectId group = ((FactKey.Membership) membership).subject();
    Authority owner = new Authority(otto, List.of(), Set.of(group));
    Edit joins = opens(membership, FactValue.Present.PRESENT);
    assertThat(missing(owner, joins)).isEmpty();
    Edit renames = opens(name(FactKind.GROUP_NAME), new FactValue.Text("x"));
    assertThat(missing(owner, renames)).hasSize(1);
    assertThat(EditPowers.onlyOwnGroups(moment(owner), List.of(joins))).isTrue();
    assertThat(EditPowers.onlyOwnGroups(moment(owner), List.of(joins, renames))).isFalse();
    assertThat(EditPowers.onlyOwnGroups(moment(owner), List.of())).isFalse();

    FactKey.Excepted excepted = (FactKey.Excepted) name(FactKind.EXCEPTED);
    Authority excepts =
        new Authority(
            excepted.person(),
            List.of(new Authority.Allowed("one", EnumSet.of(Power.ACCESS_EXCEPT), Reach.ALL)),
            Set.of());
    assertThat(missing(excepts, opens(excepted, FactValue.Present.PRESENT)))
        .extracting(Problem::code)
        .containsExactly("own-gain");
  }

  private Moment moment(@Nullable Authority authority) {
    return new Moment(
        house.facts,
        house.directory(),
        house.now(),
        House.ZONE,
        () -> new UUID(0, 1),
        authority == null ? Authority.NONE : authority);
  }

  private static FactKey name(FactKind kind) {
    return samples().stream()
        .map(Map.Entry::getKey)
        .filter(key -> FactKind.of(key) == kind)
        .findFirst()
        .orElseThrow();
  }
}
