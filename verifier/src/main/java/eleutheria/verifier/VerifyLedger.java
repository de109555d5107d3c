package eleutheria.verifier;

import eleutheria.verifier.StrictJson.Malformed;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.X509EncodedKeySpec;
import java.util.Base64;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Verifies an exported ledger: {@code verify-ledger [--since HEAD] FILE KEY}, where KEY is the
 * organisation's public key (PEM). HEAD is a file with signed heads that were given out earlier,
 * one on a line: the ledger must contain the entry that each of them names.
 *
 * <p>Says "intact", "intact, n payloads erased", or the first position that is broken and why. Exit
 * status 0 if intact, 1 if broken, 2 if it could not be read.
 */
public final class VerifyLedger {
  private static final Set<String> ENTRY_LINE = Set.of("changes", "entry", "hash", "payloads");
  private static final Set<String> HEAD = Set.of("hash", "header", "instant", "position");
  private static final Set<Long> FORMATS = Set.of(1L, 2L);
  private static final HexFormat HEX = HexFormat.of();

  private final PublicKey key;
  private String header = "";
  private String previous = "0".repeat(64);
  private String instant = "";
  private long position;
  private long erased;
  private boolean signed;
  // Hashes of entries that heads given out earlier name, by position.
  private final Map<Long, String> expected = new TreeMap<>();

  private VerifyLedger(PublicKey key) {
    this.key = key;
  }

  /**
   * What was found.
   *
   * @param broken the first position that is not whole; null if all are
   */
  public record Verdict(long entries, long erased, @Nullable Long broken, String why) {
    @Override
    public String toString() {
      if (broken != null) {
        return "BROKEN at position " + broken + ": " + why;
      }
      return erased == 0
          ? "intact: " + entries + " entries"
          : "intact, " + erased + " payloads erased: " + entries + " entries";
    }
  }

  public static void main(String[] args) {
    boolean since = args.length == 4 && args[0].equals("--since");
    if (args.length != 2 && !since) {
      System.err.println("usage: verify-ledger [--since HEAD] FILE KEY");
      System.exit(2);
    }
    int at = since ? 2 : 0;
    try (InputStream in = Files.newInputStream(Path.of(args[at]))) {
      List<String> heads = since ? Files.readAllLines(Path.of(args[1])) : List.of();
      Verdict verdict = verify(in, key(Files.readString(Path.of(args[at + 1]))), heads);
      System.out.println(verdict);
      System.exit(verdict.broken() == null ? 0 : 1);
    } catch (IOException | GeneralSecurityException | IllegalArgumentException e) {
      System.err.println("cannot read: " + e.getMessage());
      System.exit(2);
    }
  }

  /** Reads a public key in PEM (RFC 7468, section 13). */
  public static PublicKey key(String pem) throws GeneralSecurityException {
    String base64 = pem.replaceAll("-----[A-Z ]+-----", "").replaceAll("\\s", "");
    return KeyFactory.getInstance("Ed25519")
        .generatePublic(new X509EncodedKeySpec(Base64.getDecoder().decode(base64)));
  }

  public static Verdict verify(InputStream in, PublicKey key) throws IOException {
    return verify(in, key, List.of());
  }

  /**
   * @param heads lines of signed heads that were given out; other lines are passed over
   * @throws IllegalArgumentException if one of them is not signed with this key
   */
  public static Verdict verify(InputStream in, PublicKey key, List<String> heads)
      throws IOException {
    VerifyLedger verifier = new VerifyLedger(key);
    try {
      for (String head : heads) {
        if (head.startsWith("{")) {
          verifier.expect(head.strip());
        }
      }
    } catch (Malformed e) {
      throw new IllegalArgumentException("an earlier head: " + e.getMessage());
    }
    try {
      verifier.lines(in);
      if (!verifier.expected.isEmpty()) {
        return new Verdict(
            verifier.position,
            verifier.erased,
            verifier.expected.keySet().iterator().next(),
            "a head that was given out earlier names this entry, and it is not there");
      }
      if (!verifier.signed) {
        throw new Malformed("the signed head line is missing; the file is cut off");
      }
      return new Verdict(verifier.position, verifier.erased, null, "");
    } catch (Malformed e) {
      return new Verdict(
          verifier.position,
          verifier.erased,
          verifier.position + 1,
          String.valueOf(e.getMessage()));
    }
  }

  /** Takes note of a head that was given out. */
  private void expect(String line) throws Malformed {
    Object json = StrictJson.read(line);
    if (!(json instanceof Map<?, ?> map) || !(map.get("head") instanceof Map<?, ?> head)) {
      throw new Malformed("the line is no head");
    }
    if (!signed(line, json)) {
      throw new Malformed("it is not signed with this key");
    }
    long at = StrictJson.member(head, "position", Long.class);
    expected.put(at, StrictJson.member(head, "hash", String.class));
  }

  private void lines(InputStream in) throws IOException, Malformed {
    ByteArrayOutputStream line = new ByteArrayOutputStream();
    byte[] block = new byte[65_536];
    for (int read = in.read(block); read >= 0; read = in.read(block)) {
      for (int i = 0; i < read; i++) {
        if (block[i] == '\n') {
          line(decode(line.toByteArray()));
          line.reset();
        } else {
          line.write(block[i]);
        }
      }
    }
    if (line.size() > 0) {
      throw new Malformed("the last line is cut off");
    }
  }

  private static String decode(byte[] bytes) throws Malformed {
    try {
      return StandardCharsets.UTF_8
          .newDecoder()
          .onMalformedInput(CodingErrorAction.REPORT)
          .onUnmappableCharacter(CodingErrorAction.REPORT)
          .decode(ByteBuffer.wrap(bytes))
          .toString();
    } catch (CharacterCodingException e) {
      throw new Malformed("the line is not UTF-8");
    }
  }

