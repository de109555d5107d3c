package eleutheria.server.directory;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.intake.DeliveredFile;
import eleutheria.core.directory.intake.Intake;
import eleutheria.core.directory.intake.Matching;
import eleutheria.core.directory.intake.Preview;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.SourceId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.reach.Reached;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Files of people and groups: dropped, matched, looked at, imported. */
@RestController
class DeliveryController {
  private final World world;
  private final Acts acts;
  private final Commands commands;
  private final DeliveryStore store;
  private final Organisation organisation;
  private final Clock clock;
  private final Cache<PreviewKey, Preview> previews = Caffeine.newBuilder().maximumSize(4).build();

  private record PreviewKey(UUID delivery, long position, Matching matching, Intake.Scope scope) {}

  DeliveryController(
      World world,
      Acts acts,
      Commands commands,
      DeliveryStore store,
      Organisation organisation,
      Clock clock) {
    this.world = world;
    this.acts = acts;
    this.commands = commands;
    this.store = store;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * @param people how many are linked to it now
   * @param last when a file of it was imported last; null if never
   */
  record SourceLine(
      String id,
      String name,
      int people,
      int groups,
      @Nullable Instant last,
      @Nullable Long position) {}

  /**
   * A dropped file.
   *
   * @param columns for each heading what it is taken for, and its first values
   * @param targets what a column can be
   * @param scope these_rows or all
   */
  record DeliveryView(
      String id,
      String source,
      String sourceName,
      boolean newSource,
      String fileName,
      int rows,
      List<ColumnView> columns,
      List<TargetView> targets,
      String scope,
      @Nullable Long position) {}

  record ColumnView(String heading, String target, List<String> sample) {}

  record TargetView(String target, String label, String of) {}

  record Match(@NotNull @Size(max = 100) Map<String, String> columns, @NotNull String scope) {}

  /**
   * What importing the file would do.
   *
   * @param known how many of the source stand now; of them {@code ended} would end
   * @param endsMany whether the number of endings must be typed
   * @param lines those of the verdict that was asked for
   */
  record PreviewView(
      String digest,
      int added,
      int changed,
      int same,
      int bad,
      int ended,
      int known,
      boolean endsMany,
      List<String> problems,
      int total,
      List<LineView> lines) {}

  record LineView(
      @Nullable Long line,
      String verdict,
      String key,
      String label,
      List<DifferenceView> differences,
      List<String> wrong) {}

  record DifferenceView(String what, @Nullable String before, @Nullable String after) {}

  record BringIn(
      @NotNull @Size(max = 64) String digest,
      @Nullable Integer endings,
      boolean leaveOutBad,
      boolean invite,
      @Nullable @Size(max = 1000) String reason) {}

  @GetMapping("/api/sources")
  @Needs({Power.PEOPLE_READ, Power.PEOPLE_IMPORT})
  List<SourceLine> sources(Viewer viewer) {
    DirectoryView directory = world.now();
    Reached reached = Reached.by(viewer, directory, world.now());
    List<SourceLine> lines = new ArrayList<>();
    Map<SourceId, DeliveryStore.Imported> last = store.lastImports(directory.sources().keySet());
    directory
        .sources()
        .forEach(
            (id, delivery) -> {
              DeliveryStore.Imported newest = last.get(id);
              lines.add(
                  new SourceLine(
                      id.value().toString(),
                      delivery.name(),
                      (int)
                          reached.people().stream()
                              .filter(p -> p.links().stream().anyMatch(l -> l.source().equals(id)))
                              .count(),
                      (int)
                          directory.groups().stream()
                              .filter(
                                  g ->
                                      directory.links(g.id()).stream()
                                          .anyMatch(l -> l.source().equals(id)))
                              .count(),
                      newest == null ? null : newest.at(),
                      newest == null ? null : newest.position()));
            });
    lines.sort(Comparator.comparing(line -> line.name().toLowerCase(Locale.ROOT)));
    return lines;
  }

  @PostMapping("/api/deliveries")
  @Needs(Power.PEOPLE_IMPORT)
  DeliveryView drop(
      Viewer viewer,
      @RequestParam MultipartFile file,
      @RequestParam(required = false) @Nullable UUID source,
      @RequestParam(required = false) @Nullable String sourceName)
      throws IOException {
    DirectoryView directory = world.now();
    SourceId id = source == null ? null : new SourceId(source);
    FactValue.Delivery known = id == null ? null : directory.sources().get(id);
    String name = known != null ? known.name() : sourceName == null ? "" : sourceName.strip();
    if (source != null && known == null) {
      throw Refusal.of(Problem.absent("source"));
    }
    if (name.isEmpty() || name.length() > 80) {
      throw Refusal.invalid(
          "source.name", "sourceName", "A source has a name of 1 to 80 characters.");
    }
    if (known == null
        && directory.sources().values().stream().anyMatch(d -> d.name().equalsIgnoreCase(name))) {
      throw Refusal.invalid(
          "source.taken", "sourceName", "There is a source “" + name + "” already; choose it.");
    }
    byte[] bytes = file.getBytes();
    DeliveredFile read = read(bytes);
    Matching matching = Matching.guess(read.columns(), directory.definitions());
    if (known != null && known.columns().keySet().containsAll(read.columns())) {
      Map<String, String> kept = new LinkedHashMap<>();
      read.columns().forEach(column -> kept.put(column, known.columns().get(column)));
      matching = new Matching(kept);
    }
    DeliveryStore.Staged staged =
        new DeliveryStore.Staged(
            UUID.randomUUID(),
            id == null ? new SourceId(UUID.randomUUID()) : id,
            name,
            fileName(file.getOriginalFilename()),
            sha256(bytes),
            bytes,
            matching,
            Intake.Scope.THESE_ROWS,
            null);
    store.stage(staged, viewer.person(), clock.instant());
    return view(staged, read);
  }

  private static String fileName(@Nullable String name) {
    String plain = name == null ? "file.csv" : name.replaceAll(".*[/\\\\]", "");
    String clean = plain.replaceAll("\\p{Cntrl}", "");
    return clean.length() > 200 ? clean.substring(0, 200) : clean;
  }

  private static DeliveredFile read(byte[] bytes) {
    return switch (DeliveredFile.read(bytes)) {
      case DeliveredFile.Reading.Good good -> good.file();
      case DeliveredFile.Reading.Bad bad ->
          throw Refusal.invalid("file.unreadable", "file", bad.sentence());
    };
  }

  private static String sha256(byte[] bytes) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }

