package eleutheria.core.requests;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.directory.intake.DeliveredFile;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.ledger.Problem;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Requests for many, from a CSV file (RFC 4180) with the columns "person", "entitlement", "last
 * day" and "reason". A person is named by sign-in name, email, staff number or full name; an
 * entitlement as it is shown, "Refund Bench · Approver", or with its application in a column of its
 * own. Days are ISO 8601, 2027-03-31. Each further column answers a question of a request form: it
 * is headed by the question or its key; several answers are parted by semicolons, yes and no are
 * said as such, colleagues are named as people are.
 *
 * <p>Nobody is found but those whom the reader may ask for, and nothing but what can be asked for.
 */
public final class AskSheet {
  /** The most lines below the heading. */
  public static final int MOST = 5_000;

  private static final String PERSON = "person";
  private static final String APPLICATION = "application";
  private static final String ENTITLEMENT = "entitlement";
  private static final String LAST_DAY = "last day";
  private static final String REASON = "reason";
  private static final Set<String> COLUMNS =
      Set.of(PERSON, APPLICATION, ENTITLEMENT, LAST_DAY, REASON);

  private final AccessReach reach;
  private final AccessView access;
  private final LocalDate today;
  private final PersonId asker;
  private final Map<PersonId, List<AccessRequest>> open;
  private final Map<String, Set<Person>> people = new HashMap<>();
  private final Map<String, Set<Entitlement>> entitlements = new HashMap<>();
  private final Map<FactValue.RequestForm, AskedForm> forms = new HashMap<>();
  private final Set<PersonId> colleagues;

  /**
   * @param line the line in the file; the heading is line 1
   * @param wantedPerson what stands for whom it is, and {@code wantedEntitlement} for what
   * @param person null where nobody was found
   * @param entitlement null where nothing was found
   * @param answers to its form, by key
   * @param wrong why it cannot be asked for; empty where it can
   */
  public record Line(
      long line,
      String wantedPerson,
      String wantedEntitlement,
      @Nullable PersonId person,
      @Nullable EntitlementId entitlement,
      @Nullable LocalDate until,
      String reason,
      Map<String, List<String>> answers,
      List<String> wrong) {}

  /** A file that was read, or a sentence that says why not. */
  public sealed interface Reading {
    record Good(List<Line> lines) implements Reading {}

    record Bad(String sentence) implements Reading {}
  }

  private AskSheet(
      AccessReach reach,
      AccessView access,
      LocalDate today,
      PersonId asker,
      Collection<AccessRequest> open) {
    this.reach = reach;
    this.access = access;
    this.today = today;
    this.asker = asker;
    this.colleagues = Set.copyOf(Colleagues.of(access.directory(), asker));
    this.open = open.stream().collect(Collectors.groupingBy(AccessRequest::person));
    for (Person person : access.directory().people()) {
      Stream.of(
              Stream.of(person.name().displayed(), person.name().familyFirst()),
              person.values(Attributes.USER_NAME).stream(),
              person.values(Attributes.MAIL).stream(),
              person.links().stream().map(link -> link.key()))
          .flatMap(names -> names)
          .forEach(name -> add(people, name, person));
    }
    // What cannot be asked for is not found by trying its name.
    access.apps().applications().stream()
        .filter(Application::open)
        .flatMap(app -> app.entitlements().stream())
        .filter(one -> one.role().requestable())
        .forEach(one -> add(entitlements, one.title(), one));
  }

  private static <T> void add(Map<String, Set<T>> to, String name, T what) {
    to.computeIfAbsent(key(name), k -> new LinkedHashSet<>()).add(what);
  }

  /** Names are compared without case, accents and what stands between words. */
  private static String key(String name) {
    return Folding.bare(name).replaceAll("[·\\s]+", " ").strip();
  }

  /**
   * @param open all open requests
   */
  public static Reading read(
      byte[] bytes,
      AccessReach reach,
      AccessView access,
      LocalDate today,
      PersonId asker,
      Collection<AccessRequest> open) {
    return switch (DeliveredFile.read(bytes)) {
      case DeliveredFile.Reading.Bad bad -> new Reading.Bad(bad.sentence());
      case DeliveredFile.Reading.Good good -> {
        List<String> columns =
            good.file().columns().stream().map(c -> c.toLowerCase(Locale.ROOT)).toList();
        String wrong = headingProblem(access, columns, good.file().rows().size());
        yield wrong.isEmpty()
            ? new AskSheet(reach, access, today, asker, open).lines(columns, good.file().rows())
            : new Reading.Bad(wrong);
      }
    };
  }

  private static String headingProblem(AccessView access, List<String> columns, int rows) {
    for (String needed : List.of(PERSON, ENTITLEMENT, REASON)) {
      if (!columns.contains(needed)) {
        return "There is no column “%s”. The columns are: person, application, entitlement, last day, reason."
            .formatted(needed);
      }
    }
    Set<String> questions =
        access.apps().forms().stream()
            .flatMap(form -> form.questions().stream())
            .flatMap(question -> Stream.of(key(question.label()), question.key()))
            .collect(Collectors.toSet());
    for (String column : columns) {
      if (!COLUMNS.contains(column) && !questions.contains(key(column))) {
        return "“%s” is neither a column nor a question of a request form. The columns are: person, application, entitlement, last day, reason."
            .formatted(column);
      }
    }
    return rows > MOST
        ? "The file has %,d lines; at most %,d can be asked for at once.".formatted(rows, MOST)
        : "";
  }

