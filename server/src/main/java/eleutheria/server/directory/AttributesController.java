package eleutheria.server.directory;

import eleutheria.core.directory.AttributeDecisions;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.reach.Reached;
import eleutheria.server.refs.PersonView;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The definitions of attributes. */
@RestController
class AttributesController {
  private static final int MOST_VALUES = 50;

  private final World world;
  private final Commands commands;

  AttributesController(World world, Commands commands) {
    this.world = world;
    this.commands = commands;
  }

  /**
   * @param type text, number, day, yesno or person
   * @param source the id of the source that owns it; null where administrators set it
   * @param people how many within reach have a value
   */
  record AttributeLine(
      String name,
      String label,
      String type,
      boolean many,
      boolean personal,
      @Nullable String source,
      @Nullable String sourceName,
      int people) {}

  record Definition(
      @NotNull @Size(max = 200) String label,
      @NotNull @Pattern(regexp = "text|number|day|yesno|person") String type,
      boolean many,
      boolean personal,
      @Nullable UUID source) {
    FactValue.Definition value() {
      return new FactValue.Definition(
          label.strip(),
          ValueType.of(type),
          many,
          personal,
          source == null ? null : new SourceId(source));
    }
  }

  /**
   * @param base the definition as it was seen; null for a new attribute
   */
  record Define(@Nullable @Valid Definition base, @NotNull @Valid Definition wanted) {}

  @GetMapping("/api/attributes")
  @Needs(Power.PEOPLE_READ)
  List<AttributeLine> attributes(
      Viewer viewer, @RequestParam(required = false) @Nullable Instant asOf) {
    DirectoryView directory = world.at(asOf);
    Reached reached = Reached.by(viewer, directory, world.now());
    List<AttributeLine> lines = new ArrayList<>();
    directory
        .definitions()
        .forEach(
            (name, d) ->
                lines.add(
                    new AttributeLine(
                        name,
                        d.label(),
                        d.type().word(),
                        d.many(),
                        d.personal(),
                        d.source() == null ? null : d.source().value().toString(),
                        d.source() == null ? null : PersonView.sourceName(directory, d.source()),
                        (int)
                            reached.people().stream()
                                .filter(p -> !p.values(name).isEmpty())
                                .count())));
    return lines;
  }

  /**
   * @param people how many within reach have this value who have not departed
   */
  record ValueLine(String value, int people) {}

  /** The values that people within reach have, most had first, at most {@value #MOST_VALUES}. */
  @GetMapping("/api/attributes/{name}/values")
  @Needs(Power.PEOPLE_READ)
  List<ValueLine> values(
      Viewer viewer, @PathVariable String name, @RequestParam(defaultValue = "") String find) {
    DirectoryView directory = world.now();
    if (!directory.definitions().containsKey(name)) {
      throw Refusal.of(Problem.absent("attribute"));
    }
    String wanted = Folding.bare(find.strip());
    Map<String, Integer> counts = new HashMap<>();
    Reached.by(viewer, directory, directory).people().stream()
        .filter(p -> p.status() != PersonStatus.DEPARTED)
        .flatMap(p -> p.values(name).stream().distinct())
        .filter(value -> wanted.isEmpty() || Folding.bare(value).contains(wanted))
        .forEach(value -> counts.merge(value, 1, Integer::sum));
    return counts.entrySet().stream()
        .sorted(
            Map.Entry.<String, Integer>comparingByValue()
                .reversed()
                .thenComparing(Map.Entry.comparingByKey()))
        .limit(MOST_VALUES)
        .map(e -> new ValueLine(e.getKey(), e.getValue()))
        .toList();
  }

  @PutMapping("/api/attributes/{name}")
  @Needs(value = Power.SETTINGS_EDIT, foresees = true)
  Receipt define(Viewer viewer, @PathVariable String name, @Valid @RequestBody Define form) {
    return commands.perform(
        viewer,
        null,
        String.class,
        moment ->
            AttributeDecisions.define(
                moment,
                name,
                form.base() == null ? null : form.base().value(),
                form.wanted().value()));
  }
}
