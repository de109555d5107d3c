package eleutheria.core.directory;

import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Who may change by what somebody is known and signs in: their mail address, their sign-in name,
 * the key a source knows them by, and a link that sets their password. Whoever can change that can
 * become that person, so it needs every power the person holds, for all it reaches, and whatever
 * lets one do what an owner does with the things the person owns.
 */
public final class Identity {
  /** The code of the problem that somebody else's powers are lacked. */
  public static final String CODE = "identity";

  private Identity() {}

  /** Whether what is kept under this key tells by what somebody signs in. */
  public static boolean carries(FactKey key) {
    return switch (key) {
      case FactKey.Attribute k ->
          k.name().equals(Attributes.MAIL) || k.name().equals(Attributes.USER_NAME);
      case FactKey.Link k -> true;
      case FactKey.Existence k -> false;
      case FactKey.Naming k -> false;
      case FactKey.Status k -> false;
      case FactKey.GroupName k -> false;
      case FactKey.GroupForm k -> false;
      case FactKey.Membership k -> false;
      case FactKey.Ownership k -> false;
      case FactKey.Defined k -> false;
      case FactKey.Source k -> false;
      case FactKey.OfMandates k -> false;
      case FactKey.OfRequests k -> false;
      case FactKey.OfApps k -> false;
      case FactKey.OfAccess k -> false;
      case FactKey.OfPortal k -> false;
      case FactKey.OfSelfService k -> false;
    };
  }

  /** The people whose identity some edits change, but for those whom they bring. */
  public static Set<PersonId> touched(List<Edit> edits) {
    Set<PersonId> found = new LinkedHashSet<>();
    Set<PersonId> fresh = new LinkedHashSet<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Existence(PersonId person) && edit.base() == null) {
        fresh.add(person);
      } else if (edit.key() instanceof FactKey.Attribute key && carries(key)) {
        found.add(key.subject());
      } else if (edit.key() instanceof FactKey.Link) {
        linked(edit.base(), found);
        linked(edit.wanted(), found);
      }
    }
    found.removeAll(fresh);
    return found;
  }

  private static void linked(@Nullable Spell spell, Set<PersonId> into) {
    if (spell != null && spell.value() instanceof FactValue.Ref(PersonId person)) {
      into.add(person);
    }
  }

  /** Whether somebody holds a power, now or on a day to come, or owns something. */
  public static boolean guarded(Moment moment, PersonId person) {
    return !held(moment, person).isEmpty() || !moment.directory().owned(person).isEmpty();
  }

  /** What keeps the actor from changing by what somebody signs in. */
  public static Optional<Problem> missing(Moment moment, PersonId person) {
    Authority actor = moment.authority();
    boolean whole =
        held(moment, person).stream().allMatch(actor::covers)
            && moment.directory().owned(person).stream().allMatch(actor::answersFor);
    return whole
        ? Optional.empty()
        : Optional.of(Problem.forbidden(CODE, sentence(moment, person)));
  }

  private static String sentence(Moment moment, PersonId person) {
    String name =
        moment.directory().person(person).map(p -> p.name().displayed()).orElse("This person");
    return "%s holds powers or owns things beyond your own. Only someone who has all of them may change %s’s address, sign-in name or password."
        .formatted(name, name);
  }

  /** Everything that keeps the actor from changing whose identity the edits change. */
  public static List<Problem> judge(Moment moment, List<Edit> edits) {
    List<Problem> problems = new ArrayList<>();
    touched(edits).forEach(person -> missing(moment, person).ifPresent(problems::add));
    return problems;
  }

  /** Whether the edits change the identity of somebody with powers, so that a sign-in is fresh. */
  public static boolean weighty(Moment moment, List<Edit> edits) {
    return touched(edits).stream().anyMatch(person -> guarded(moment, person));
  }

  /** The powers that somebody holds, or will hold by what is on record; also while away. */
  private static List<Authority.Allowed> held(Moment moment, PersonId person) {
    List<Authority.Allowed> found = new ArrayList<>();
    for (FactKey.MandateHeld key : moment.facts().keys(FactKey.MandateHeld.class)) {
      boolean theirs =
          switch (key.holder()) {
            case PersonId id -> id.equals(person);
            case GroupId group ->
                moment.directory().members(group).contains(person)
                    || !moment
                        .facts()
                        .from(new FactKey.Membership(group, person), moment.at())
                        .isEmpty();
            default -> false;
          };
      if (theirs && !moment.facts().from(key, moment.at()).isEmpty()) {
        found.addAll(allowed(moment, key.subject()));
      }
    }
    return found;
  }

  private static List<Authority.Allowed> allowed(Moment moment, MandateId mandate) {
    List<Authority.Allowed> found = new ArrayList<>();
    for (Spell spell : moment.facts().from(new FactKey.Mandate(mandate), moment.at())) {
      if (spell.value() instanceof FactValue.Terms terms) {
        found.add(allowed(terms));
      }
    }
    return found;
  }

  /** What a mandate's terms allow. */
  public static Authority.Allowed allowed(FactValue.Terms terms) {
    Set<Power> powers = EnumSet.noneOf(Power.class);
    terms.powers().forEach(word -> Power.of(word).ifPresent(powers::add));
    return new Authority.Allowed(terms.name(), powers, terms.reach());
  }

  /** The mail addresses that the edits replace or take away, with whose they were. */
  public static List<OldAddress> replaced(List<Edit> edits) {
    List<OldAddress> found = new ArrayList<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Attribute key
          && key.name().equals(Attributes.MAIL)
          && edit.base() != null
          && edit.base().value() instanceof FactValue.Text(String text)
          && (edit.wanted() == null || !edit.base().value().equals(edit.wanted().value()))) {
        found.add(new OldAddress(key.subject(), text));
      }
    }
    return found.stream().distinct().toList();
  }

  /** An address that somebody had. */
  public record OldAddress(PersonId person, String address) {}
}
