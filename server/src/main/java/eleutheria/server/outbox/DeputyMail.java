package eleutheria.server.outbox;

import eleutheria.core.directory.Deputies;
import eleutheria.core.facts.PersonId;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Mailer;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import java.time.LocalDate;
import org.springframework.stereotype.Component;

/** Emails about who decides for whom; none where that has ended already. */
@Component
class DeputyMail {
  private final World world;
  private final Mailer mailer;
  private final Organisation organisation;

  DeputyMail(World world, Mailer mailer, Organisation organisation) {
    this.world = world;
    this.mailer = mailer;
    this.organisation = organisation;
  }

  /**
   * @param decides whether it goes to the deputy; else to whom an administrator has given one
   */
  void send(PersonId to, PersonId other, boolean decides) {
    PersonId person = decides ? other : to;
    PersonId deputy = decides ? to : other;
    world
        .look(
            (facts, whole) ->
                Deputies.of(facts, person, whole.at()).stream()
                    .filter(span -> span.deputy().equals(deputy))
                    .findFirst())
        .ifPresent(
            span -> {
              LocalDate from = LocalDate.ofInstant(span.from(), organisation.zone());
              LocalDate until =
                  LocalDate.ofInstant(span.until().minusMillis(1), organisation.zone());
              mailer.send(
                  to,
                  decides
                      ? Kinds.deputy(
                          name(person), span.duties(), from, until, mailer.link("/me#deputies"))
                      : Kinds.deputyGiven(
                          name(deputy), span.duties(), from, until, mailer.link("/me#deputies")));
            });
  }

  private String name(PersonId person) {
    return world.now().person(person).map(p -> p.name().displayed()).orElse("someone");
  }
}
