package eleutheria.server.outbox;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Letters;
import eleutheria.server.settings.Organisation;
import eleutheria.server.signon.Accounts;
import eleutheria.server.signon.OneTimeLinks;
import eleutheria.server.state.World;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Mails about somebody's own account: a link to set a password, an address that has changed. */
@Component
class InvitationMail {
  private final World world;
  private final OneTimeLinks links;
  private final Letters letters;
  private final Organisation organisation;
  private final Accounts accounts;
  private final WhoDid whoDid;

  InvitationMail(
      World world,
      OneTimeLinks links,
      Letters letters,
      Organisation organisation,
      Accounts accounts,
      WhoDid whoDid) {
    this.world = world;
    this.links = links;
    this.letters = letters;
    this.organisation = organisation;
    this.accounts = accounts;
    this.whoDid = whoDid;
  }

  /** Sends it, unless there is nobody to send it to any more. */
  void send(PersonId id, long position) {
    Optional<Person> person =
        world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (person.isEmpty() || address == null || accounts.exists(id)) {
      return;
    }
    LocalDate until = LocalDate.now(ZoneOffset.UTC).plus(java.time.Period.ofDays(14));
    letters.send(
        address,
        person.get().name().greeted(),
        Kinds.invitation(
            organisation.name(),
            Optional.ofNullable(person.get().value(Attributes.USER_NAME)).orElse(address),
            links.make(OneTimeLinks.INVITE, id, askedBy(position)).toString(),
            until));
  }

  /** Sends a link to set a new password, as an administrator has asked for it. */
  void sendReset(PersonId id, long position) {
    Optional<Person> person =
        world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (person.isEmpty() || address == null) {
      return;
    }
    letters.send(
        address,
        person.get().name().greeted(),
        Kinds.reset(
            organisation.name(),
            links.make(OneTimeLinks.RESET, id, askedBy(position)).toString(),
            OneTimeLinks.RESET_LASTS.toHours()));
  }

  /** Tells somebody with an account at their old address that it is no longer used. */
  void tellOld(PersonId id, @Nullable String address) {
    Optional<Person> person =
        world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
    if (person.isEmpty() || address == null || !accounts.exists(id)) {
      return;
    }
    letters.send(address, person.get().name().greeted(), Kinds.oldAddress(organisation.name()));
  }

  /** Who had the link sent; null where that was no person. */
  private @Nullable PersonId askedBy(long position) {
    return whoDid.at(position).map(WhoDid.Did::person).orElse(null);
  }
}
