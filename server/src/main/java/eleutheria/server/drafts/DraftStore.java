package eleutheria.server.drafts;

import static eleutheria.server.tables.Tables.DRAFT;
import static eleutheria.server.tables.Tables.DRAFT_COMMENT;
import static eleutheria.server.tables.Tables.DRAFT_EDIT;
import static eleutheria.server.tables.Tables.DRAFT_SEEN;
import static eleutheria.server.tables.Tables.OPEN_DRAFT;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.DraftStage;
import eleutheria.core.drafts.Marks;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectForUpdateStep;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Drafts as rows. Whatever changes one counts its version up, holding its row. */
@Repository
class DraftStore {
  /** So many states that somebody has seen are kept of each draft. */
  private static final int SEEN = 8;

  private final DSLContext db;
  // A draft's edits never change for one version of it.
  private final Cache<Versioned, List<DraftEdit>> read =
      Caffeine.newBuilder().maximumSize(64).softValues().build();

  private record Versioned(DraftId id, long version) {}

  /** A remark on a draft. */
  record Comment(PersonId author, Instant at, String text) {}

  DraftStore(DSLContext db) {
    this.db = db;
  }

  Optional<Draft> find(DraftId id) {
    return list(DRAFT.ID.eq(id.value()), 1).stream().findFirst();
  }

  /** Holds the draft's row until the transaction ends. */
  Optional<Draft> lock(DraftId id) {
    SelectForUpdateStep<? extends Record> query =
        db.selectFrom(DRAFT).where(DRAFT.ID.eq(id.value()));
    return Optional.ofNullable(query.forUpdate().fetchOne()).map(DraftStore::draft);
  }

  /** Those that someone holds, the newest first. */
  List<Draft> heldBy(PersonId person, int most) {
    return list(
        DRAFT
            .HOLDER_ID
            .eq(person.value())
            .and(DRAFT.STAGE.notIn(words(DraftStage.PUBLISHED, DraftStage.DROPPED))),
        most);
  }

  /**
   * A draft in a list.
   *
   * @param edits how many it has
   * @param gathers whether it gathers what the reader does
   */
  record Listed(Draft draft, int edits, boolean gathers) {}

  /** Those that someone holds and those that others share, the newest first, in one query. */
  List<Listed> listed(PersonId person, int most) {
    Field<Integer> edits =
        DSL.field(DSL.select(DSL.count()).from(DRAFT_EDIT).where(DRAFT_EDIT.DRAFT_ID.eq(DRAFT.ID)));
    Field<UUID> gathers =
        DSL.field(
            DSL.select(OPEN_DRAFT.DRAFT_ID)
                .from(OPEN_DRAFT)
                .where(OPEN_DRAFT.PERSON_ID.eq(person.value())));
    return db.select(DRAFT.asterisk(), edits, gathers)
        .from(DRAFT)
        .where(
            DRAFT.HOLDER_ID.eq(person.value()).or(DRAFT.SHARED.isTrue()),
            DRAFT.STAGE.notIn(words(DraftStage.PUBLISHED, DraftStage.DROPPED)))
        .orderBy(DRAFT.HOLDER_ID.eq(person.value()).desc(), DRAFT.OPENED_AT.desc(), DRAFT.ID)
        .limit(most)
        .fetch(
            r -> {
              Draft draft = draft(r.into(DRAFT));
              return new Listed(draft, r.get(edits), draft.id().value().equals(r.get(gathers)));
            });
  }

  List<Draft> at(Collection<DraftStage> stages, int most) {
    return list(DRAFT.STAGE.in(stages.stream().map(DraftStage::word).toList()), most);
  }

  /** The draft that an entry has published. */
  Optional<Draft> publishedAt(long position) {
    return list(DRAFT.PUBLISHED_POSITION.eq(position), 1).stream().findFirst();
  }

  /** What puts an entry back, the newest first. */
  List<Draft> puttingBack(long position) {
    return list(DRAFT.REVERTS.eq(position), 10);
  }

  /** All that is not over yet, whoever holds it. */
  List<Draft> living(int most) {
    return list(DRAFT.STAGE.notIn(words(DraftStage.PUBLISHED, DraftStage.DROPPED)), most);
  }

