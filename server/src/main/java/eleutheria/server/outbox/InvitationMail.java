package eleutheria.server.outbox;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.signon.Accounts;
import eleutheria.server.signon.OneTimeLinks;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** Mails about somebody's own account: a link to set a password, an address that has changed. */
@Component
class InvitationMail {
  private final World world;
  private final OneTimeLinks links;
  private final JavaMailSender mail;
  private final Organisation organisation;
  private final Accounts accounts;
  private final WhoDid whoDid;
  private final String from;

  InvitationMail(
      World world,
      OneTimeLinks links,
      JavaMailSender mail,
      Organisation organisation,
      Accounts accounts,
      WhoDid whoDid,
      ServerSettings settings) {
    this.world = world;
    this.links = links;
    this.mail = mail;
    this.organisation = organisation;
    this.accounts = accounts;
    this.whoDid = whoDid;
    this.from = settings.mailFrom();
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
    SimpleMailMessage message = message(address, "Your account at " + organisation.name());
    message.setText(
        """
        Hello %s,

        %s has created an account for you. Your sign-in name is %s.

        Set a password here:

        %s

        The link works once, until %s. If it has run out, ask your manager for a new one.
        """
            .formatted(
                person.get().name().displayed(),
                organisation.name(),
                Optional.ofNullable(person.get().value(Attributes.USER_NAME)).orElse(address),
                links.make(OneTimeLinks.INVITE, id, askedBy(position)),
                until));
    mail.send(message);
  }

  /** Sends a link to set a new password, as an administrator has asked for it. */
  void sendReset(PersonId id, long position) {
    Optional<Person> person =
        world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (person.isEmpty() || address == null) {
      return;
    }
    SimpleMailMessage message = message(address, "Set a new password");
    message.setText(
        """
        Hello %s,

        An administrator at %s has sent you a link to set a new password:

        %s

        The link works once, for %d hours. Setting the password signs you out everywhere else.
        If you did not ask for help with signing in, tell an administrator and do not use the link.
        """
            .formatted(
                person.get().name().greeted(),
                organisation.name(),
                links.make(OneTimeLinks.RESET, id, askedBy(position)),
                OneTimeLinks.RESET_LASTS.toHours()));
    mail.send(message);
  }

  /** Tells somebody with an account at their old address that it is no longer used. */
  void tellOld(PersonId id, @Nullable String address) {
    Optional<Person> person =
        world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
    if (person.isEmpty() || address == null || !accounts.exists(id)) {
      return;
    }
    SimpleMailMessage message = message(address, "Your email address has changed");
    message.setText(
        """
        Hello %s,

        Your account at %s used this email address until now. Emails about your account now go to
        another address.

        If that is not right, tell an administrator: someone who reads the new address could be sent a
        link to set your password.
        """
            .formatted(person.get().name().greeted(), organisation.name()));
    mail.send(message);
  }

  private SimpleMailMessage message(String to, String subject) {
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(from);
    message.setTo(to);
    message.setSubject(subject);
    return message;
  }

  /** Who had the link sent; null where that was no person. */
  private @Nullable PersonId askedBy(long position) {
    return whoDid.at(position).map(WhoDid.Did::person).orElse(null);
  }
}
