package eleutheria.server.access;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.Grant;
import eleutheria.core.access.Ground;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.FilterWords;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.AccessRequest;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.refs.PersonView;
import eleutheria.server.refs.SubjectView;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Grants and grounds with who gave them and why, for any number at once in a fixed number of
 * queries.
 */
@NullMarked
@Component
public class Grounds {
  private final World world;
  private final WhoDid whoDid;
  private final RequestStore requests;

  Grounds(World world, WhoDid whoDid, RequestStore requests) {
    this.world = world;
    this.whoDid = whoDid;
    this.requests = requests;
  }

  /**
   * One ground in short.
   *
   * @param by person, group or filter
   * @param source whence the grant comes: hand, request, import or review
   * @param name what it comes through: the group that the person is in, the filter in words, or the
   *     number of the request; null where there is nothing to name
   */
  public record Sign(String by, String source, @Nullable String name) {}

  /**
   * The signs of some holdings, in their order; the requests behind them are read at once.
   *
   * @param words for filters, naming only those whom the reader may see
   */
  List<List<Sign>> signs(AccessView access, FilterWords words, List<List<Ground>> holdings) {
    Map<GrantId, AccessRequest> asked =
        requests.ofGrants(
            holdings.stream()
                .flatMap(List::stream)
                .map(Ground::grant)
                .filter(grant -> grant.given().source() == GrantSource.REQUEST)
                .map(Grant::id)
                .distinct()
                .toList());
    Map<String, String> filters = new HashMap<>();
    return holdings.stream()
        .map(
            grounds ->
                grounds.stream()
                    .map(ground -> sign(access, ground, asked, filters, words))
                    .toList())
        .toList();
  }

  private static Sign sign(
      AccessView access,
      Ground ground,
      Map<GrantId, AccessRequest> asked,
      Map<String, String> filters,
      FilterWords words) {
    Grant grant = ground.grant();
    String source = grant.given().source().word();
    return switch (grant.given().subject()) {
      case FactValue.Subject.OfPerson s -> {
        AccessRequest request = asked.get(grant.id());
        yield new Sign("person", source, request == null ? null : request.name());
      }
      case FactValue.Subject.OfGroup s ->
          new Sign(
              "group",
              source,
              access
                  .directory()
                  .group(ground.chain().isEmpty() ? s.group() : ground.chain().getFirst())
                  .map(Group::name)
                  .orElse(null));
      case FactValue.Subject.ByFilter s ->
          new Sign("filter", source, filters.computeIfAbsent(s.filter(), words::tell));
    };
  }

  /** What is told of grants beside what they give. */
  private record Beside(
      Map<UUID, WhoDid.Did> openers,
      Map<GrantId, AccessRequest> requests,
      Map<GrantId, String> reasons) {}

  private Beside told(Collection<Grant> grants) {
    List<GrantId> ids = grants.stream().map(Grant::id).toList();
    Map<GrantId, String> reasons =
        world.look(
            (facts, now) -> {
              Map<GrantId, String> found = new HashMap<>();
              for (Grant grant : grants) {
                if (facts.valueAt(new FactKey.GrantReason(grant.id()), grant.from())
                    instanceof FactValue.Text text) {
                  found.put(grant.id(), text.text());
                }
              }
              return found;
            });
    List<GrantId> requested =
        grants.stream()
            .filter(grant -> grant.given().source() == GrantSource.REQUEST)
            .map(Grant::id)
            .toList();
    return new Beside(whoDid.first(ids), requests.ofGrants(requested), reasons);
  }

  /** All grounds of one holding. */
  public List<GroundView> of(
      Viewer viewer, AccessView access, PersonId person, Entitlement entitlement, boolean now) {
    List<Ground> grounds = access.grounds(person, entitlement.id());
    Beside told = told(grounds.stream().map(Ground::grant).toList());
    boolean mayEnd =
        now
            && viewer
                .authority()
                .reaches(
                    Power.ACCESS_END,
                    entitlement.application(),
                    access
                        .directory()
                        .person(person)
                        .map(p -> p.value(Attributes.UNIT))
                        .orElse(null));
    return grounds.stream().map(ground -> view(viewer, access, ground, told, mayEnd, now)).toList();
  }