  private static List<String> words(DraftStage... stages) {
    List<String> words = new ArrayList<>();
    for (DraftStage stage : stages) {
      words.add(stage.word());
    }
    return words;
  }

  private List<Draft> list(Condition condition, int most) {
    return db.selectFrom(DRAFT)
        .where(condition)
        .orderBy(DRAFT.OPENED_AT.desc(), DRAFT.ID)
        .limit(most)
        .fetch(DraftStore::draft);
  }

  private static Draft draft(Record r) {
    UUID publisher = r.get(DRAFT.PUBLISHER_ID);
    String seen = r.get(DRAFT.SEEN);
    return new Draft(
        new DraftId(r.get(DRAFT.ID)),
        r.get(DRAFT.NAME),
        new PersonId(r.get(DRAFT.HOLDER_ID)),
        new PersonId(r.get(DRAFT.OPENED_BY)),
        r.get(DRAFT.OPENED_AT),
        DraftStage.of(r.get(DRAFT.STAGE)),
        r.get(DRAFT.SHARED),
        r.get(DRAFT.VERSION),
        publisher == null
            ? null
            : new Draft.Plan(
                new PersonId(publisher),
                r.get(DRAFT.REASON),
                r.get(DRAFT.PUBLISH_AT),
                r.get(DRAFT.REVERT_AT),
                r.get(DRAFT.TOLD),
                seen == null ? "" : seen),
        r.get(DRAFT.HELD_WHY),
        r.get(DRAFT.PUBLISHED_POSITION),
        r.get(DRAFT.REVERTS));
  }

  void open(DraftId id, String name, PersonId person, Instant at, @Nullable Long reverts) {
    db.insertInto(DRAFT)
        .set(DRAFT.ID, id.value())
        .set(DRAFT.NAME, name)
        .set(DRAFT.HOLDER_ID, person.value())
        .set(DRAFT.OPENED_BY, person.value())
        .set(DRAFT.OPENED_AT, at)
        .set(DRAFT.STAGE, DraftStage.OPEN.word())
        .set(DRAFT.SHARED, false)
        .set(DRAFT.VERSION, 1L)
        .set(DRAFT.NEXT_SEQ, 1)
        .set(DRAFT.REASON, "")
        .set(DRAFT.TOLD, false)
        .set(DRAFT.REVERTS, reverts)
        .execute();
  }

  void describe(DraftId id, String name, boolean shared) {
    db.update(DRAFT)
        .set(DRAFT.NAME, name)
        .set(DRAFT.SHARED, shared)
        .where(DRAFT.ID.eq(id.value()))
        .execute();
  }

  void handTo(DraftId id, PersonId holder) {
    db.deleteFrom(OPEN_DRAFT).where(OPEN_DRAFT.DRAFT_ID.eq(id.value())).execute();
    db.update(DRAFT)
        .set(DRAFT.HOLDER_ID, holder.value())
        .set(DRAFT.VERSION, DRAFT.VERSION.plus(1L))
        .where(DRAFT.ID.eq(id.value()))
        .execute();
  }

  /** Moves a draft on; whatever the new stage does not need is forgotten. */
  void stage(
      DraftId id,
      DraftStage stage,
      Draft.@Nullable Plan plan,
      @Nullable String heldWhy,
      @Nullable Long position) {
    db.update(DRAFT)
        .set(DRAFT.STAGE, stage.word())
        .set(DRAFT.PUBLISHER_ID, plan == null ? null : plan.publisher().value())
        .set(DRAFT.REASON, plan == null ? "" : plan.reason())
        .set(DRAFT.PUBLISH_AT, plan == null ? null : plan.at())
        .set(DRAFT.REVERT_AT, plan == null ? null : plan.revert())
        .set(DRAFT.TOLD, plan != null && plan.tell())
        .set(DRAFT.SEEN, plan == null || plan.seen().isEmpty() ? null : plan.seen())
        .set(DRAFT.HELD_WHY, heldWhy)
        .set(DRAFT.PUBLISHED_POSITION, position)
        .set(DRAFT.VERSION, DRAFT.VERSION.plus(1L))
        .where(DRAFT.ID.eq(id.value()))
        .execute();
    if (stage.over()) {
      db.deleteFrom(OPEN_DRAFT).where(OPEN_DRAFT.DRAFT_ID.eq(id.value())).execute();
    }
  }