  @GetMapping("/api/deliveries/{id}")
  @Needs(Power.PEOPLE_IMPORT)
  DeliveryView delivery(Viewer viewer, @PathVariable UUID id) {
    DeliveryStore.Staged staged = staged(viewer, id);
    return view(staged, read(staged.content()));
  }

  private DeliveryStore.Staged staged(Viewer viewer, UUID id) {
    return store
        .find(id, viewer.person())
        .orElseThrow(() -> Refusal.of(Problem.absent("delivery")));
  }

  private DeliveryView view(DeliveryStore.Staged staged, DeliveredFile file) {
    DirectoryView directory = world.now();
    List<ColumnView> columns = new ArrayList<>();
    for (int i = 0; i < file.columns().size(); i++) {
      int column = i;
      String heading = file.columns().get(i);
      columns.add(
          new ColumnView(
              heading,
              staged.matching().columns().getOrDefault(heading, Matching.NONE),
              file.rows().stream()
                  .map(row -> row.cells().get(column))
                  .filter(cell -> !cell.isEmpty())
                  .distinct()
                  .limit(3)
                  .toList()));
    }
    return new DeliveryView(
        staged.id().toString(),
        staged.source().value().toString(),
        staged.sourceName(),
        !directory.sources().containsKey(staged.source()),
        staged.fileName(),
        file.rows().size(),
        columns,
        targets(directory),
        staged.scope().name().toLowerCase(Locale.ROOT),
        staged.position());
  }

  private static List<TargetView> targets(DirectoryView directory) {
    List<TargetView> targets = new ArrayList<>();
    targets.add(new TargetView(Matching.NONE, "leave out", "any"));
    targets.add(new TargetView(Matching.KEY, "Key, never changes", "people"));
    targets.add(new TargetView(Matching.GIVEN, "Given name", "people"));
    targets.add(new TargetView(Matching.FAMILY, "Family name", "people"));
    targets.add(new TargetView(Matching.DISPLAYED, "Name as displayed", "people"));
    targets.add(new TargetView(Matching.FIRST_DAY, "First day", "people"));
    targets.add(new TargetView(Matching.LAST_DAY, "Last day", "people"));
    directory
        .definitions()
        .forEach(
            (name, d) ->
                targets.add(new TargetView(Matching.ATTRIBUTE + name, d.label(), "people")));
    targets.add(new TargetView(Matching.GROUP, "Group's key", "groups"));
    targets.add(new TargetView(Matching.GROUP_NAME, "Group's name", "groups"));
    targets.add(new TargetView(Matching.MEMBER, "Person in it, by key", "groups"));
    targets.add(new TargetView(Matching.MEMBER_GROUP, "Group in it, by key", "groups"));
    return targets;
  }