  private Reading lines(List<String> columns, List<DeliveredFile.Row> rows) {
    List<Line> lines = new ArrayList<>();
    Set<Wish> seen = new HashSet<>();
    for (DeliveredFile.Row row : rows) {
      lines.add(line(columns, row, seen));
    }
    return new Reading.Good(List.copyOf(lines));
  }

  private Line line(List<String> columns, DeliveredFile.Row row, Set<Wish> seen) {
    List<String> wrong = new ArrayList<>(row.wrong());
    String whom = cell(columns, row, PERSON);
    String app = cell(columns, row, APPLICATION);
    String what = (app.isEmpty() ? "" : app + " · ") + cell(columns, row, ENTITLEMENT);
    String reason = cell(columns, row, REASON);
    LocalDate until = day(cell(columns, row, LAST_DAY), wrong);
    Entitlement entitlement =
        one(
            entitlements.getOrDefault(key(what), Set.of()),
            "“%s” cannot be asked for.",
            what,
            wrong);
    Person person =
        entitlement == null
            ? null
            : one(
                people.getOrDefault(key(whom), Set.of()).stream()
                    .filter(p -> Asking.mayAskFor(reach, p, entitlement))
                    .collect(Collectors.toSet()),
                "You cannot ask for “%s”.",
                whom,
                wrong);
    Map<String, List<String>> answers =
        entitlement == null ? Map.of() : answers(columns, row, access.apps().form(entitlement));
    if (person != null && entitlement != null) {
      Wish wish = new Wish(asker, person.id(), entitlement.id());
      if (wrong.isEmpty()) {
        formProblems(access.apps().form(entitlement), answers, wrong);
        Asking.problems(
                reach,
                access,
                today,
                wish,
                until,
                reason,
                open.getOrDefault(person.id(), List.of()))
            .stream()
            .map(Problem::sentence)
            .forEach(wrong::add);
      }
      if (!seen.add(wish)) {
        wrong.add("An earlier line asks for the same.");
      }
    }
    return new Line(
        row.line(),
        whom,
        what,
        person == null ? null : person.id(),
        entitlement == null ? null : entitlement.id(),
        until,
        reason,
        answers,
        List.copyOf(wrong));
  }

  private Map<String, List<String>> answers(
      List<String> columns, DeliveredFile.Row row, FactValue.RequestForm form) {
    Map<String, List<String>> answers = new LinkedHashMap<>();
    for (Question question : form.questions()) {
      for (int at = 0; at < columns.size(); at++) {
        String cell = row.cells().get(at);
        if (!cell.isEmpty() && names(columns.get(at), question)) {
          answers.put(question.key(), said(question, cell));
        }
      }
    }
    return answers;
  }

  private static boolean names(String column, Question question) {
    return column.equals(question.key()) || key(column).equals(key(question.label()));
  }

  /** As a form takes it: a choice in its own spelling, people by id. */
  private List<String> said(Question question, String cell) {
    List<String> parts =
        question.kind() instanceof Question.SeveralOf ? List.of(cell.split(";")) : List.of(cell);
    return parts.stream().map(String::strip).map(part -> said(question.kind(), part)).toList();
  }

  private String said(Question.Kind kind, String part) {
    return switch (kind) {
      case Question.YesNo k ->
          part.equalsIgnoreCase("yes") ? "true" : part.equalsIgnoreCase("no") ? "false" : part;
      case Question.OneOf k -> choice(k.choices(), part);
      case Question.SeveralOf k -> choice(k.choices(), part);
      case Question.Colleague k -> {
        yield people.getOrDefault(key(part), Set.of()).stream()
            .map(Person::id)
            .filter(colleagues::contains)
            .findFirst()
            .map(id -> id.value().toString())
            .orElse(part);
      }
      case Question.ShortText k -> part;
      case Question.LongText k -> part;
      case Question.Number k -> part;
      case Question.Day k -> part;
    };
  }

  private static String choice(List<String> choices, String part) {
    return choices.stream().filter(each -> key(each).equals(key(part))).findFirst().orElse(part);
  }

  private void formProblems(
      FactValue.RequestForm form, Map<String, List<String>> answers, List<String> wrong) {
    AskedForm asked = forms.computeIfAbsent(form, f -> AskedForm.of(f, access.directory(), asker));
    for (Problem problem : asked.fill(answers, today).problems()) {
      form.questions().stream()
          .filter(question -> problem.field().equals(AskedForm.field(question)))
          .forEach(question -> wrong.add("%s: %s".formatted(question.label(), problem.sentence())));
    }
  }

  private static String cell(List<String> columns, DeliveredFile.Row row, String column) {
    int at = columns.indexOf(column);
    return at < 0 ? "" : row.cells().get(at);
  }

  private static @Nullable LocalDate day(String cell, List<String> wrong) {
    if (cell.isEmpty()) {
      return null;
    }
    try {
      LocalDate day = LocalDate.parse(cell);
      if (day.getYear() >= 1900 && day.getYear() <= 9000) {
        return day;
      }
    } catch (DateTimeParseException e) {
      // Said below, with what was there.
    }
    wrong.add("“%s” is not a day. Write it as 2027-03-31.".formatted(cell));
    return null;
  }

  private static <T> @Nullable T one(Set<T> found, String none, String name, List<String> wrong) {
    if (found.size() == 1) {
      return found.iterator().next();
    }
    wrong.add(
        found.isEmpty()
            ? none.formatted(name)
            : "“%s” matches %d. Use something that only one of them has, such as a sign-in name."
                .formatted(name, found.size()));
    return null;
  }
}
