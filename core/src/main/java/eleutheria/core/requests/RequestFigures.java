package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/**
 * How requests have fared: what is open and for how long, what became of those that ended, and how
 * long each kind of step and each person takes. The time of a decision counts from the moment at
 * which the step lay on the docket, also while a question waited for its answer.
 *
 * @param open how many are open, by how long ago they were asked: one more than {@link #AGES}, each
 *     younger than its bound, the last all that are older
 * @param pace from asking to the last decision, of those that were granted or refused; null where
 *     they are too few
 */
public record RequestFigures(
    List<Integer> open,
    int given,
    int refused,
    int withdrawn,
    int lapsed,
    int overtaken,
    @Nullable Pace pace,
    List<StepLine> steps,
    List<DeciderLine> deciders) {
  public static final List<Duration> AGES =
      List.of(Duration.ofDays(1), Duration.ofDays(3), Duration.ofDays(7), Duration.ofDays(14));

  /** Longer than this is slow: half of the time after which a step lapses. */
  public static final Duration SLOW = Duration.ofDays(7);

  /**
   * @param capacity what made people decide
   * @param pace null where too few were decided
   */
  public record StepLine(Deciders.Capacity capacity, int decided, @Nullable Pace pace) {}

  /**
   * @param pace null where they decided too few
   * @param waiting how many wait for them now, maybe for others as well
   * @param oldest how long the one that waits longest has waited; zero where none does
   */
  public record DeciderLine(
      PersonId person, int decided, @Nullable Pace pace, int waiting, Duration oldest) {
    public boolean slow() {
      return oldest.compareTo(SLOW) > 0 || (pace != null && pace.most().compareTo(SLOW) > 0);
    }
  }

  /** For so many days something is left alone to be called unused. */
  public static final int UNUSED_DAYS = 60;

  /**
   * What was granted on request, is held still, and may be told to be used or not.
   *
   * @param granted how many hold it for {@link #UNUSED_DAYS} days or longer
   * @param unused how many of them have not used it in that time
   */
  public record UnusedLine(EntitlementId entitlement, int granted, int unused) {}

  /**
   * @param leftAlone whether somebody has not used something for {@link #UNUSED_DAYS} days; empty
   *     where that is not known, or not the reader's to know
   * @return what is left alone by anybody, the most in front
   */
  public static List<UnusedLine> unused(
      AccessView access,
      Collection<AccessRequest> requests,
      Instant since,
      BiFunction<PersonId, EntitlementId, Optional<Boolean>> leftAlone) {
    Map<EntitlementId, int[]> counts = new TreeMap<>();
    for (AccessRequest request : requests) {
      if (request.stage() instanceof Stage.Given given
          && !given.from().isAfter(since)
          && access.grant(given.grant()).isPresent()) {
        leftAlone
            .apply(request.person(), request.entitlement())
            .ifPresent(
                alone -> {
                  int[] of = counts.computeIfAbsent(request.entitlement(), e -> new int[2]);
                  of[0]++;
                  of[1] += alone ? 1 : 0;
                });
      }
    }
    return counts.entrySet().stream()
        .map(e -> new UnusedLine(e.getKey(), e.getValue()[0], e.getValue()[1]))
        .filter(line -> line.unused() > 0)
        .sorted(Comparator.comparing(UnusedLine::unused).reversed())
        .toList();
  }

  /** What is gathered of one person. */
  private static final class Gathered {
    private final List<Duration> took = new ArrayList<>();
    private int waiting;
    private Duration oldest = Duration.ZERO;

    DeciderLine line(PersonId person) {
      return new DeciderLine(person, took.size(), Pace.of(took).orElse(null), waiting, oldest);
    }
  }

  /**
   * @param requests those asked lately, and all that are open
   */
  public static RequestFigures of(
      AccessView access, Collection<AccessRequest> requests, Instant now) {
    int[] open = new int[AGES.size() + 1];
    List<Duration> whole = new ArrayList<>();
    Map<Deciders.Capacity, List<Duration>> steps = new TreeMap<>();
    Map<PersonId, Gathered> people = new TreeMap<>();
    for (AccessRequest request : requests) {
      for (Decision decision : request.answers()) {
        Duration took = Duration.between(decision.before().from(), decision.at());
        steps.computeIfAbsent(decision.capacity(), c -> new ArrayList<>()).add(took);
        people.computeIfAbsent(decision.by(), p -> new Gathered()).took.add(took);
      }
      switch (request.stage()) {
        case Stage.Open stage -> {
          open[age(Duration.between(request.asked(), now))]++;
          Duration waits = Duration.between(stage.from(), now);
          for (PersonId person : Deciders.of(access, request, stage).people()) {
            Gathered gathered = people.computeIfAbsent(person, p -> new Gathered());
            gathered.waiting++;
            if (waits.compareTo(gathered.oldest) > 0) {
              gathered.oldest = waits;
            }
          }
        }
        case Stage.Given stage -> whole.addAll(took(request));
        case Stage.Refused stage -> whole.addAll(took(request));
        case Stage.Withdrawn stage -> {}
        case Stage.Lapsed stage -> {}
        case Stage.Overtaken stage -> {}
      }
    }
    List<Integer> ages = new ArrayList<>();
    for (int count : open) {
      ages.add(count);
    }
    return new RequestFigures(
        ages,
        count(requests, Stage.Given.class),
        count(requests, Stage.Refused.class),
        count(requests, Stage.Withdrawn.class),
        count(requests, Stage.Lapsed.class),
        count(requests, Stage.Overtaken.class),
        Pace.of(whole).orElse(null),
        steps.entrySet().stream()
            .map(e -> new StepLine(e.getKey(), e.getValue().size(), pace(e.getValue())))
            .toList(),
        people.entrySet().stream()
            .map(e -> e.getValue().line(e.getKey()))
            .sorted(
                Comparator.comparing(DeciderLine::slow)
                    .thenComparing(DeciderLine::oldest)
                    .thenComparing(DeciderLine::decided)
                    .reversed())
            .toList());
  }

  private static @Nullable Pace pace(List<Duration> took) {
    return Pace.of(took).orElse(null);
  }

  private static int count(Collection<AccessRequest> requests, Class<? extends Stage> stage) {
    return (int) requests.stream().filter(r -> stage.isInstance(r.stage())).count();
  }

  /** From asking to the last decision. */
  private static List<Duration> took(AccessRequest request) {
    return request.lastAnswer().stream()
        .map(last -> Duration.between(request.asked(), last.at()))
        .toList();
  }

  private static int age(Duration age) {
    int place = 0;
    while (place < AGES.size() && age.compareTo(AGES.get(place)) >= 0) {
      place++;
    }
    return place;
  }
}
