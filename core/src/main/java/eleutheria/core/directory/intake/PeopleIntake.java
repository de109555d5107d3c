package eleutheria.core.directory.intake;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Identity;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.PlainText;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Judges a file of people, line by line, and works out what its good lines change. */
final class PeopleIntake {
  private final Moment moment;
  private final DirectoryView directory;
  private final Intake.Delivery delivery;
  private final Matching matching;
  private final LineNotes notes;
  private final Map<String, Integer> columnOf = new HashMap<>();

  /** Attributes that the file sets, by column. */
  private final Map<Integer, String> attributes = new LinkedHashMap<>();

  /** Keys that the source has now. */
  private final Map<String, PersonId> known = new LinkedHashMap<>();

  private final Map<String, DeliveredFile.Row> rowOf = new LinkedHashMap<>();

  PeopleIntake(Moment moment, Intake.Delivery delivery) {
    this.moment = moment;
    this.directory = moment.directory();
    this.delivery = delivery;
    this.matching = delivery.matching();
    this.notes = new LineNotes(delivery.file().rows());
  }

  Preview judge() {
    List<Problem> problems = matchingProblems();
    if (!problems.isEmpty()) {
      return new Preview(List.of(), List.of(), 0, problems, List.of(), List.of());
    }
    findKnown();
    judgeKeys();
    delivery.file().rows().forEach(this::judgeCells);
    judgeUserNames();
    judgeManagers();
    judgeReach();
    judgeIdentities();
    return workOut();
  }

  // ---- the matching

  private List<Problem> matchingProblems() {
    List<Problem> problems = new ArrayList<>();
    List<String> headings = delivery.file().columns();
    for (int i = 0; i < headings.size(); i++) {
      String target = matching.columns().getOrDefault(headings.get(i), Matching.NONE);
      columnOf.putIfAbsent(target, i);
      if (target.startsWith(Matching.ATTRIBUTE)) {
        String name = target.substring(Matching.ATTRIBUTE.length());
        FactValue.Definition definition = directory.definitions().get(name);
        if (definition == null) {
          problems.add(matchingProblem("There is no attribute “" + name + "”."));
        } else {
          attributes.put(i, name);
        }
      }
    }
    for (String doubled : matching.doubled()) {
      problems.add(matchingProblem("Two columns are matched to “" + doubled + "”."));
    }
    Integer key = columnOf.get(Matching.KEY);
    if (key == null) {
      problems.add(
          matchingProblem("Say which column is the key: a staff number that never changes."));
    } else if (mostlyMail(key)) {
      problems.add(
          matchingProblem(
              "An email address is not a key, because it can pass from one person to another. Choose a number that never changes."));
    }
    if (!columnOf.containsKey(Matching.DISPLAYED)
        && !(columnOf.containsKey(Matching.GIVEN) && columnOf.containsKey(Matching.FAMILY))) {
      problems.add(
          matchingProblem("Say which columns hold the name: given and family, or displayed."));
    }
    return problems;
  }

  private static Problem matchingProblem(String sentence) {
    return Problem.invalid("intake.matching", "columns", sentence);
  }

  private boolean mostlyMail(int column) {
    List<DeliveredFile.Row> rows = delivery.file().rows();
    long mails = rows.stream().filter(row -> row.cells().get(column).contains("@")).count();
    return mails * 2 > rows.size();
  }

  // ---- the lines

  private void findKnown() {
    for (Person person : directory.people()) {
      person.links().stream()
          .filter(link -> link.source().equals(delivery.source()))
          .forEach(link -> known.put(link.key(), person.id()));
    }
  }

  private void judgeKeys() {
    for (DeliveredFile.Row row : delivery.file().rows()) {
      String key = cell(row, Matching.KEY);
      if (key.isEmpty()) {
        notes.wrong(row, "The key is missing.");
        continue;
      }
      DeliveredFile.Row first = rowOf.putIfAbsent(key, row);
      if (first != null) {
        notes.wrong(row, "The key “%s” is also on line %d.".formatted(key, first.line()));
        notes.wrong(first, "The key “%s” is also on line %d.".formatted(key, row.line()));
      }
    }
  }

