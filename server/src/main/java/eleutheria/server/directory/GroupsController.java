package eleutheria.server.directory;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterShape;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.reach.Reached;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.refs.ShapeView;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Groups: listed, looked at, made, filled, ended. */
@RestController
class GroupsController {

  private final World world;
  private final Commands commands;

  GroupsController(World world, Commands commands) {
    this.world = world;
    this.commands = commands;
  }

  record GroupsPage(int total, int of, List<GroupLine> lines, Instant at, long position) {}

  /**
   * @param people everyone in it within reach, through other groups too, who has not departed
   * @param groups how many groups are in it directly
   */
  record GroupLine(
      String id,
      String name,
      String form,
      @Nullable String source,
      int people,
      int groups,
      List<String> owners) {}

  /**
   * A group's page.
   *
   * @param people everyone in it within reach who has not departed
   * @param departed how many more have departed, so that it has no effect for them
   * @param unreached how many more are in it, outside the reader's reach
   * @param mandates names of the mandates that it leads to
   * @param mayFill whether the reader may change its members
   * @param mayEdit whether the reader may change its name, filter and owners, or end it
   */
  record GroupPage(
      String id,
      String name,
      String form,
      @Nullable String filter,
      @Nullable String filterWords,
      @Nullable String source,
      int people,
      int direct,
      int departed,
      int unreached,
      List<Nested> groups,
      List<PersonView.GroupRef> parents,
      List<PersonLine> owners,
      List<String> mandates,
      boolean mayFill,
      boolean mayEdit,
      Instant at,
      long position) {}

  record Nested(String id, String name, String form, int people) {}

  record MembersPage(int total, List<MemberLine> lines) {}

  /**
   * @param chain the groups between the person and this one, shortest way, this one left out
   * @param until when a direct membership ends by itself; null if never or not direct
   */
  record MemberLine(
      PersonLine person,
      boolean direct,
      List<PersonView.GroupRef> chain,
      @Nullable Instant until) {}

  record Make(
      @NotNull @Size(max = 500) String name,
      @Nullable @Size(max = 8000) String filter,
      @Nullable @Size(max = 1000) String reason) {}

  record Rename(@NotNull @Size(max = 500) String base, @NotNull @Size(max = 500) String name) {}

  record Members(
      @NotNull @Size(max = 1000) List<UUID> people,
      @NotNull @Size(max = 1000) List<UUID> groups,
      @Nullable LocalDate until,
      @Nullable @Size(max = 1000) String reason) {}

  record Filter(
      @NotNull @Size(max = 8000) String base,
      @NotNull @Size(max = 8000) String filter,
      @Nullable @Size(max = 1000) String reason) {}

  record Owners(
      @NotNull @Size(max = 50) List<UUID> base, @NotNull @Size(max = 50) List<UUID> owners) {}

  record Try(@NotNull @Size(max = 8000) String filter, @Nullable UUID group) {}

  /**
   * What a filter would come to.
   *
   * @param error what is wrong; null if the filter can be read
   * @param from offset of the first wrong character, from 0
   * @param until offset behind the last wrong one
   * @param count how many people within reach fit who have not departed
   * @param more of them, who is not in the group now; only where a group is named
   * @param fewer who is in the group now and would not be
   * @param words the filter in words; null if it cannot be read
   * @param shape the filter in parts; null if it cannot be read
   */
  record Tried(
      @Nullable String error,
      int from,
      int until,
      int count,
      @Nullable Integer more,
      @Nullable Integer fewer,
      List<PersonLine> sample,
      @Nullable String words,
      @Nullable ShapeView shape) {}

  // ---- reading

