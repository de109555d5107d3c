package eleutheria.core.facts;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import org.jspecify.annotations.Nullable;

/** What a fact says about its key. */
public sealed interface FactValue {

  /** It is so; there is nothing more to say. */
  enum Present implements FactValue {
    PRESENT
  }

  record Text(String text) implements FactValue {}

  record PersonName(String given, String family, String displayed) implements FactValue {
    /** What stands for the name of somebody whose personal data were erased. */
    public static final PersonName ERASED = new PersonName("", "", "Erased person");

    /** "Holm, Mikkel": where people compare; a person with one name keeps it alone. */
    public String familyFirst() {
      if (family.isEmpty() || given.isEmpty()) {
        return displayed;
      }
      return family + ", " + given;
    }

    /** How the person is greeted. */
    public String greeted() {
      return given.isEmpty() ? displayed : given;
    }
  }

  /**
   * A person's status. {@code stated} is the day that a source gave when it was learnt too late to
   * be kept (the fact begins or ends at the act then).
   */
  record Standing(PersonStatus status, @Nullable LocalDate stated) implements FactValue {
    public static Standing of(PersonStatus status) {
      return new Standing(status, null);
    }
  }

  record Ref(ObjectId object) implements FactValue {}

  /** How a group gets its members. */
  sealed interface Form extends FactValue {
    /** By an administrator. */
    record Listed() implements Form {}

    /** From a source; read-only here. */
    record Mirrored(SourceId source) implements Form {}

    /** By a filter over attributes (RFC 7644, section 3.4.2.2). */
    record ByFilter(String filter) implements Form {}
  }

  /**
   * An attribute's definition.
   *
   * @param many whether a person may have several values
   * @param personal whether values are kept so that they can be erased by law
   * @param source the source that owns it, so that it is read-only here; null where administrators
   *     set it
   */
  record Definition(
      String label, ValueType type, boolean many, boolean personal, @Nullable SourceId source)
      implements FactValue {}

  /** Powers by their stable words, and what they reach. */
  record Terms(String name, String line, SortedSet<String> powers, Reach reach)
      implements FactValue {}

  /** A source of files: its name and, for each column heading, what the column is. */
  record Delivery(String name, Map<String, String> columns) implements FactValue {}

  /**
   * What an application is.
   *
   * @param picture a word of the small set that ships
   * @param hue a word of the small set of colours that ships
   * @param contact whom to call, in the owner's words; may be empty
   * @param nicknames what people call it besides, by which it is found
   */
  record Profile(
      String name,
      String line,
      String picture,
      String hue,
      Sensitivity sensitivity,
      String contact,
      List<String> nicknames)
      implements FactValue {
    public Profile(
        String name,
        String line,
        String picture,
        String hue,
        Sensitivity sensitivity,
        String contact) {
      this(name, line, picture, hue, sensitivity, contact, List.of());
    }
  }

  record AppState(ApplicationState state) implements FactValue {}

  /** How an application signs people on. */
  sealed interface WayIn extends FactValue {
    /** An address that is opened as it is. */
    record Link(String address) implements WayIn {}
  }

  /**
   * Seats of an application that are paid for.
   *
   * @param count how many, at least 1
   * @param price of one seat for a month, in hundredths of the currency's unit, at least 0
   * @param currency its three letters (ISO 4217)
   */
  record Seats(int count, long price, String currency) implements FactValue {}

  /**
   * One role of an application.
   *
   * @param requestable whether people may ask for it
   */
  record Role(
      ApplicationId application,
      String name,
      String line,
      Sensitivity sensitivity,
      boolean requestable)
      implements FactValue {}

  /** To whom something is given or shown. */
  sealed interface Subject {
    record OfPerson(PersonId person) implements Subject {}

    record OfGroup(GroupId group) implements Subject {}

    /** Everyone whose attributes fit (RFC 7644, section 3.4.2.2). */
    record ByFilter(String filter) implements Subject {}
  }

  record Given(Subject subject, EntitlementId entitlement, GrantSource source)
      implements FactValue {}

