package eleutheria.server.drafts;

import static eleutheria.server.tables.Tables.DRAFT_EDIT;
import static eleutheria.server.tables.Tables.LEDGER_OBJECT;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.SecondYes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.drafts.Consequences;
import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftDecisions;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.DraftStage;
import eleutheria.core.drafts.Marks;
import eleutheria.core.drafts.Overlay;
import eleutheria.core.drafts.Revert;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.FactKind;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.ledger.ThingNames;
import eleutheria.server.problems.ProblemView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.LedgerStore;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.ConsequencesView;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Drafts and their consequences as people read them, cut to the reader's reach. */
@Component
class DraftReader {
  /** So many rows of a moment are told at once. */
  private static final int ROWS = 200;

  /** So many people of a row are named. */
  private static final int NAMED = 3;

  private static final int MOST_OTHERS = 100;
  private static final int MOST_LISTED = 100;
  private static final int MOST_OBJECTS = 500;

  private final DSLContext db;
  private final DraftStore store;
  private final LedgerStore ledger;
  private final World world;
  private final Organisation organisation;
  private final Clock clock;
  // The same for every version of draft and state, until something begins or ends by itself.
  private final Cache<Weighed, Consequences> weighed =
      Caffeine.newBuilder()
          .maximumSize(24)
          .expireAfterWrite(Duration.ofMinutes(1))
          .softValues()
          .build();

  private record Weighed(DraftId draft, long version, long position, Instant until) {}

