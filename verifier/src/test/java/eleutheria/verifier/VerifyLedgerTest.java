package eleutheria.verifier;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Payload;
import eleutheria.core.ledger.SealedEntry;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.Signature;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.UUID;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

class VerifyLedgerTest {
  private static final int ENTRIES = 6;
  private static KeyPair keys;
  private static List<String> lines;

  @BeforeAll
  static void sample() throws GeneralSecurityException {
    keys = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
    lines = export(-1);
  }

  /** A small ledger with sealed and open values; one entry's payloads left out if asked. */
  private static List<String> export(int erasedEntry) throws GeneralSecurityException {
    return export(erasedEntry, "because");
  }

  /**
   * @param why the reason of all entries from the fourth on
   */
  private static List<String> export(int erasedEntry, String why) throws GeneralSecurityException {
    LedgerChain chain = new LedgerChain(new SplittableRandom(7));
    LedgerHead head = LedgerHead.NONE;
    List<String> out = new ArrayList<>();
    String header =
        CanonicalJson.write(
            Map.of("export", "eleutheria-ledger", "format", 1, "organisation", "Tern Sound"));
    out.add(header);
    for (int i = 0; i < ENTRIES; i++) {
      Instant at = Instant.parse("2026-01-0" + (i + 1) + "T08:00:00Z");
      PersonId person = new PersonId(new UUID(i, i));
      Spell name =
          new Spell(
              new FactValue.PersonName("Åse", "Ødegård " + i, "Åse \"Ø\""), at, Moments.FOREVER);
      Spell unit = new Spell(new FactValue.Text("Deck crew"), at, Moments.FOREVER);
      List<Edit> edits =
          i == 3
              ? List.of()
              : List.of(
                  new Edit(new FactKey.Naming(person), null, name),
                  new Edit(
                      new FactKey.Link(new SourceId(new UUID(1, 1)), ObjectKind.PERSON, "no " + i),
                      null,
                      new Spell(new FactValue.Ref(person), at, Moments.FOREVER)),
                  new Edit(Attributes.key(person, "unit", false, ""), null, unit),
                  new Edit(
                      new FactKey.Defined("a" + i),
                      null,
                      new Spell(
                          new FactValue.Definition("A", ValueType.DAY, false, true, null),
                          at,
                          Moments.FOREVER)));
      SealedEntry entry =
          chain.seal(
              head,
              at,
              new Actor.Setup(),
              Act.of(ActName.SETTINGS_BEGIN, person)
                  .because((i < 3 ? "because " : why + " ") + i)
                  .with(Map.of("n", i)),
              edits,
              key -> key instanceof FactKey.Naming || key instanceof FactKey.Link);
      List<Payload> payloads = new ArrayList<>(entry.payloads());
      payloads.sort(Comparator.comparing(Payload::at));
      List<String> beside =
          i == erasedEntry
              ? List.of()
              : payloads.stream()
                  .map(
                      p ->
                          CanonicalJson.write(
                              Map.of("at", p.at(), "salt", p.salt(), "text", p.text())))
                  .toList();
      out.add(
          "{\"changes\":["
              + String.join(",", entry.changes().stream().map(c -> c.json()).toList())
              + "],\"entry\":"
              + entry.json()
              + ",\"hash\":\""
              + entry.hash()
              + "\",\"payloads\":["
              + String.join(",", beside)
              + "]}");
      head = new LedgerHead(entry.position(), entry.hash(), at);
    }
    String signed =
        CanonicalJson.write(
            Map.of(
                "hash", head.hash(),
                "header", LedgerChain.hash(header),
                "instant", Moments.text(head.instant()),
                "position", head.position()));
    Signature signature = Signature.getInstance("Ed25519");
    signature.initSign(keys.getPrivate());
    signature.update(signed.getBytes(StandardCharsets.UTF_8));
    out.add(
        "{\"head\":"
            + signed
            + ",\"signature\":\""
            + HexFormat.of().formatHex(signature.sign())
            + "\"}");
    return out;
  }

  private static byte[] bytes(List<String> of) {
    return (String.join("\n", of) + "\n").getBytes(StandardCharsets.UTF_8);
  }

  private static VerifyLedger.Verdict verify(byte[] bytes) throws IOException {
    return VerifyLedger.verify(new ByteArrayInputStream(bytes), keys.getPublic());
  }

