package eleutheria.server.ledger;

import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.server.letters.Mailer;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.LedgerStore;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Map;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.mail.MailException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Gives the signed head of the ledger out every day, to where whoever can write to the database
 * cannot: a file that is kept elsewhere, or a mailbox. An export that does not contain such a head
 * was cut back or written anew ({@code verify-ledger --since}).
 */
@Component
class SignedHeads {
  private static final Logger log = LoggerFactory.getLogger(SignedHeads.class);

  private final DSLContext db;
  private final LedgerStore store;
  private final LedgerKey key;
  private final Mailer mailer;
  private final Organisation organisation;
  private final ServerSettings settings;

  SignedHeads(
      DSLContext db,
      LedgerStore store,
      LedgerKey key,
      Mailer mailer,
      Organisation organisation,
      ServerSettings settings) {
    this.db = db;
    this.store = store;
    this.key = key;
    this.mailer = mailer;
    this.organisation = organisation;
    this.settings = settings;
  }

  /** The head as one line of canonical JSON, with its signature. */
  String line() {
    LedgerHead head = store.head(db);
    Map<String, Object> signed =
        Map.of(
            "hash", head.hash(),
            "instant", Moments.text(head.instant()),
            "position", head.position());
    return CanonicalJson.write(
        Map.of("head", signed, "signature", key.sign(CanonicalJson.write(signed))));
  }

  @Scheduled(cron = "${eleutheria.heads-at}")
  void giveOut() {
    if (!settings.headsFile().isEmpty()) {
      toFile(Path.of(settings.headsFile()));
    }
    if (!settings.headsMail().isEmpty()) {
      try {
        mailer.sendPlain(
            settings.headsMail(),
            "Signed ledger head: " + organisation.name(),
            line()
                + "\n\nKeep this email. With it, verify-ledger --since shows whether the ledger was"
                + " cut short or rewritten after this day.\n");
      } catch (MailException e) {
        log.error("The signed head of the ledger could not be sent", e);
      }
    }
  }

  private void toFile(Path file) {
    try {
      Files.writeString(
          file,
          line() + "\n",
          StandardCharsets.UTF_8,
          StandardOpenOption.CREATE,
          StandardOpenOption.APPEND);
    } catch (IOException e) {
      log.error("The signed head of the ledger could not be written", e);
    }
  }
}