  // ---- edits

  List<DraftEdit> edits(Draft draft) {
    Versioned key = new Versioned(draft.id(), draft.version());
    List<DraftEdit> known = read.getIfPresent(key);
    if (known == null) {
      known =
          db.selectFrom(DRAFT_EDIT)
              .where(DRAFT_EDIT.DRAFT_ID.eq(draft.id().value()))
              .orderBy(DRAFT_EDIT.SEQ)
              .fetch(
                  r -> {
                    DraftJson.Content content = DraftJson.read(r.get(DRAFT_EDIT.JSON));
                    return new DraftEdit(
                        r.get(DRAFT_EDIT.SEQ),
                        new PersonId(r.get(DRAFT_EDIT.AUTHOR_ID)),
                        r.get(DRAFT_EDIT.PLANNED_AT),
                        content.act(),
                        content.edits());
                  });
      read.put(key, known);
    }
    return known;
  }

  /**
   * What came of a command that a draft has gathered before.
   *
   * @param asked a hash of what exactly was asked for
   */
  record Repeated(int seq, @Nullable String asked, @Nullable String result) {}

  /** A command with its key, and what came of it. */
  record Command(@Nullable String repeatKey, @Nullable String asked, String result) {
    static final Command NONE = new Command(null, null, "");
  }

  /** What this very command has made before; null if it has not been here. */
  @Nullable Repeated repeated(DraftId id, String repeatKey) {
    return db.select(DRAFT_EDIT.SEQ, DRAFT_EDIT.ASKED, DRAFT_EDIT.RESULT)
        .from(DRAFT_EDIT)
        .where(DRAFT_EDIT.DRAFT_ID.eq(id.value()), DRAFT_EDIT.REPEAT_KEY.eq(repeatKey))
        .fetchOne(r -> new Repeated(r.value1(), r.value2(), r.value3()));
  }

  /** The number that the next edit gets; only while holding the draft's row. */
  int nextSeq(DraftId id) {
    return db.select(DRAFT.NEXT_SEQ)
        .from(DRAFT)
        .where(DRAFT.ID.eq(id.value()))
        .fetchSingle(DRAFT.NEXT_SEQ);
  }

  /** Adds edits, and removes those that they replace. */
  void change(
      DraftId id, List<DraftEdit> added, Collection<Integer> gone, Instant now, Command command) {
    if (!gone.isEmpty()) {
      db.deleteFrom(DRAFT_EDIT)
          .where(DRAFT_EDIT.DRAFT_ID.eq(id.value()), DRAFT_EDIT.SEQ.in(gone))
          .execute();
    }
    int next = 0;
    for (DraftEdit edit : added) {
      db.insertInto(DRAFT_EDIT)
          .set(DRAFT_EDIT.DRAFT_ID, id.value())
          .set(DRAFT_EDIT.SEQ, edit.seq())
          .set(DRAFT_EDIT.AUTHOR_ID, edit.author().value())
          .set(DRAFT_EDIT.MADE_AT, now)
          .set(DRAFT_EDIT.PLANNED_AT, edit.planned())
          .set(DRAFT_EDIT.ACT, edit.act().name().word())
          .set(DRAFT_EDIT.JSON, DraftJson.write(edit.act(), edit.edits()))
          .set(DRAFT_EDIT.REPEAT_KEY, command.repeatKey())
          .set(DRAFT_EDIT.ASKED, command.asked())
          .set(DRAFT_EDIT.RESULT, command.result())
          .execute();
      next = edit.seq() + 1;
    }
    var update = db.update(DRAFT).set(DRAFT.VERSION, DRAFT.VERSION.plus(1L));
    if (next > 0) {
      update = update.set(DRAFT.NEXT_SEQ, next);
    }
    update.where(DRAFT.ID.eq(id.value())).execute();
  }