  /**
   * One launchable thing on the portal.
   *
   * @param picture a word of the set that ships, or {@link #UPLOADED} and the hash of its bytes
   * @param needs holding any of these shows it; where it is empty, the audience alone counts
   * @param address where it leads; empty for the application's own way in
   * @param contact whom to call; empty for whom the application names
   * @param apart whether it opens in a window of its own
   * @param dated whether it is shown only while {@link FactKey.Shown} says so
   */
  record TileFace(
      String name,
      String line,
      String picture,
      String hue,
      ApplicationId application,
      SortedSet<EntitlementId> needs,
      String address,
      String contact,
      boolean apart,
      boolean dated)
      implements FactValue {
    /** What the word of a picture begins with that somebody has uploaded. */
    public static final String UPLOADED = "own:";

    public TileFace(
        String name,
        String line,
        String picture,
        String hue,
        ApplicationId application,
        SortedSet<EntitlementId> needs) {
      this(name, line, picture, hue, application, needs, "", "", false, false);
    }
  }

  /**
   * A separation rule: nobody may be entitled to something of both sets, which are disjoint.
   *
   * @param why what could be done by one person with both
   */
  record Separation(
      String name, String why, SortedSet<EntitlementId> one, SortedSet<EntitlementId> other)
      implements FactValue {}

  record CollectionFace(String name, String line) implements FactValue {}

  /**
   * A union of these; nobody where all are empty.
   *
   * @param firstDays whoever is active for less than so many times 24 hours; 0 for nobody
   */
  record Audience(boolean everyone, List<Subject> subjects, int firstDays) implements FactValue {
    public static final Audience EVERYONE = new Audience(true, List.of());
    public static final Audience NOBODY = new Audience(false, List.of());

    public Audience(boolean everyone, List<Subject> subjects) {
      this(everyone, subjects, 0);
    }
  }

  /**
   * What a front page is.
   *
   * @param only whether collections that it does not name are left out
   * @param waves whether its audience meets it only as far as a wave has begun
   */
  record FrontFace(String name, boolean only, boolean waves) implements FactValue {}

  /**
   * How the organisation shows itself.
   *
   * @param name empty for the name it was set up with
   * @param mark an uploaded picture, or nothing
   * @param band the colour of the portal's band, {@code #rrggbb}
   * @param welcome what is said where people sign in
   * @param door the picture there, or nothing
   * @param help whom to ask, in words
   * @param form how tiles are drawn where nobody has chosen: tiles, lines or marks
   * @param tight whether they stand close
   */
  record Brand(
      String name,
      String mark,
      String band,
      String welcome,
      String door,
      String help,
      String form,
      boolean tight)
      implements FactValue {}

  /** Which links people may keep for themselves. */
  enum Links {
    NOTHING,
    APPROVED,
    ANYTHING
  }

  /**
   * What an audience may bring.
   *
   * @param suggest whether they may suggest apps
   */
  record SelfServiceLine(Audience audience, Links links, boolean suggest) {}

  /**
   * Who may keep links and suggest apps: the first rule whose audience has somebody counts for
   * them.
   */
  record SelfService(List<SelfServiceLine> rules) implements FactValue {}

  /**
   * An entry of the approved list: an address, and all that begin with it.
   *
   * @param category by which it is found: travel, weather
   */
  record Listing(
      String name, String address, String line, String category, String picture, String hue)
      implements FactValue {}

  /** What a deputy decides; never empty. */
  record Duties(SortedSet<Duty> duties) implements FactValue {}

  /** The steps of a request, in their order; never empty. */
  record Route(List<RouteStep> steps) implements FactValue {
    /** At most so many. */
    public static final int MOST = 6;

    /** Where nothing else is said: first the manager, then the owner, two weeks each. */
    public static final Route SHIPPED =
        new Route(
            List.of(new RouteStep(new Seat.Manager(), 14), new RouteStep(new Seat.Owner(), 14)));

    public Route {
      steps = List.copyOf(steps);
    }
  }

  /**
   * What whoever asks is asked, beside the reason; without questions it says the term alone.
   *
   * @param questions in their order
   */
  record RequestForm(List<Question> questions, Term term) implements FactValue {
    /** At most so many questions. */
    public static final int MOST = 100;

    /** Where nothing else is said. */
    public static final RequestForm SHIPPED = new RequestForm(List.of(), Term.SHIPPED);

    public RequestForm {
      questions = List.copyOf(questions);
    }
  }

  /**
   * A tile's place in a collection.
   *
   * @param rank places are in the order of this text
   * @param offered whether it is shown to those who may ask for it as well
   */
  record Place(String rank, boolean offered) implements FactValue {}
}
