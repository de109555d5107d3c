package eleutheria.demo;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Actor;
import eleutheria.core.portal.BrandDecisions;
import eleutheria.server.pictures.CleanPicture;
import eleutheria.server.pictures.PictureStore;
import eleutheria.server.writing.Loader;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import org.jooq.DSLContext;

/** What the company wears on its portal: its mark, and a picture where people sign in. */
final class Wearing {
  private final Loader loader;
  private final DSLContext db;

  Wearing(Loader loader, DSLContext db) {
    this.loader = loader;
    this.db = db;
  }

  void begin(Instant at) {
    PersonId steward = loader.directory().byUserName("ines.roth").orElseThrow();
    PictureStore pictures = new PictureStore(db, Clock.fixed(at, ZoneOffset.UTC));
    FactValue.Brand brand =
        new FactValue.Brand(
            "Tern Sound Ferries",
            pictures.keep(picture("mark.png"), steward),
            BrandDecisions.PLAIN.band(),
            "",
            pictures.keep(picture("sound.svg"), steward),
            "Call the help desk on extension 4400.",
            BrandDecisions.PLAIN.form(),
            BrandDecisions.PLAIN.tight());
    loader.act(
        at,
        new Actor.OfPerson(steward),
        moment -> BrandDecisions.set(moment, BrandDecisions.PLAIN, brand));
  }

  private static CleanPicture picture(String name) {
    try (InputStream file = Wearing.class.getResourceAsStream(name)) {
      return CleanPicture.of(file.readAllBytes());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