  private void judgeCells(DeliveredFile.Row row) {
    if (row.cells().stream().anyMatch(PlainText::hides)) {
      notes.wrong(row, PlainText.SENTENCE);
    }
    if (name(row).displayed().isEmpty()) {
      notes.wrong(row, "The name is missing.");
    }
    LocalDate first = day(row, Matching.FIRST_DAY);
    LocalDate last = day(row, Matching.LAST_DAY);
    if (first != null && last != null && last.isBefore(first)) {
      notes.wrong(row, "The last day %s is before the first, %s.".formatted(last, first));
    }
    attributes.forEach((column, name) -> judgeValue(row, name, row.cells().get(column)));
    PersonId id = known.get(cell(row, Matching.KEY));
    Optional<Person> person = id == null ? Optional.empty() : directory.person(id);
    boolean gone = last != null && !Moments.endOf(last, moment.zone()).isAfter(moment.at());
    if (person.isPresent() && person.get().status() == PersonStatus.DEPARTED && !gone) {
      notes.wrong(
          row,
          "%s departed on %s. A file cannot bring anyone back; a return is a separate act."
              .formatted(
                  person.get().name().displayed(),
                  person.get().since().atZone(moment.zone()).toLocalDate()));
    }
  }

  private void judgeValue(DeliveredFile.Row row, String name, String value) {
    FactValue.Definition definition = directory.definitions().get(name);
    if (definition == null || value.isEmpty()) {
      return;
    }
    switch (definition.type()) {
      case NUMBER -> {
        try {
          new BigDecimal(value);
        } catch (NumberFormatException e) {
          notes.wrong(row, "%s: “%s” is not a number.".formatted(definition.label(), value));
        }
      }
      case DAY -> {
        try {
          LocalDate.parse(value);
        } catch (DateTimeParseException e) {
          notes.wrong(row, badDay(definition.label(), value));
        }
      }
      case YESNO -> {
        if (!value.equals("true") && !value.equals("false")) {
          notes.wrong(
              row, "%s: “%s” is neither true nor false.".formatted(definition.label(), value));
        }
      }
      case TEXT -> {
        if (name.equals(Attributes.MAIL) && !value.matches("[^\\s@]+@[^\\s@]+")) {
          notes.wrong(row, "“%s” is not an email address.".formatted(value));
        }
      }
      case PERSON -> {
        // Judged with all lines at hand, in judgeManagers.
      }
    }
  }

  private @Nullable LocalDate day(DeliveredFile.Row row, String target) {
    String value = cell(row, target);
    if (value.isEmpty()) {
      return null;
    }
    try {
      return LocalDate.parse(value);
    } catch (DateTimeParseException e) {
      notes.wrong(row, badDay(target.equals(Matching.FIRST_DAY) ? "First day" : "Last day", value));
      return null;
    }
  }

  private static String badDay(String what, String value) {
    return "%s: “%s” is not a day; write it as 2026-09-30."
        .formatted(what, DeliveredFile.shortened(value));
  }

  private void judgeUserNames() {
    Integer column = columnOf.get(Matching.ATTRIBUTE + Attributes.USER_NAME);
    if (column == null) {
      return;
    }
    Map<String, DeliveredFile.Row> seen = new HashMap<>();
    for (DeliveredFile.Row row : delivery.file().rows()) {
      String userName = row.cells().get(column);
      if (userName.isEmpty()) {
        continue;
      }
      DeliveredFile.Row first = seen.putIfAbsent(Folding.fold(userName), row);
      if (first != null) {
        notes.wrong(
            row, "The sign-in name “%s” is also on line %d.".formatted(userName, first.line()));
      }
      PersonId self = known.get(cell(row, Matching.KEY));
      directory
          .byUserName(userName)
          .filter(other -> !other.equals(self))
          .flatMap(directory::person)
          .ifPresent(
              other ->
                  notes.wrong(
                      row,
                      "The sign-in name “%s” belongs to %s."
                          .formatted(userName, other.name().displayed())));
    }
  }

  /** Managers are keys of the source; none may be unknown, bad, or lead back to themselves. */
  private void judgeManagers() {
    Integer column = columnOf.get(Matching.ATTRIBUTE + Attributes.MANAGER);
    if (column == null) {
      return;
    }
    int before;
    do {
      before = notes.count();
      for (DeliveredFile.Row row : delivery.file().rows()) {
        String manager = row.cells().get(column);
        DeliveredFile.Row line = rowOf.get(manager);
        if (manager.isEmpty() || known.containsKey(manager)) {
          continue;
        }
        if (line == null) {
          notes.wrong(row, "The manager “%s” is unknown.".formatted(manager));
        } else if (!notes.good(line)) {
          notes.wrong(
              row,
              "The manager “%s” is new on line %d, which is invalid."
                  .formatted(manager, line.line()));
        }
      }
    } while (notes.count() > before);
    judgeManagerCycles(column);
  }