  @PutMapping("/api/deliveries/{id}")
  @Needs(Power.PEOPLE_IMPORT)
  DeliveryView match(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody Match form) {
    DeliveryStore.Staged staged = staged(viewer, id);
    DeliveredFile file = read(staged.content());
    Map<String, String> columns = new LinkedHashMap<>();
    file.columns().forEach(c -> columns.put(c, form.columns().getOrDefault(c, Matching.NONE)));
    store.match(
        id, new Matching(columns), Intake.Scope.valueOf(form.scope().toUpperCase(Locale.ROOT)));
    return view(staged(viewer, id), file);
  }

  /**
   * @param verdict added, changed, same, bad or ended: which lines to give
   */
  @GetMapping("/api/deliveries/{id}/preview")
  @Needs(Power.PEOPLE_IMPORT)
  PreviewView preview(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(defaultValue = "added") String verdict,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit) {
    DeliveryStore.Staged staged = staged(viewer, id);
    Preview preview =
        previews.get(
            new PreviewKey(id, world.position(), staged.matching(), staged.scope()),
            key ->
                world.look(
                    (facts, whole) ->
                        Intake.preview(
                            new Moment(
                                facts,
                                whole.directory(),
                                clock.instant().truncatedTo(ChronoUnit.MICROS),
                                organisation.zone(),
                                UUID::randomUUID,
                                viewer.authority()),
                            delivery(staged))));
    List<LineView> lines =
        verdict.equals("ended")
            ? preview.ended().stream()
                .map(e -> new LineView(null, "ended", e.key(), e.label(), List.of(), List.of()))
                .toList()
            : preview.lines().stream()
                .filter(l -> l.verdict().name().equalsIgnoreCase(verdict))
                .map(DeliveryController::line)
                .toList();
    return new PreviewView(
        preview.digest(),
        preview.count(Preview.Verdict.ADDED),
        preview.count(Preview.Verdict.CHANGED),
        preview.count(Preview.Verdict.SAME),
        preview.count(Preview.Verdict.BAD),
        preview.ended().size(),
        preview.known(),
        preview.endsMany(),
        preview.problems().stream().map(Problem::sentence).toList(),
        lines.size(),
        Pages.of(lines.stream(), offset, limit).toList());
  }

  private static LineView line(Preview.Line line) {
    return new LineView(
        line.line(),
        line.verdict().name().toLowerCase(Locale.ROOT),
        line.key(),
        line.label(),
        line.differences().stream()
            .map(d -> new DifferenceView(d.what(), d.before(), d.after()))
            .toList(),
        line.wrong());
  }

  private static Intake.Delivery delivery(DeliveryStore.Staged staged) {
    return new Intake.Delivery(
        staged.source(),
        staged.sourceName(),
        read(staged.content()),
        staged.matching(),
        staged.scope(),
        staged.fileHash());
  }

  /** Brings the file in; looked at ahead, whose holdings that would move. */
  @PostMapping("/api/deliveries/{id}/import")
  @Needs(value = Power.PEOPLE_IMPORT, foresees = true)
  Receipt importFile(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody BringIn form,
      IdempotencyKey repeatKey) {
    DeliveryStore.Staged staged = staged(viewer, id);
    if (staged.position() != null && repeatKey.value() == null) {
      throw Refusal.invalid(
          "delivery.done",
          "",
          "This file was imported already, as entry " + staged.position() + ".");
    }
    Intake.Delivery delivery = delivery(staged);
    if (viewer.foresees()) {
      return commands.foresee(viewer, moment -> Intake.ahead(moment, delivery));
    }
    Intake.Agreed agreed =
        new Intake.Agreed(form.digest(), form.endings(), form.leaveOutBad(), form.invite());
    String reason = form.reason() == null ? "" : form.reason().strip();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            Integer.class,
            moment ->
                switch (Intake.importFile(moment, delivery, agreed, reason)) {
                  case Outcome.Refused<Preview> refused -> Outcome.refused(refused.problems());
                  case Outcome.Done<Preview> done ->
                      Outcome.done(done.act(), done.edits(), done.edits().size())
                          .with(done.errands());
                },
            (tx, result, entry) -> DeliveryStore.imported(tx, id, entry.position())));
  }

  @DeleteMapping("/api/deliveries/{id}")
  @Needs(Power.PEOPLE_IMPORT)
  void forget(Viewer viewer, @PathVariable UUID id) {
    store.forget(staged(viewer, id).id());
  }
}