  /** What a draft's edits are after a change, so that they need not be read again. */
  void changed(Draft before, List<DraftEdit> edits) {
    Versioned next = new Versioned(before.id(), before.version() + 1);
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCommit() {
            read.put(next, List.copyOf(edits));
          }
        });
  }

  // ---- what is gathered into

  @Nullable DraftId openOf(PersonId person) {
    UUID id =
        db.select(OPEN_DRAFT.DRAFT_ID)
            .from(OPEN_DRAFT)
            .where(OPEN_DRAFT.PERSON_ID.eq(person.value()))
            .fetchOne(OPEN_DRAFT.DRAFT_ID);
    return id == null ? null : new DraftId(id);
  }

  void gatherInto(PersonId person, @Nullable DraftId draft) {
    if (draft == null) {
      db.deleteFrom(OPEN_DRAFT).where(OPEN_DRAFT.PERSON_ID.eq(person.value())).execute();
    } else {
      // Somebody may open two at once, on two machines; the later one gathers.
      db.insertInto(OPEN_DRAFT)
          .set(OPEN_DRAFT.PERSON_ID, person.value())
          .set(OPEN_DRAFT.DRAFT_ID, draft.value())
          .onDuplicateKeyUpdate()
          .set(OPEN_DRAFT.DRAFT_ID, draft.value())
          .execute();
    }
  }

  // ---- comments

  List<Comment> comments(DraftId id) {
    return db.selectFrom(DRAFT_COMMENT)
        .where(DRAFT_COMMENT.DRAFT_ID.eq(id.value()))
        .orderBy(DRAFT_COMMENT.ID)
        .limit(200)
        .fetch(
            r ->
                new Comment(
                    new PersonId(r.get(DRAFT_COMMENT.AUTHOR_ID)),
                    r.get(DRAFT_COMMENT.SAID_AT),
                    r.get(DRAFT_COMMENT.TEXT)));
  }

  void comment(DraftId id, PersonId author, Instant at, String text) {
    db.insertInto(DRAFT_COMMENT)
        .set(DRAFT_COMMENT.DRAFT_ID, id.value())
        .set(DRAFT_COMMENT.AUTHOR_ID, author.value())
        .set(DRAFT_COMMENT.SAID_AT, at)
        .set(DRAFT_COMMENT.TEXT, text)
        .execute();
  }

  // ---- what was seen

  /** Keeps what somebody is shown; its digest stands for it. */
  String saw(DraftId id, Marks marks, Instant now) {
    String digest = marks.digest();
    if (!db.fetchExists(
        DRAFT_SEEN, DRAFT_SEEN.DRAFT_ID.eq(id.value()).and(DRAFT_SEEN.DIGEST.eq(digest)))) {
      db.insertInto(DRAFT_SEEN)
          .set(DRAFT_SEEN.DRAFT_ID, id.value())
          .set(DRAFT_SEEN.DIGEST, digest)
          .set(DRAFT_SEEN.SEEN_AT, now)
          .set(DRAFT_SEEN.MARKS, marks.bytes())
          .onDuplicateKeyIgnore()
          .execute();
      List<String> old =
          db.select(DRAFT_SEEN.DIGEST)
              .from(DRAFT_SEEN)
              .where(DRAFT_SEEN.DRAFT_ID.eq(id.value()))
              .orderBy(DRAFT_SEEN.SEEN_AT.desc())
              .limit(SEEN, 100)
              .fetch(DRAFT_SEEN.DIGEST);
      if (!old.isEmpty()) {
        db.deleteFrom(DRAFT_SEEN)
            .where(
                DRAFT_SEEN.DRAFT_ID.eq(id.value()),
                DRAFT_SEEN.DIGEST.in(old),
                DRAFT_SEEN.DIGEST.notIn(
                    db.select(DRAFT.SEEN)
                        .from(DRAFT)
                        .where(DRAFT.ID.eq(id.value()), DRAFT.SEEN.isNotNull())))
            .execute();
      }
    }
    return digest;
  }

  /** What a digest stands for; null if it was never shown, or too long ago. */
  @Nullable Marks seen(DraftId id, @Nullable String digest) {
    byte[] bytes =
        digest == null
            ? null
            : db.select(DRAFT_SEEN.MARKS)
                .from(DRAFT_SEEN)
                .where(DRAFT_SEEN.DRAFT_ID.eq(id.value()), DRAFT_SEEN.DIGEST.eq(digest))
                .fetchOne(DRAFT_SEEN.MARKS);
    return bytes == null ? null : Marks.read(bytes);
  }
}