  private void judgeManagerCycles(int column) {
    Map<String, String> managerOf = new HashMap<>();
    Map<PersonId, String> keyOf = new HashMap<>();
    known.forEach((key, id) -> keyOf.put(id, key));
    known.forEach(
        (key, id) ->
            directory
                .person(id)
                .map(person -> person.value(Attributes.MANAGER))
                .map(manager -> keyOf.get(PersonId.parse(manager)))
                .ifPresent(manager -> managerOf.put(key, manager)));
    rowOf.forEach(
        (key, row) -> {
          if (notes.good(row)) {
            managerOf.put(key, row.cells().get(column));
          }
        });
    Set<String> settled = new HashSet<>();
    for (String start : List.copyOf(rowOf.keySet())) {
      List<String> path = new ArrayList<>();
      String key = start;
      while (key != null && !key.isEmpty() && !settled.contains(key) && !path.contains(key)) {
        path.add(key);
        key = managerOf.get(key);
      }
      if (key != null && path.contains(key)) {
        List<String> cycle = path.subList(path.indexOf(key), path.size());
        for (String each : cycle) {
          DeliveredFile.Row row = rowOf.get(each);
          if (row != null) {
            notes.wrong(
                row,
                "The managers form a circle: %s → %s."
                    .formatted(String.join(" → ", cycle), cycle.getFirst()));
          }
        }
      }
      settled.addAll(path);
    }
  }

  private void judgeReach() {
    if (moment.authority().units(Power.PEOPLE_IMPORT) == null) {
      return;
    }
    Integer column = columnOf.get(Matching.ATTRIBUTE + Attributes.UNIT);
    for (DeliveredFile.Row row : delivery.file().rows()) {
      PersonId id = known.get(cell(row, Matching.KEY));
      String before =
          id == null ? null : directory.person(id).map(p -> p.value(Attributes.UNIT)).orElse(null);
      String after = column == null ? before : row.cells().get(column);
      boolean reached =
          moment.authority().reaches(Power.PEOPLE_IMPORT, after)
              && (id == null || moment.authority().reaches(Power.PEOPLE_IMPORT, before));
      if (!reached) {
        notes.wrong(row, "This person is outside your reach.");
      }
    }
  }

  /** Whoever can change by what somebody signs in can become them. */
  private void judgeIdentities() {
    for (DeliveredFile.Row row : delivery.file().rows()) {
      PersonId id = known.get(cell(row, Matching.KEY));
      if (id != null && changesIdentity(row, id)) {
        Identity.missing(moment, id).ifPresent(problem -> notes.wrong(row, problem.sentence()));
      }
    }
  }

  private boolean changesIdentity(DeliveredFile.Row row, PersonId id) {
    return attributes.entrySet().stream()
        .filter(e -> Identity.carries(new FactKey.Attribute(id, e.getValue(), "")))
        .anyMatch(
            e -> {
              FactValue.Definition definition = directory.definitions().get(e.getValue());
              List<String> before =
                  directory.person(id).map(p -> p.values(e.getValue())).orElse(List.of());
              return definition != null
                  && !before.equals(values(row.cells().get(e.getKey()), definition, known));
            });
  }

  // ---- the effect