  @Test
  void aWholeLedgerIsIntact() throws IOException {
    assertThat(verify(bytes(lines))).hasToString("intact: 6 entries");
  }

  @Test
  void erasedPayloadsAreCountedAndAccepted() throws Exception {
    assertThat(verify(bytes(export(2)))).hasToString("intact, 3 payloads erased: 6 entries");
  }

  @Test
  void everySingleByteChangeIsFound() throws IOException {
    byte[] whole = bytes(lines);
    SplittableRandom random = new SplittableRandom(11);
    for (int i = 0; i < whole.length; i++) {
      byte[] changed = whole.clone();
      changed[i] ^= (byte) (1 << random.nextInt(8));
      assertThat(verify(changed).broken()).as("byte %d of %d", i, whole.length).isNotNull();
    }
  }

  @Test
  void everyDroppedSwappedDoubledOrCutOffLineIsFound() throws IOException {
    for (int i = 0; i < lines.size(); i++) {
      List<String> dropped = new ArrayList<>(lines);
      dropped.remove(i);
      assertThat(verify(bytes(dropped)).broken()).as("without line %d", i).isNotNull();
      List<String> doubled = new ArrayList<>(lines);
      doubled.add(i, lines.get(i));
      assertThat(verify(bytes(doubled)).broken()).as("line %d twice", i).isNotNull();
      assertThat(verify(bytes(lines.subList(0, i))).broken()).as("first %d lines", i).isNotNull();
      if (i > 0) {
        List<String> swapped = new ArrayList<>(lines);
        Collections.swap(swapped, i - 1, i);
        assertThat(verify(bytes(swapped)).broken()).as("line %d before its place", i).isNotNull();
      }
    }
    byte[] whole = bytes(lines);
    assertThat(verify(java.util.Arrays.copyOf(whole, whole.length - 1)).broken()).isNotNull();
  }

  @Test
  void namesTheFirstBrokenPosition() throws IOException {
    List<String> changed = new ArrayList<>(lines);
    changed.set(4, changed.get(4).replace("settings.begin", "settings.fake"));
    assertThat(verify(bytes(changed)).broken()).isEqualTo(4);
  }

  @Test
  void anotherKeyDoesNotVouch() throws Exception {
    KeyPair other = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
    assertThat(VerifyLedger.verify(new ByteArrayInputStream(bytes(lines)), other.getPublic()).why())
        .contains("not signed with this key");
  }

  /** A head as it is given out every day, of one of the sample's entries. */
  private static String head(int entry) throws GeneralSecurityException {
    String line = lines.get(entry);
    String hash = line.substring(line.indexOf("\"hash\":\"") + 8).substring(0, 64);
    String signed =
        CanonicalJson.write(
            Map.of("hash", hash, "instant", "2026-01-01T08:00:00.000000Z", "position", entry));
    Signature signature = Signature.getInstance("Ed25519");
    signature.initSign(keys.getPrivate());
    signature.update(signed.getBytes(StandardCharsets.UTF_8));
    return "{\"head\":%s,\"signature\":\"%s\"}"
        .formatted(signed, HexFormat.of().formatHex(signature.sign()));
  }

  private static VerifyLedger.Verdict since(List<String> heads, List<String> of)
      throws IOException {
    return VerifyLedger.verify(new ByteArrayInputStream(bytes(of)), keys.getPublic(), heads);
  }

  @Test
  void aLedgerContainsTheHeadsThatWereGivenOutOrWasCutBackOrWrittenAnew()
      throws IOException, GeneralSecurityException {
    assertThat(since(List.of("not a head", head(2), head(5)), lines).broken()).isNull();
    // Written anew from the fourth entry on: whole by itself, but not what was told.
    List<String> anew = export(-1, "otherwise");
    assertThat(verify(bytes(anew)).broken()).isNull();
    assertThat(since(List.of(head(2)), anew).broken()).isNull();
    assertThat(since(List.of(head(5)), anew).broken()).isEqualTo(5);
    String forged = head(5).replace("\"position\":5", "\"position\":4");
    assertThatThrownBy(() -> since(List.of(forged), lines))
        .isInstanceOf(IllegalArgumentException.class);
    assertThat(since(List.of(head(5)), export(3)).toString()).contains("intact");
  }
}
