package eleutheria.server.outbox;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.PersonId;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Mailer;
import eleutheria.server.settings.Organisation;
import eleutheria.server.signon.Accounts;
import eleutheria.server.signon.OneTimeLinks;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Mails about somebody's own account: a link to set a password, an address that has changed. */
@Component
class InvitationMail {
  private final OneTimeLinks links;
  private final Mailer mailer;
  private final Organisation organisation;
  private final Accounts accounts;
  private final WhoDid whoDid;

  InvitationMail(
      OneTimeLinks links,
      Mailer mailer,
      Organisation organisation,
      Accounts accounts,
      WhoDid whoDid) {
    this.links = links;
    this.mailer = mailer;
    this.organisation = organisation;
    this.accounts = accounts;
    this.whoDid = whoDid;
  }

  /** Sends it, unless there is nobody to send it to any more. */
  void send(PersonId id, long position) {
    Optional<Mailer.Recipient> to = mailer.recipient(id).filter(r -> !accounts.exists(id));
    if (to.isPresent()) {
      String userName = to.get().person().value(Attributes.USER_NAME);
      LocalDate until = LocalDate.now(ZoneOffset.UTC).plusDays(OneTimeLinks.LASTS.toDays());
      mailer.send(
          to.get(),
          Kinds.invitation(
              organisation.name(),
              userName == null ? to.get().address() : userName,
              links.make(OneTimeLinks.INVITE, id, askedBy(position)).toString(),
              until));
    }
  }

  /** Sends a link to set a new password, as an administrator has asked for it. */
  void sendReset(PersonId id, long position) {
    Optional<Mailer.Recipient> to = mailer.recipient(id);
    if (to.isPresent()) {
      mailer.send(
          to.get(),
          Kinds.reset(
              organisation.name(),
              links.make(OneTimeLinks.RESET, id, askedBy(position)).toString(),
              OneTimeLinks.RESET_LASTS.toHours()));
    }
  }

  /** Tells somebody with an account at their old address that it is no longer used. */
  void tellOld(PersonId id, @Nullable String address) {
    if (address != null && accounts.exists(id)) {
      mailer.sendElsewhere(id, address, Kinds.oldAddress(organisation.name()));
    }
  }

  /** Who had the link sent; null where that was no person. */
  private @Nullable PersonId askedBy(long position) {
    return whoDid.at(position).map(WhoDid.Did::person).orElse(null);
  }
}