  private Preview workOut() {
    Edits edits = moment.edits();
    List<Preview.Line> lines = new ArrayList<>();
    List<ObjectId> invited = new ArrayList<>();
    Map<String, PersonId> ids = new LinkedHashMap<>(known);
    rowOf.forEach(
        (key, row) -> {
          if (notes.good(row) && !ids.containsKey(key)) {
            ids.put(key, new PersonId(moment.ids().get()));
          }
        });
    for (DeliveredFile.Row row : delivery.file().rows()) {
      String key = cell(row, Matching.KEY);
      String label = name(row).familyFirst();
      if (!notes.good(row)) {
        lines.add(
            new Preview.Line(
                row.line(), Preview.Verdict.BAD, key, label, List.of(), notes.of(row)));
        continue;
      }
      PersonId id = requireNonNull(ids.get(key));
      boolean added = !known.containsKey(key);
      List<Preview.Difference> differences = new ArrayList<>();
      if (added) {
        edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
        edits.put(
            new FactKey.Link(delivery.source(), ObjectKind.PERSON, key), new FactValue.Ref(id));
        invited.add(id);
      }
      changeName(edits, id, row, differences);
      changeStatus(edits, id, row, added, differences);
      changeAttributes(edits, id, row, ids, differences);
      lines.add(
          new Preview.Line(
              row.line(),
              added
                  ? Preview.Verdict.ADDED
                  : differences.isEmpty() ? Preview.Verdict.SAME : Preview.Verdict.CHANGED,
              key,
              label,
              differences,
              List.of()));
    }
    List<Preview.Ended> ended = end(edits);
    return new Preview(lines, ended, standing(), List.of(), edits.list(), invited);
  }

  private int standing() {
    return (int)
        known.values().stream()
            .flatMap(id -> directory.person(id).stream())
            .filter(person -> person.status() != PersonStatus.DEPARTED)
            .count();
  }

  private void changeName(
      Edits edits, PersonId id, DeliveredFile.Row row, List<Preview.Difference> differences) {
    FactValue.PersonName wanted = name(row);
    FactValue before = moment.facts().valueAt(new FactKey.Naming(id), moment.at());
    if (!wanted.equals(before)) {
      edits.put(new FactKey.Naming(id), wanted);
      differences.add(
          new Preview.Difference(
              "Name",
              before instanceof FactValue.PersonName name ? name.displayed() : null,
              wanted.displayed()));
    }
  }

  private void changeStatus(
      Edits edits,
      PersonId id,
      DeliveredFile.Row row,
      boolean added,
      List<Preview.Difference> differences) {
    boolean days =
        columnOf.containsKey(Matching.FIRST_DAY) || columnOf.containsKey(Matching.LAST_DAY);
    if (!added && !days) {
      return;
    }
    FactKey.Status key = new FactKey.Status(id);
    List<Spell> before = moment.facts().from(key, moment.at());
    List<Spell> wanted = statusTimeline(key, row);
    int edited = edits.size();
    edits.timeline(key, wanted);
    if (edits.size() > edited) {
      differences.add(
          new Preview.Difference("Status", before.isEmpty() ? null : told(before), told(wanted)));
    }
  }

  private List<Spell> statusTimeline(FactKey.Status key, DeliveredFile.Row row) {
    Instant at = moment.at();
    LocalDate first = day(row, Matching.FIRST_DAY);
    LocalDate last = day(row, Matching.LAST_DAY);
    Instant start = first == null ? at : Moments.startOf(first, moment.zone());
    Instant end = last == null ? Moments.FOREVER : Moments.endOf(last, moment.zone());
    FactValue.Standing current =
        moment.facts().valueAt(key, at) instanceof FactValue.Standing standing ? standing : null;
    List<Spell> wanted = new ArrayList<>();
    if (!end.isAfter(at)) {
      wanted.add(
          new Spell(
              current != null && current.status() == PersonStatus.DEPARTED
                  ? current
                  : new FactValue.Standing(PersonStatus.DEPARTED, last),
              at,
              Moments.FOREVER));
      return wanted;
    }
    if (start.isAfter(at)) {
      wanted.add(new Spell(FactValue.Standing.of(PersonStatus.EXPECTED), at, start));
    }
    FactValue.Standing working = FactValue.Standing.of(PersonStatus.ACTIVE);
    if (!start.isAfter(at)) {
      if (current != null
          && (current.status() == PersonStatus.ACTIVE || current.status() == PersonStatus.PAUSED)) {
        working = current;
      } else if (first != null && first.isBefore(moment.today())) {
        working = new FactValue.Standing(PersonStatus.ACTIVE, first);
      }
    }
    wanted.add(new Spell(working, start.isAfter(at) ? start : at, end));
    if (end.isBefore(Moments.FOREVER)) {
      wanted.add(new Spell(FactValue.Standing.of(PersonStatus.DEPARTED), end, Moments.FOREVER));
    }
    return wanted;
  }