  @GetMapping("/api/groups")
  @Needs(value = Power.PEOPLE_READ, orGroupOwner = true)
  GroupsPage groups(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "") List<String> form,
      @RequestParam(defaultValue = "name") String sort,
      @RequestParam(defaultValue = "false") boolean descending,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit,
      @RequestParam(required = false) @Nullable Instant asOf) {
    Reached reached = Reached.by(viewer, world.at(asOf), world.now());
    List<Group> all = reached.directory().groups().stream().filter(g -> sees(viewer, g)).toList();
    String wanted = Folding.bare(find.strip());
    Comparator<GroupLine> order =
        switch (sort) {
          case "people" -> Comparator.comparing(GroupLine::people);
          case "form" -> Comparator.comparing(GroupLine::form);
          default -> Comparator.comparing(g -> Folding.bare(g.name()));
        };
    List<GroupLine> fitting =
        all.stream()
            .filter(g -> wanted.isEmpty() || Folding.bare(g.name()).contains(wanted))
            .filter(g -> form.isEmpty() || form.contains(PersonView.form(g)))
            .map(g -> line(reached, g))
            .sorted(descending ? order.reversed() : order)
            .toList();
    return new GroupsPage(
        fitting.size(),
        all.size(),
        Pages.of(fitting.stream(), offset, limit).toList(),
        reached.directory().at(),
        world.position());
  }

  private static boolean sees(Viewer viewer, Group group) {
    return viewer.authority().has(Power.PEOPLE_READ) || viewer.authority().owns(group.id());
  }

  private GroupLine line(Reached reached, Group group) {
    return new GroupLine(
        group.id().value().toString(),
        group.name(),
        PersonView.form(group),
        source(reached.directory(), group),
        reached.of(group.id()).count(reached.directory().members(group.id())),
        group.groups().size(),
        group.owners().stream()
            .flatMap(id -> reached.directory().person(id).stream())
            .map(p -> p.name().displayed())
            .toList());
  }

  private static @Nullable String source(DirectoryView directory, Group group) {
    return group.form() instanceof FactValue.Form.Mirrored mirrored
        ? PersonView.sourceName(directory, mirrored.source())
        : null;
  }

  @GetMapping("/api/groups/{id}")
  @Needs(value = Power.PEOPLE_READ, orGroupOwner = true)
  GroupPage group(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant asOf) {
    DirectoryView directory = world.at(asOf);
    Reached reached = Reached.by(viewer, directory, world.now()).of(new GroupId(id));
    Group group = seen(viewer, reached, id);
    Set<PersonId> everyone = directory.members(group.id());
    int people = reached.count(everyone);
    int departed = reached.countDeparted(everyone);
    boolean now = asOf == null;
    boolean editor = viewer.authority().has(Power.GROUPS_EDIT);
    return new GroupPage(
        id.toString(),
        group.name(),
        PersonView.form(group),
        group.form() instanceof FactValue.Form.ByFilter f ? f.filter() : null,
        group.form() instanceof FactValue.Form.ByFilter f
            ? directory.words(reached::sees).tell(f.filter())
            : null,
        source(directory, group),
        people,
        reached.count(directory.direct(group.id())),
        departed,
        everyone.size() - people - departed,
        group.groups().stream()
            .flatMap(nested -> directory.group(nested).stream())
            .sorted()
            .map(
                nested ->
                    new Nested(
                        nested.id().value().toString(),
                        nested.name(),
                        PersonView.form(nested),
                        reached.count(directory.members(nested.id()))))
            .toList(),
        directory.parents(group.id()).stream().map(p -> PersonView.ref(directory, p)).toList(),
        group.owners().stream()
            .flatMap(owner -> directory.person(owner).stream())
            .map(PersonLine::of)
            .toList(),
        mandates(directory, group.id()),
        now && group.listed() && (editor || viewer.authority().owns(group.id())),
        now && editor,
        directory.at(),
        world.position());
  }

  private static Group seen(Viewer viewer, Reached reached, UUID id) {
    return reached
        .directory()
        .group(new GroupId(id))
        .filter(g -> sees(viewer, g))
        .orElseThrow(() -> Refusal.of(Problem.absent("group")));
  }

  private static List<String> mandates(DirectoryView directory, GroupId id) {
    Set<GroupId> above = directory.above(id);
    return directory.mandates().stream()
        .filter(
            m -> m.holders().stream().anyMatch(h -> h instanceof GroupId g && above.contains(g)))
        .map(m -> m.terms().name())
        .toList();
  }

  /**
   * @param departed whether to list those who have departed, for whom it has no effect
   */
  @GetMapping("/api/groups/{id}/members")
  @Needs(value = Power.PEOPLE_READ, orGroupOwner = true)
  MembersPage members(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "false") boolean departed,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit,
      @RequestParam(required = false) @Nullable Instant asOf) {
    DirectoryView directory = world.at(asOf);
    Reached reached = Reached.by(viewer, directory, world.now()).of(new GroupId(id));
    Group group = seen(viewer, reached, id);
    String wanted = Folding.bare(find.strip());
    List<Person> people =
        directory.members(group.id()).stream()
            .flatMap(person -> directory.person(person).stream())
            .filter(reached::sees)
            .filter(p -> departed || p.status() != PersonStatus.DEPARTED)
            .filter(p -> wanted.isEmpty() || reached.finds(p, wanted))
            .sorted()
            .toList();
    Set<PersonId> direct = directory.direct(group.id());
    List<MemberLine> lines =
        Pages.of(people.stream(), offset, limit)
            .map(p -> member(reached, group, direct, p))
            .toList();
    return new MembersPage(people.size(), lines);
  }

  private MemberLine member(Reached reached, Group group, Set<PersonId> direct, Person person) {
    DirectoryView directory = reached.directory();
    List<GroupId> chain =
        directory.groupsOf(person.id()).stream()
            .filter(b -> b.group().equals(group.id()))
            .findFirst()
            .map(DirectoryView.Belonging::chain)
            .orElse(List.of());
    Instant until =
        world.look(
            (facts, now) ->
                facts
                    .at(new FactKey.Membership(group.id(), person.id()), directory.at())
                    .map(spell -> spell.until())
                    .filter(end -> end.isBefore(Moments.FOREVER))
                    .orElse(null));
    return new MemberLine(
        reached.line(person),
        direct.contains(person.id()),
        chain.stream()
            .filter(g -> !g.equals(group.id()))
            .map(g -> PersonView.ref(directory, g))
            .toList(),
        until);
  }

  @PostMapping("/api/filters/try")
  @Needs(Power.PEOPLE_READ)
  Tried tryFilter(Viewer viewer, @Valid @RequestBody Try wanted) {
    Reached reached = Reached.by(viewer, world.now(), world.now());
    DirectoryView directory = reached.directory();
    return switch (FilterParser.parse(wanted.filter(), directory.schema())) {
      case FilterParser.Parsed.Bad bad ->
          new Tried(bad.message(), bad.from(), bad.until(), 0, null, null, List.of(), null, null);
      case FilterParser.Parsed.Good good -> {
        Set<PersonId> fitting = directory.matching(good.filter());
        Set<PersonId> before =
            wanted.group() == null ? null : directory.direct(new GroupId(wanted.group()));
        yield new Tried(
            null,
            0,
            0,
            reached.count(fitting),
            before == null ? null : reached.count(without(fitting, before)),
            before == null ? null : reached.count(without(before, fitting)),
            fitting.stream()
                .flatMap(p -> directory.person(p).stream())
                .filter(p -> p.status() != PersonStatus.DEPARTED)
                .filter(reached::sees)
                .sorted()
                .limit(8)
                .map(reached::line)
                .toList(),
            directory.words(reached::sees).tell(wanted.filter()),
            ShapeView.of(FilterShape.of(good.filter())));
      }
    };
  }

  private static Set<PersonId> without(Set<PersonId> all, Set<PersonId> left) {
    Set<PersonId> rest = new HashSet<>(all);
    rest.removeAll(left);
    return rest;
  }

  // ---- acting

  @PostMapping("/api/groups")
  @Needs(value = Power.GROUPS_EDIT, foresees = true)
  Receipt make(Viewer viewer, @Valid @RequestBody Make form, IdempotencyKey repeatKey) {
    FactValue.Form wanted =
        form.filter() == null
            ? new FactValue.Form.Listed()
            : new FactValue.Form.ByFilter(form.filter().strip());
    return act(
        viewer,
        repeatKey.value(),
        GroupId.class,
        moment -> GroupDecisions.make(moment, form.name(), wanted, reason(form.reason())));
  }

  @PutMapping("/api/groups/{id}/name")
  @Needs(value = Power.GROUPS_EDIT, foresees = true)
  Receipt rename(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody Rename form) {
    return act(
        viewer,
        null,
        GroupId.class,
        moment -> GroupDecisions.rename(moment, new GroupId(id), form.base(), form.name()));
  }

  @PostMapping("/api/groups/{id}/members")
  @Needs(value = Power.GROUPS_EDIT, orGroupOwner = true, foresees = true)
  Receipt add(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody Members form,
      IdempotencyKey repeatKey) {
    List<ObjectId> members = new ArrayList<>();
    form.people().forEach(person -> members.add(new PersonId(person)));
    form.groups().forEach(group -> members.add(new GroupId(group)));
    return act(
        viewer,
        repeatKey.value(),
        Integer.class,
        moment ->
            GroupDecisions.add(
                moment, new GroupId(id), members, form.until(), reason(form.reason())));
  }

  @DeleteMapping("/api/groups/{id}/members/{kind}/{member}")
  @Needs(value = Power.GROUPS_EDIT, orGroupOwner = true, foresees = true)
  Receipt remove(
      Viewer viewer,
      @PathVariable UUID id,
      @PathVariable String kind,
      @PathVariable UUID member,
      @RequestParam(defaultValue = "") @Size(max = 1000) String reason) {
    ObjectId who = ObjectId.of(ObjectKind.of(kind), member);
    return act(
        viewer,
        null,
        GroupId.class,
        moment -> GroupDecisions.remove(moment, new GroupId(id), who, reason));
  }

  @PutMapping("/api/groups/{id}/filter")
  @Needs(value = Power.GROUPS_EDIT, foresees = true)
  Receipt setFilter(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody Filter form) {
    return act(
        viewer,
        null,
        GroupId.class,
        moment ->
            GroupDecisions.setFilter(
                moment, new GroupId(id), form.base(), form.filter(), reason(form.reason())));
  }

  @PutMapping("/api/groups/{id}/owners")
  @Needs(value = Power.GROUPS_EDIT, foresees = true)
  Receipt setOwners(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody Owners form) {
    return act(
        viewer,
        null,
        GroupId.class,
        moment ->
            GroupDecisions.setOwners(
                moment, new GroupId(id), people(form.base()), people(form.owners())));
  }

  @DeleteMapping("/api/groups/{id}")
  @Needs(value = Power.GROUPS_EDIT, foresees = true)
  Receipt end(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(defaultValue = "") @Size(max = 1000) String reason) {
    return act(
        viewer, null, GroupId.class, moment -> GroupDecisions.end(moment, new GroupId(id), reason));
  }

  private <T> Receipt act(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      Function<eleutheria.core.directory.Moment, Outcome<T>> decision) {
    return commands.perform(viewer, repeatKey, type, decision);
  }

  private static List<PersonId> people(List<UUID> ids) {
    return ids.stream().map(PersonId::new).toList();
  }

  private static String reason(@Nullable String reason) {
    return reason == null ? "" : reason.strip();
  }
}
