package eleutheria.server.ledger;

import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Payload;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.LedgerStore;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Writes the ledger as JSON Lines with a signed head line; docs/ledger-format.md, "Export". */
@Component
class LedgerExport {
  private static final Logger log = LoggerFactory.getLogger(LedgerExport.class);
  private static final int CHUNK = 200;

  private final DSLContext db;
  private final LedgerStore store;
  private final LedgerKey key;
  private final Organisation organisation;

  LedgerExport(DSLContext db, LedgerStore store, LedgerKey key, Organisation organisation) {
    this.db = db;
    this.store = store;
    this.key = key;
    this.organisation = organisation;
  }

  LedgerHead head() {
    return store.head(db);
  }

  /** Writes all entries up to the head. */
  void write(LedgerHead head, OutputStream out) throws IOException {
    String header =
        CanonicalJson.write(
            Map.of(
                "export",
                "eleutheria-ledger",
                "format",
                LedgerChain.FORMAT,
                "organisation",
                organisation.name()));
    line(out, header);
    long position = 0;
    while (position < head.position()) {
      List<LedgerStore.Entry> entries = store.entries(db, position, CHUNK);
      if (entries.isEmpty()) {
        // Without its last entries the file gets no signed head, so that nobody takes it for whole.
        log.error("Entries from {} to {} are missing", position + 1, head.position());
        return;
      }
      for (LedgerStore.Entry entry : entries) {
        if (entry.position() > head.position()) {
          break;
        }
        line(out, entryLine(entry));
        position = entry.position();
      }
    }
    Map<String, Object> signed =
        Map.of(
            "hash", head.hash(),
            "header", LedgerChain.hash(header),
            "instant", Moments.text(head.instant()),
            "position", head.position());
    line(
        out,
        CanonicalJson.write(
            Map.of("head", signed, "signature", key.sign(CanonicalJson.write(signed)))));
  }

  /** Members in canonical order; the parts are canonical already. */
  private String entryLine(LedgerStore.Entry entry) {
    List<String> payloads = new ArrayList<>();
    List<Payload> sorted = new ArrayList<>(store.payloads(db, entry.position()));
    sorted.sort(Comparator.comparing(Payload::at));
    for (Payload payload : sorted) {
      payloads.add(
          CanonicalJson.write(
              Map.of("at", payload.at(), "salt", payload.salt(), "text", payload.text())));
    }
    return "{\"changes\":["
        + String.join(",", store.changes(db, entry.position(), 0, Integer.MAX_VALUE))
        + "],\"entry\":"
        + entry.json()
        + ",\"hash\":\""
        + entry.hash()
        + "\",\"payloads\":["
        + String.join(",", payloads)
        + "]}";
  }

  private static void line(OutputStream out, String text) throws IOException {
    out.write((text + "\n").getBytes(StandardCharsets.UTF_8));
  }
}