  private GroundView view(
      Viewer viewer, AccessView access, Ground ground, Beside told, boolean mayEnd, boolean now) {
    Grant grant = ground.grant();
    Optional<Group> first =
        ground.chain().isEmpty()
            ? Optional.empty()
            : access.directory().group(ground.chain().getFirst());
    boolean mayTakeOut =
        now
            && first.filter(Group::listed).isPresent()
            && (viewer.authority().has(Power.GROUPS_EDIT)
                || viewer.authority().owns(first.get().id()));
    SubjectView subject = SubjectView.of(access, grant.given().subject());
    WhoDid.Did opener = told.openers().get(grant.id().value());
    AccessRequest request = told.requests().get(grant.id());
    return new GroundView(
        grant.id().value().toString(),
        subject.kind(),
        grant.given().source().word(),
        subject,
        chain(access, ground.chain()),
        first.map(Grounds::form).orElse(null),
        ground.more(),
        matched(access, ground.matched()),
        grant.from(),
        open(ground.until()),
        subject.people(),
        opener(access, opener),
        opener == null ? null : opener.at(),
        told.reasons().get(grant.id()),
        request == null ? null : request.name(),
        mayEnd,
        mayTakeOut);
  }

  private static List<PersonView.GroupRef> chain(AccessView access, List<GroupId> chain) {
    return chain.stream().map(g -> PersonView.ref(access.directory(), g)).toList();
  }

  private static String form(Group group) {
    return switch (group.form()) {
      case FactValue.Form.Listed f -> "listed";
      case FactValue.Form.Mirrored f -> "mirrored";
      case FactValue.Form.ByFilter f -> "filter";
    };
  }

  private static Map<String, String> matched(AccessView access, Map<String, List<String>> values) {
    Map<String, String> told = new LinkedHashMap<>();
    values.forEach(
        (name, all) -> {
          FactValue.Definition definition = access.directory().definitions().get(name);
          boolean person = definition != null && definition.type() == ValueType.PERSON;
          told.put(
              definition == null ? name : definition.label(),
              all.stream()
                  .map(v -> person ? name(access, PersonId.parse(v)) : v)
                  .collect(Collectors.joining(", ")));
        });
    return told;
  }

  /**
   * A grant in a list.
   *
   * @param until when it ends by itself; null if it does not
   * @param reason why it was given; null where that was erased
   */
  public record GrantLine(
      String id,
      SubjectView subject,
      String source,
      Instant from,
      @Nullable Instant until,
      @Nullable String reason,
      @Nullable String givenBy,
      @Nullable String request) {}

  /** Grants of an entitlement, those to one person only where that person may be seen. */
  public List<GrantLine> lines(
      AccessView access, AccessReach reach, Entitlement entitlement, List<Grant> all) {
    List<Grant> grants =
        all.stream()
            .filter(
                grant ->
                    !(grant.given().subject() instanceof FactValue.Subject.OfPerson of)
                        || access
                            .directory()
                            .person(of.person())
                            .filter(p -> reach.sees(p, entitlement))
                            .isPresent())
            .toList();
    return lines(access, grants);
  }

  /** Grants that the reader may see, because they are grounds of a holding that is seen. */
  public List<GrantLine> lines(AccessView access, List<Grant> grants) {
    Beside told = told(grants);
    return grants.stream()
        .map(
            grant -> {
              WhoDid.Did opener = told.openers().get(grant.id().value());
              AccessRequest request = told.requests().get(grant.id());
              return new GrantLine(
                  grant.id().value().toString(),
                  SubjectView.of(access, grant.given().subject()),
                  grant.given().source().word(),
                  grant.from(),
                  open(grant.until()),
                  told.reasons().get(grant.id()),
                  opener(access, opener),
                  request == null ? null : request.name());
            })
        .toList();
  }

  static @Nullable Instant open(Instant until) {
    return until.equals(Moments.FOREVER) ? null : until;
  }

  /** Who gave something; what stood there from the beginning came with the set-up. */
  private static @Nullable String opener(AccessView access, WhoDid.@Nullable Did opener) {
    return opener == null ? null : opener.setup() ? "the set-up" : name(access, opener.person());
  }

  private static @Nullable String name(AccessView access, @Nullable PersonId id) {
    return id == null
        ? null
        : access.directory().person(id).map((Person p) -> p.name().displayed()).orElse("someone");
  }
}