  /** "expected, active from 2026-12-01, departed from 2027-01-01". */
  private String told(List<Spell> spells) {
    List<String> parts = new ArrayList<>();
    for (Spell spell : spells) {
      String word = ((FactValue.Standing) spell.value()).status().word();
      parts.add(
          spell.from().isAfter(moment.at())
              ? word + " from " + spell.from().atZone(moment.zone()).toLocalDate()
              : word);
    }
    return String.join(", ", parts);
  }

  private void changeAttributes(
      Edits edits,
      PersonId id,
      DeliveredFile.Row row,
      Map<String, PersonId> ids,
      List<Preview.Difference> differences) {
    attributes.forEach(
        (column, name) -> {
          FactValue.Definition definition = directory.definitions().get(name);
          if (definition == null) {
            return;
          }
          List<String> before = directory.person(id).map(p -> p.values(name)).orElse(List.of());
          List<String> wanted = values(row.cells().get(column), definition, ids);
          if (before.equals(wanted)) {
            return;
          }
          for (String value : before) {
            FactKey.Attribute key = Attributes.keyOf(moment, id, name, definition.many(), value);
            boolean stays = wanted.contains(value) || (!definition.many() && !wanted.isEmpty());
            if (!stays) {
              edits.end(key);
            }
          }
          for (String value : wanted) {
            edits.put(
                Attributes.keyOf(moment, id, name, definition.many(), value),
                new FactValue.Text(value));
          }
          differences.add(
              new Preview.Difference(
                  definition.label(),
                  told(before, definition.type()),
                  told(wanted, definition.type(), row, column)));
        });
  }

  private List<String> values(
      String cell, FactValue.Definition definition, Map<String, PersonId> ids) {
    List<String> values = new ArrayList<>();
    for (String part : definition.many() ? cell.split("\\|") : new String[] {cell}) {
      String value = part.strip();
      if (value.isEmpty() || values.contains(value)) {
        continue;
      }
      values.add(
          switch (definition.type()) {
            case PERSON -> {
              PersonId person = ids.get(value);
              yield person == null ? value : person.value().toString();
            }
            case NUMBER -> new BigDecimal(value).stripTrailingZeros().toPlainString();
            default -> value;
          });
    }
    values.sort(null);
    return values;
  }

  private @Nullable String told(List<String> values, ValueType type) {
    if (values.isEmpty()) {
      return null;
    }
    return type != ValueType.PERSON
        ? String.join(", ", values)
        : directory
            .person(PersonId.parse(values.getFirst()))
            .map(person -> person.name().displayed())
            .orElse(values.getFirst());
  }

  private @Nullable String told(
      List<String> values, ValueType type, DeliveredFile.Row row, int column) {
    if (values.isEmpty() || type != ValueType.PERSON) {
      return told(values, type);
    }
    DeliveredFile.Row line = rowOf.get(row.cells().get(column));
    return line == null ? told(values, type) : name(line).displayed();
  }

  /** In a file of everything, whoever is not named ends; a bad line still names someone. */
  private List<Preview.Ended> end(Edits edits) {
    List<Preview.Ended> ended = new ArrayList<>();
    if (delivery.scope() != Intake.Scope.ALL) {
      return ended;
    }
    known.forEach(
        (key, id) -> {
          Optional<Person> person = directory.person(id);
          if (rowOf.containsKey(key)
              || person.isEmpty()
              || person.get().status() == PersonStatus.DEPARTED
              || !moment
                  .authority()
                  .reaches(Power.PEOPLE_IMPORT, person.get().value(Attributes.UNIT))) {
            return;
          }
          edits.put(new FactKey.Status(id), FactValue.Standing.of(PersonStatus.DEPARTED));
          DepartureEdits.ofListed(moment, edits, id);
          ended.add(new Preview.Ended(id, key, person.get().name().familyFirst()));
        });
    return ended;
  }

  // ---- cells

  private String cell(DeliveredFile.Row row, String target) {
    Integer column = columnOf.get(target);
    return column == null ? "" : row.cells().get(column);
  }

  private FactValue.PersonName name(DeliveredFile.Row row) {
    String given = cell(row, Matching.GIVEN);
    String family = cell(row, Matching.FAMILY);
    String displayed = cell(row, Matching.DISPLAYED);
    return new FactValue.PersonName(
        given, family, displayed.isEmpty() ? (given + " " + family).strip() : displayed);
  }
}