  private void line(String line) throws Malformed {
    if (signed) {
      throw new Malformed("something follows the signed head");
    }
    Object json = StrictJson.read(line);
    if (header.isEmpty()) {
      if (!"eleutheria-ledger".equals(StrictJson.member(json, "export", String.class))
          || !FORMATS.contains(StrictJson.member(json, "format", Long.class))) {
        throw new Malformed("the first line is no header of format 1 or 2");
      }
      header = line;
    } else if (json instanceof Map<?, ?> map && map.containsKey("head")) {
      head(line, json);
    } else {
      entry(line, json);
    }
  }

  private void entry(String line, Object json) throws Malformed {
    if (!(json instanceof Map<?, ?> map) || !map.keySet().equals(ENTRY_LINE)) {
      throw new Malformed("the line is no entry");
    }
    String raw = StrictJson.raw(line, "entry");
    Map<?, ?> entry = StrictJson.member(json, "entry", Map.class);
    if (StrictJson.member(entry, "position", Long.class) != position + 1) {
      throw new Malformed("an entry is missing, added or out of order");
    }
    if (!previous.equals(StrictJson.member(entry, "previous", String.class))) {
      throw new Malformed("it does not follow the entry before");
    }
    String hash = StrictJson.member(json, "hash", String.class);
    if (!hash.equals(hash(raw))) {
      throw new Malformed("the entry was changed");
    }
    List<String> changes = StrictJson.elements(StrictJson.raw(line, "changes"));
    if (changes.size() != StrictJson.member(entry, "changes", Long.class)) {
      throw new Malformed("it has another number of changes");
    }
    StringBuilder hashes = new StringBuilder();
    for (String change : changes) {
      hashes.append(hash(change)).append('\n');
    }
    if (!hash(hashes.toString()).equals(StrictJson.member(entry, "root", String.class))) {
      throw new Malformed("its changes were changed");
    }
    payloads(entry, changes, StrictJson.member(json, "payloads", List.class));
    String before = expected.remove(position + 1);
    if (before != null && !before.equals(hash)) {
      throw new Malformed("a head that was given out earlier names another entry here");
    }
    position++;
    previous = hash;
    instant = StrictJson.member(entry, "instant", String.class);
  }

  private void payloads(Object entry, List<String> changes, List<?> payloads) throws Malformed {
    Map<String, String> sealed = new HashMap<>();
    if (entry instanceof Map<?, ?> map && map.get("reason") instanceof String reason) {
      sealed.put("reason", reason);
    }
    for (int i = 0; i < changes.size(); i++) {
      Object change = StrictJson.read(changes.get(i));
      if (change instanceof Map<?, ?> map
          && map.get("key") instanceof Map<?, ?> keyed
          && keyed.get("sealed") instanceof String value) {
        sealed.put(i + ".key", value);
      }
      for (String side : List.of("before", "after")) {
        if (change instanceof Map<?, ?> map
            && map.get(side) instanceof Map<?, ?> spell
            && spell.get("sealed") instanceof String value) {
          sealed.put(i + "." + side, value);
        }
      }
    }
    Set<String> seen = new HashSet<>();
    String last = "";
    for (Object payload : payloads) {
      if (!(payload instanceof Map<?, ?> map) || map.size() != 3) {
        throw new Malformed("a payload is malformed");
      }
      String at = StrictJson.member(payload, "at", String.class);
      String salt = StrictJson.member(payload, "salt", String.class);
      String text = StrictJson.member(payload, "text", String.class);
      if (last.compareTo(at) >= 0 || !salt.matches("[0-9a-f]{32}")) {
        throw new Malformed("a payload is malformed");
      }
      last = at;
      MessageDigest digest = sha256();
      digest.update(HEX.parseHex(salt));
      String found = HEX.formatHex(digest.digest(text.getBytes(StandardCharsets.UTF_8)));
      if (!found.equals(sealed.get(at))) {
        throw new Malformed("the payload at " + at + " was changed");
      }
      seen.add(at);
    }
    erased += sealed.size() - seen.size();
  }

  private void head(String line, Object json) throws Malformed {
    if (!(json instanceof Map<?, ?> map)
        || !map.keySet().equals(Set.of("head", "signature"))
        || !(map.get("head") instanceof Map<?, ?> head)
        || !head.keySet().equals(HEAD)) {
      throw new Malformed("the head line is malformed");
    }
    if (!signed(line, json)) {
      throw new Malformed("the head is not signed with this key");
    }
    if (!hash(header).equals(head.get("header"))) {
      throw new Malformed("the header line was changed");
    }
    boolean same =
        Long.valueOf(position).equals(head.get("position"))
            && previous.equals(head.get("hash"))
            && instant.equals(head.get("instant"));
    if (!same) {
      throw new Malformed("the head names another last entry; lines are missing");
    }
    signed = true;
  }

  private boolean signed(String line, Object json) throws Malformed {
    try {
      Signature signature = Signature.getInstance("Ed25519");
      signature.initVerify(key);
      signature.update(StrictJson.raw(line, "head").getBytes(StandardCharsets.UTF_8));
      String hex = StrictJson.member(json, "signature", String.class);
      return hex.matches("[0-9a-f]{128}") && signature.verify(HEX.parseHex(hex));
    } catch (GeneralSecurityException e) {
      return false;
    }
  }

  private static String hash(String text) {
    return HEX.formatHex(sha256().digest(text.getBytes(StandardCharsets.UTF_8)));
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