  DraftReader(
      DSLContext db,
      DraftStore store,
      LedgerStore ledger,
      World world,
      Organisation organisation,
      Clock clock) {
    this.db = db;
    this.store = store;
    this.ledger = ledger;
    this.world = world;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** A draft that the reader may see. */
  Draft seen(Viewer viewer, UUID id) {
    return store
        .find(new DraftId(id))
        .filter(draft -> sees(viewer, draft))
        .orElseThrow(() -> Refusal.of(Problem.absent("draft")));
  }

  /**
   * Whoever has to do with it; colleagues who can change things, where it is shared; whoever could
   * give the yes that it waits for; and of what is over, whoever reads the ledger.
   */
  boolean sees(Viewer viewer, Draft draft) {
    boolean involved =
        draft.holder().equals(viewer.person())
            || draft.openedBy().equals(viewer.person())
            || (draft.plan() != null && draft.plan().publisher().equals(viewer.person()));
    if (involved) {
      return true;
    }
    return switch (draft.stage()) {
      case OPEN, HELD, SCHEDULED -> draft.shared() && DraftDecisions.colleague(viewer.authority());
      case WAITING ->
          (draft.shared() && DraftDecisions.colleague(viewer.authority()))
              || mayPublish(viewer, draft);
      case PUBLISHED -> viewer.authority().has(Power.LEDGER_READ);
      // What was never shared nor done stays whose it was.
      case DROPPED -> draft.shared() && viewer.authority().has(Power.LEDGER_READ);
    };
  }

  // ---- lists

  DraftViews.Tray tray(Viewer viewer) {
    DirectoryView directory = world.now();
    List<DraftStore.Listed> all =
        store.listed(viewer.person(), MOST_LISTED).stream()
            .filter(
                d ->
                    d.draft().holder().equals(viewer.person())
                        || (d.draft().shared() && sees(viewer, d.draft())))
            .toList();
    DraftStore.Listed open =
        all.stream()
            .filter(d -> d.gathers() && d.draft().stage().editable())
            .findFirst()
            .orElse(null);
    return new DraftViews.Tray(
        open == null ? null : open(viewer, directory, open),
        all.stream()
            .filter(d -> d.draft().holder().equals(viewer.person()))
            .map(d -> line(viewer, directory, d.draft(), d.edits()))
            .toList(),
        all.stream()
            .filter(d -> !d.draft().holder().equals(viewer.person()))
            .map(d -> line(viewer, directory, d.draft(), d.edits()))
            .toList());
  }

  private static DraftViews.DraftLine line(
      Viewer viewer, DirectoryView directory, Draft draft, int edits) {
    return new DraftViews.DraftLine(
        draft.id().value().toString(),
        draft.name(),
        draft.stage().word(),
        person(directory, draft.holder()),
        draft.holder().equals(viewer.person()),
        draft.shared(),
        draft.openedAt(),
        draft.plan() == null ? null : draft.plan().at(),
        edits);
  }

  private static PersonLine person(DirectoryView directory, PersonId id) {
    return directory
        .person(id)
        .map(PersonLine::named)
        .orElseThrow(() -> new IllegalStateException("nobody: " + id));
  }

  private DraftViews.OpenDraft open(
      Viewer viewer, DirectoryView directory, DraftStore.Listed listed) {
    Draft draft = listed.draft();
    List<DraftEdit> edits = store.edits(draft);
    return weigh(
        draft,
        edits,
        (overlay, now, consequences, at) -> {
          AccessReach reach = new AccessReach(viewer.authority(), world.now());
          List<Consequences.At> moments = consequences.moments();
          boolean first = !moments.isEmpty() && !moments.getFirst().at().isAfter(at);
          Consequences.At later =
              moments.size() > (first ? 1 : 0) ? moments.get(first ? 1 : 0) : null;
          ConsequencesTold.Cut cut = new ConsequencesTold.Cut(reach, now);
          return new DraftViews.OpenDraft(
              line(viewer, directory, draft, listed.edits()),
              (int) overlay.told().stream().filter(Overlay.Result::clashes).count(),
              first ? cut.counts(moments.getFirst()) : ConsequencesTold.NOTHING,
              later == null ? null : cut.counts(later),
              later == null ? null : later.at());
        });
  }

  // ---- weighing

  private interface Query<T> {
    T ask(Overlay overlay, PortalView now, Consequences consequences, Instant at);
  }

  private <T> T weigh(Draft draft, List<DraftEdit> edits, Query<T> query) {
    return world.look(
        (facts, now) -> {
          Instant at = Moments.next(clock.instant(), now.directory().at());
          Overlay overlay = Overlay.of(facts, edits, at);
          Weighed key =
              new Weighed(draft.id(), draft.version(), world.position(), now.directory().until());
          Consequences known = weighed.getIfPresent(key);
          if (known == null) {
            known = Consequences.of(now, overlay, at);
            weighed.put(key, known);
          }
          return query.ask(overlay, now, known, at);
        });
  }

  // ---- one draft

  DraftViews.DraftView draft(Viewer viewer, Draft draft) {
    List<DraftEdit> edits = store.edits(draft);
    Map<Integer, Instant> made =
        db.select(DRAFT_EDIT.SEQ, DRAFT_EDIT.MADE_AT)
            .from(DRAFT_EDIT)
            .where(DRAFT_EDIT.DRAFT_ID.eq(draft.id().value()))
            .fetchMap(DRAFT_EDIT.SEQ, DRAFT_EDIT.MADE_AT);
    List<DraftStore.Comment> comments = store.comments(draft.id());
    List<DraftViews.ClashView> clashing =
        draft.stage().over() ? List.of() : clashing(viewer, draft, edits);
    DraftViews.RevertView reverts =
        draft.reverts() == null ? null : revert(draft.reverts(), viewer);
    DraftId gathering = store.openOf(viewer.person());
    DirectoryView directory = world.now();
    boolean holds = draft.holder().equals(viewer.person());
    return new DraftViews.DraftView(
        line(viewer, directory, draft, edits.size()),
        person(directory, draft.openedBy()),
        draft.version(),
        holds && draft.stage().editable(),
        draft.id().equals(gathering),
        edits(draft, edits, made),
        draft.plan() == null
            ? null
            : new DraftViews.PlanView(
                person(directory, draft.plan().publisher()),
                draft.plan().reason(),
                draft.plan().at(),
                draft.plan().revert(),
                draft.plan().tell()),
        draft.heldWhy(),
        draft.position(),
        reverts,
        comments.stream()
            .map(
                c ->
                    new DraftViews.CommentView(
                        person(directory, c.author()).displayed(), c.at(), c.text()))
            .toList(),
        clashing);
  }

  private List<DraftViews.EditView> edits(
      Draft draft, List<DraftEdit> edits, Map<Integer, Instant> made) {
    return world.look(
        (facts, now) -> {
          Instant at = Moments.next(clock.instant(), now.directory().at());
          // What is over is told as it was meant; nothing is laid over the facts any more.
          Overlay overlay = Overlay.of(facts, draft.stage().over() ? List.of() : edits, at);
          Map<Integer, Overlay.Result> told =
              overlay.told().stream().collect(Collectors.toMap(Overlay.Result::seq, t -> t));
          Phrases phrases = new Phrases(overlay.after());
          ThingNames names = new ThingNames(overlay.after());
          return edits.stream()
              .map(
                  edit -> {
                    List<Phrases.Phrase> all = phrases.of(edit);
                    Overlay.Result fate = told.get(edit.seq());
                    return new DraftViews.EditView(
                        edit.seq(),
                        names.of(edit.author()),
                        made.getOrDefault(edit.seq(), edit.planned()),
                        edit.act().name(),
                        objects(edit),
                        all.stream().limit(Phrases.MOST).toList(),
                        Math.max(0, all.size() - Phrases.MOST),
                        fate == null ? "applies" : word(fate.fate()),
                        fate == null || fate.reason() == null ? null : word(fate.reason()),
                        fate == null || fate.gone() == null ? null : names.of(fate.gone()));
                  })
              .toList();
        });
  }

  private static List<String> objects(DraftEdit edit) {
    return Stream.concat(
            edit.act().objects().stream(),
            edit.edits().stream().flatMap(each -> each.key().objects().stream()))
        .map(thing -> thing.value().toString())
        .distinct()
        .limit(MOST_OBJECTS)
        .toList();
  }

  private static String word(Enum<?> value) {
    return value.name().toLowerCase(Locale.ROOT);
  }

  /** Living drafts of others, and others of the reader, that change the same keys. */
  private List<DraftViews.ClashView> clashing(Viewer viewer, Draft draft, List<DraftEdit> edits) {
    Map<FactKey, Integer> keys = new HashMap<>();
    edits.forEach(e -> e.edits().forEach(each -> keys.putIfAbsent(each.key(), e.seq())));
    List<DraftViews.ClashView> found = new ArrayList<>();
    if (keys.isEmpty()) {
      return found;
    }
    DirectoryView directory = world.now();
    for (Draft other : store.living(MOST_OTHERS)) {
      if (other.id().equals(draft.id())) {
        continue;
      }
      Set<Integer> met = new TreeSet<>();
      for (DraftEdit edit : store.edits(other)) {
        for (Edit each : edit.edits()) {
          Integer own = keys.get(each.key());
          if (own != null) {
            met.add(own);
          }
        }
      }
      if (!met.isEmpty()) {
        boolean sees = sees(viewer, other);
        found.add(
            new DraftViews.ClashView(
                sees ? other.id().value().toString() : null,
                sees ? other.name() : "",
                person(directory, other.holder()),
                List.copyOf(met)));
      }
    }
    return found;
  }

  // ---- reverting

  private DraftViews.RevertView revert(long position, Viewer viewer) {
    List<Edit> changes = ledger.edits(db, position);
    int since =
        db.selectDistinct(LEDGER_OBJECT.POSITION)
            .from(LEDGER_OBJECT)
            .where(
                LEDGER_OBJECT.POSITION.gt(position),
                LEDGER_OBJECT.OBJECT_ID.in(
                    changes.stream()
                        .flatMap(e -> e.key().objects().stream())
                        .map(ObjectId::value)
                        .distinct()
                        .limit(500)
                        .toList()))
            .limit(1_000)
            .fetch()
            .size();
    Draft published = store.publishedAt(position).orElse(null);
    return world.look(
        (facts, now) -> {
          Instant at = Moments.next(clock.instant(), now.directory().at());
          Revert back = Revert.of(facts, changes, at, UUID::randomUUID, viewer.person(), "");
          ThingNames names = new ThingNames(facts);
          Map<String, DraftViews.RevertLine> lines = new LinkedHashMap<>();
          for (Revert.Line told : back.told()) {
            ObjectId subject = told.key().subject();
            FactKind kind = FactKind.of(told.key());
            String name = subject == null ? "" : names.of(subject);
            lines.merge(
                kind + " " + name + told.fate(),
                new DraftViews.RevertLine(kind, name, word(told.fate()), 1),
                (one, more) ->
                    new DraftViews.RevertLine(
                        one.kind(), one.subject(), one.fate(), one.count() + 1));
          }
          return new DraftViews.RevertView(
              position,
              published == null ? "" : published.name(),
              since,
              lines.values().stream().limit(ROWS).toList());
        });
  }

  // ---- the sheet

  /** What a reader is shown, with what it stands for. */
  record Sheet(ConsequencesView view, Marks marks) {}

  ConsequencesView consequences(Viewer viewer, Draft draft, @Nullable String before) {
    List<DraftEdit> edits = store.edits(draft);
    // One that is on hold tells what has come since it was set for its moment.
    String since =
        before == null && draft.stage() == DraftStage.HELD && draft.plan() != null
            ? draft.plan().seen()
            : before;
    Marks seen = store.seen(draft.id(), since);
    Sheet sheet =
        weigh(
            draft,
            edits,
            (overlay, now, consequences, at) -> {
              ConsequencesTold.Cut cut =
                  new ConsequencesTold.Cut(new AccessReach(viewer.authority(), world.now()), now);
              ThingNames names = new ThingNames(overlay.after());
              List<ConsequencesView.MomentView> moments =
                  ConsequencesTold.moments(consequences, at, cut, names, now, seen, NAMED);
              Marks marks = consequences.marks();
              return new Sheet(
                  new ConsequencesView(
                      at,
                      now.access().active().size(),
                      "",
                      seen != null && !marks.within(seen),
                      cut.anything(),
                      moments,
                      items(problems(viewer, draft, overlay, now, consequences, at))),
                  marks);
            });
    String digest = store.saw(draft.id(), sheet.marks(), clock.instant());
    ConsequencesView view = sheet.view();
    return new ConsequencesView(
        view.at(),
        view.people(),
        digest,
        view.grown(),
        view.cut(),
        view.moments(),
        view.problems());
  }

  /** What would keep this viewer from publishing it, clashes aside. */
  private List<Problem> problems(
      Viewer viewer,
      Draft draft,
      Overlay overlay,
      PortalView now,
      Consequences consequences,
      Instant at) {
    if (overlay.edits().isEmpty()) {
      return List.of();
    }
    Moment moment =
        new Moment(
                overlay.before(),
                now.directory(),
                at,
                organisation.zone(),
                UUID::randomUUID,
                viewer.authority())
            .with(AccessView.class, now.access());
    boolean second =
        draft.stage() == DraftStage.WAITING
            && draft.plan() != null
            && !draft.plan().publisher().equals(viewer.person());
    return DraftDecisions.problems(moment, overlay, consequences).stream()
        .filter(problem -> !(second && problem.code().equals(SecondYes.CODE)))
        .toList();
  }

  /** Whether a viewer could publish it as it stands. */
  boolean mayPublish(Viewer viewer, Draft draft) {
    return weigh(
        draft,
        store.edits(draft),
        (overlay, now, consequences, at) ->
            problems(viewer, draft, overlay, now, consequences, at).isEmpty());
  }

  static List<ProblemView.Item> items(List<Problem> problems) {
    return problems.stream().map(ProblemView.Item::of).toList();
  }

  // ---- the list behind a count

  /**
   * Everyone behind one count.
   *
   * @param wantedAt the moment; null for the publishing
   * @param thing null for everyone of a sign
   */
  DraftViews.PeopleView people(
      Viewer viewer,
      Draft draft,
      @Nullable Instant wantedAt,
      String sign,
      @Nullable ObjectId thing,
      String find,
      int offset,
      int limit) {
    String wanted = Folding.bare(find.strip());
    return weigh(
        draft,
        store.edits(draft),
        (overlay, now, consequences, instant) -> {
          Consequences.At at =
              consequences.moments().stream()
                  .filter(
                      m -> wantedAt == null ? !m.at().isAfter(instant) : m.at().equals(wantedAt))
                  .findFirst()
                  .orElse(null);
          if (at == null) {
            return new DraftViews.PeopleView(0, List.of());
          }
          AccessReach reach = new AccessReach(viewer.authority(), world.now());
          ConsequencesTold.Cut cut = new ConsequencesTold.Cut(reach, now);
          Map<? extends ObjectId, Set<PersonId>> side = side(at, sign);
          Set<PersonId> all =
              thing == null ? cut.all(side) : cut.of(thing, side.getOrDefault(thing, Set.of()));
          List<Person> people =
              all.stream()
                  .flatMap(id -> now.directory().person(id).stream())
                  .filter(
                      p -> wanted.isEmpty() || Folding.bare(p.name().displayed()).contains(wanted))
                  .sorted()
                  .toList();
          return new DraftViews.PeopleView(
              people.size(),
              people.stream()
                  .skip(Math.max(0, offset))
                  .limit(limit)
                  .map(person -> row(reach, at, side, sign, thing, person))
                  .toList());
        });
  }

  private static DraftViews.PersonRow row(
      AccessReach reach,
      Consequences.At at,
      Map<? extends ObjectId, Set<PersonId>> side,
      String sign,
      @Nullable ObjectId thing,
      Person person) {
    Collection<? extends ObjectId> things =
        thing != null
            ? List.of(thing)
            : side.entrySet().stream()
                .filter(e -> e.getValue().contains(person.id()))
                .map(Map.Entry::getKey)
                .toList();
    Consequences.Rest rest =
        sign.equals("keep") && thing instanceof EntitlementId e
            ? at.rest().getOrDefault(e, Map.of()).get(person.id())
            : null;
    return new DraftViews.PersonRow(
        PersonLine.by(reach, person),
        things.stream()
            .flatMap(t -> at.because(t, Set.of(person.id())).stream())
            .distinct()
            .sorted()
            .toList(),
        rest == null ? List.of() : ConsequencesTold.sources(rest),
        rest == null ? null : rest.until());
  }

  private static Map<? extends ObjectId, Set<PersonId>> side(Consequences.At at, String sign) {
    return switch (sign) {
      case "gain" -> at.gain();
      case "lose" -> at.loss();
      case "keep" -> at.keep();
      case "ends" -> at.ends();
      case "back" -> at.back();
      case "last" -> ConsequencesTold.last(at);
      case "more" -> at.more();
      case "less" -> at.less();
      case "moved" -> ConsequencesTold.moved(at);
      case "met" -> ConsequencesTold.met(at);
      default -> throw new IllegalArgumentException("no such sign: " + sign);
    };
  }
}
