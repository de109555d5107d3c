package eleutheria.server.pictures;

import static eleutheria.server.tables.Tables.PICTURE;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.util.HexFormat;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Pictures by the SHA-256 of their bytes: the same one is kept once, and none ever changes. */
@Component
public class PictureStore {
  private final DSLContext db;
  private final Clock clock;

  public PictureStore(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /** What is kept under a hash. */
  record Kept(boolean svg, byte[] bytes) {}

  /** Keeps a picture, and tells the word under which a tile or the brand has it. */
  public String keep(CleanPicture picture, PersonId by) {
    byte[] hash = sha256(picture.bytes());
    db.insertInto(PICTURE)
        .set(PICTURE.HASH, hash)
        .set(PICTURE.SVG, picture.svg())
        .set(PICTURE.BYTES, picture.bytes())
        .set(PICTURE.UPLOADED_AT, clock.instant())
        .set(PICTURE.UPLOADED_BY, by.value())
        .onDuplicateKeyIgnore()
        .execute();
    return FactValue.TileFace.UPLOADED + HexFormat.of().formatHex(hash);
  }

  /**
   * The bytes of an uploaded picture that is PNG, which every program draws; mail programs draw no
   * SVG.
   *
   * @param picture the word under which the brand has it, or nothing
   */
  public Optional<byte[]> png(String picture) {
    return picture.startsWith(FactValue.TileFace.UPLOADED)
        ? find(picture.substring(FactValue.TileFace.UPLOADED.length()))
            .filter(kept -> !kept.svg())
            .map(Kept::bytes)
        : Optional.empty();
  }

  Optional<Kept> find(String hash) {
    byte[] key;
    try {
      key = HexFormat.of().parseHex(hash);
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
    return db.select(PICTURE.SVG, PICTURE.BYTES)
        .from(PICTURE)
        .where(PICTURE.HASH.eq(key))
        .fetchOptional(r -> new Kept(r.value1(), r.value2()));
  }

  /**
   * @param picture a word of the set that ships, nothing, or that of an uploaded picture
   * @throws Refusal if nobody has uploaded that
   */
  public void demand(String picture, String field) {
    if (picture.startsWith(FactValue.TileFace.UPLOADED)
        && find(picture.substring(FactValue.TileFace.UPLOADED.length())).isEmpty()) {
      throw Refusal.of(Problem.invalid("tile.picture", field, "There is no such picture."));
    }
  }

  private static byte[] sha256(byte[] bytes) {
    try {
      return MessageDigest.getInstance("SHA-256").digest(bytes);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
