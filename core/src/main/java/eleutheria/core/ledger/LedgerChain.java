package eleutheria.core.ledger;

import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.Spell;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.random.RandomGenerator;
import org.jspecify.annotations.Nullable;

/**
 * Seals acts into a hash chain.
 *
 * <p>Structure: every entry carries the hash of the entry before it and one root hash over its
 * changes; its own hash is SHA-256 over its canonical JSON (RFC 8785). So one 32-byte head vouches
 * for all that ever happened, and a reader needs nothing but the file.
 *
 * <p>Why a root and not the changes themselves in the entry: an import has tens of thousands of
 * changes, and whoever only follows the chain need not read them. Why a list of hashes and not a
 * tree: nobody asks for the preview of one change; whoever checks, checks all.
 *
 * <p>Personal values and free text never enter the chain. Their place holds SHA-256 over a salt of
 * 16 random bytes and the value, and the value stands beside it as a {@link Payload}: erasing the
 * payload leaves the chain whole, and the salt keeps a short value from being guessed.
 *
 * <p>Cost: about 1 µs a change, one pass. Format, version and test vectors: docs/ledger-format.md.
 */
public final class LedgerChain {
  /** The version of the format that this class writes. */
  public static final int FORMAT = 2;

  private final RandomGenerator salts;

  public LedgerChain(RandomGenerator salts) {
    this.salts = salts;
  }

  /**
   * Seals an act as the entry after {@code head}.
   *
   * @param personal which keys have values that may be erased by law
   */
  public SealedEntry seal(
      LedgerHead head,
      Instant instant,
      Actor actor,
      Act act,
      List<Edit> edits,
      Predicate<FactKey> personal) {
    List<Payload> payloads = new ArrayList<>();
    List<SealedEntry.SealedChange> changes = new ArrayList<>(edits.size());
    TreeSet<ObjectId> objects = new TreeSet<>(act.objects());
    for (int seq = 0; seq < edits.size(); seq++) {
      Edit edit = edits.get(seq);
      objects.addAll(edit.key().objects());
      SealedEntry.SealedChange change = change(edit, seq, personal.test(edit.key()), payloads);
      changes.add(change);
    }
    Map<String, Object> entry = new LinkedHashMap<>();
    entry.put("format", FORMAT);
    entry.put("position", head.position() + 1);
    entry.put("instant", Moments.text(instant));
    entry.put("actor", actor.text());
    entry.put("act", act.name().word());
    entry.put("objects", act.objects().stream().map(ObjectId::text).toList());
    entry.put("details", act.details());
    entry.put("changes", edits.size());
    entry.put("root", root(changes.stream().map(SealedEntry.SealedChange::json).toList()));
    entry.put("previous", head.hash());
    if (!act.reason().isEmpty()) {
      entry.put("reason", seal("reason", act.reason(), payloads));
    }
    String json = CanonicalJson.write(entry);
    return new SealedEntry(
        head.position() + 1,
        instant,
        actor,
        act,
        List.copyOf(objects),
        entry,
        json,
        hash(json),
        changes,
        payloads);
  }

  private SealedEntry.SealedChange change(
      Edit edit, int seq, boolean personal, List<Payload> payloads) {
    Map<String, Object> json = new LinkedHashMap<>();
    String kind = FactJson.kind(edit.key());
    Map<String, Object> key = FactJson.key(edit.key());
    if (personal && edit.key() instanceof FactKey.Link link) {
      // By which number a source knows somebody; whom it stands for is an id and stays.
      key = new LinkedHashMap<>(key);
      key.remove("key");
      key.put("sealed", seal(seq + ".key", link.key(), payloads));
    }
    json.put("kind", kind);
    json.put("key", key);
    boolean values = personal && !(edit.key() instanceof FactKey.Link);
    side(json, "before", edit.base(), seq, values, payloads);
    side(json, "after", edit.wanted(), seq, values, payloads);
    return new SealedEntry.SealedChange(kind, CanonicalJson.write(key), CanonicalJson.write(json));
  }

  private void side(
      Map<String, Object> json,
      String side,
      @Nullable Spell spell,
      int seq,
      boolean personal,
      List<Payload> payloads) {
    if (spell == null) {
      return;
    }
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("from", Moments.text(spell.from()));
    map.put("until", Moments.text(spell.until()));
    Object value = FactJson.value(spell.value());
    if (personal) {
      map.put("sealed", seal(seq + "." + side, value, payloads));
    } else {
      map.put("value", value);
    }
    json.put(side, map);
  }

  private String seal(String at, Object value, List<Payload> payloads) {
    byte[] salt = new byte[16];
    salts.nextBytes(salt);
    String text = CanonicalJson.write(value);
    payloads.add(new Payload(at, HexFormat.of().formatHex(salt), text));
    return sealed(salt, text);
  }

  /** One hash over changes: SHA-256 over the line-ended hashes of each, in their order. */
  public static String root(List<String> changes) {
    MessageDigest root = sha256();
    for (String change : changes) {
      root.update((hash(change) + "\n").getBytes(StandardCharsets.US_ASCII));
    }
    return HexFormat.of().formatHex(root.digest());
  }

  /** SHA-256 over the salt and the UTF-8 bytes of the text, in lower-case hex. */
  public static String sealed(byte[] salt, String text) {
    MessageDigest digest = sha256();
    digest.update(salt);
    return HexFormat.of().formatHex(digest.digest(text.getBytes(StandardCharsets.UTF_8)));
  }

  /** SHA-256 over the UTF-8 bytes of a text, in lower-case hex. */
  public static String hash(String text) {
    return HexFormat.of().formatHex(sha256().digest(text.getBytes(StandardCharsets.UTF_8)));
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
