package eleutheria.core.ledger;

import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.SuggestionId;
import java.time.Duration;
import java.util.UUID;

/** Something to do outside once the act is committed; kept in the outbox until done. */
public sealed interface Errand {
  /** A mail with a one-time link by which the person sets a password. */
  record Invite(PersonId person) implements Errand {}

  /** A mail with a one-time link by which the person sets another password. */
  record Reset(PersonId person) implements Errand {}

  /** A mail to where somebody was reached until now: that their address has changed. */
  record TellOldAddress(PersonId person, String address) implements Errand {}

  /**
   * A mail about an access request: to who decides it, or to who asked.
   *
   * @param after how long it waits, because the decision can be taken back so long
   */
  record TellOfRequest(PersonId person, RequestId request, Tale tale, Duration after)
      implements Errand {}

  /**
   * A mail about who decides for whom: to the deputy, or to whom an administrator has given one.
   *
   * @param person whom it goes to
   * @param of for whom it is decided
   */
  record TellOfDeputy(PersonId person, PersonId of, PersonId deputy) implements Errand {}

  /** A mail to who has suggested an app, when it is decided. */
  record TellOfSuggestion(PersonId person, SuggestionId suggestion) implements Errand {}

  /** A mail to who has reported a problem, when it is answered. */
  record TellOfComplaint(PersonId person, ComplaintId complaint) implements Errand {}

  /** A mail with how a saved query is answered, on its day. */
  record TellOfQuery(PersonId person, UUID query) implements Errand {}

  /** A mail to who holds something that ends by itself soon. */
  record TellOfEnd(PersonId person, GrantId grant) implements Errand {}

  /** Mails to everyone whose access a draft has moved; whoever does it finds out whom. */
  record TellOfDraft(PersonId publisher, DraftId draft) implements Errand {}

  /** Mails to everyone whose access a draft will move, when it is set for a moment. */
  record TellAhead(PersonId publisher, DraftId draft) implements Errand {}

  /** What a mail about a request tells. */
  enum Tale {
    TO_DECIDE,
    /** To whom it is for: somebody else has asked. */
    ASKED_FOR_YOU,
    /** To who decides: it still waits, and ends by itself before long. */
    REMIND,
    GIVEN,
    REFUSED,
    LAPSED,
    /** To who asked for something: who decides wants to know more. */
    ASKED_BACK,
    /** To who asked back: there is an answer. */
    ANSWERED,
    /** To who asked back: there is none, and the clock goes on. */
    UNANSWERED
  }
}
