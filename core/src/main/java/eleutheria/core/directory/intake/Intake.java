package eleutheria.core.directory.intake;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SourceId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Brings a file in as one act, after a look at exactly what it does. */
public final class Intake {
  private Intake() {}

  /** Whether a file is some rows, or everything its source has. */
  public enum Scope {
    THESE_ROWS,
    ALL
  }

  /**
   * What the person who looked at the preview agreed to.
   *
   * @param digest {@link Preview#digest} of what was seen
   * @param endings the number that was typed, null if none was
   * @param leaveOutBad whether bad lines may be left out
   * @param invite whether those who are added get an invitation
   */
  public record Agreed(
      String digest, @Nullable Integer endings, boolean leaveOutBad, boolean invite) {}

  /**
   * @param fileHash SHA-256 of the file in lower-case hex, for the record
   */
  public record Delivery(
      SourceId source,
      String sourceName,
      DeliveredFile file,
      Matching matching,
      Scope scope,
      String fileHash) {}

  public static Preview preview(Moment moment, Delivery delivery) {
    return delivery.matching().ofGroups()
        ? new GroupIntake(moment, delivery).judge()
        : new PeopleIntake(moment, delivery).judge();
  }

  public static Outcome<Preview> importFile(
      Moment moment, Delivery delivery, Agreed agreed, String reason) {
    if (!moment.authority().has(Power.PEOPLE_IMPORT)) {
      return Outcome.refused(
          Problem.forbidden(
              "power",
              "This needs the power “people.import”: to " + Power.PEOPLE_IMPORT.line() + "."));
    }
    return importFile(moment, delivery, preview(moment, delivery), agreed, reason);
  }

  /** What an import comes to if whoever asks agrees to all that it would do now. */
  public static Outcome<Preview> ahead(Moment moment, Delivery delivery) {
    return ahead(moment, delivery, false, "");
  }

  /**
   * @param invite whether those who are added get an invitation
   */
  public static Outcome<Preview> ahead(
      Moment moment, Delivery delivery, boolean invite, String reason) {
    Preview preview = preview(moment, delivery);
    return importFile(
        moment,
        delivery,
        preview,
        new Agreed(preview.digest(), preview.ended().size(), true, invite),
        reason);
  }

  private static Outcome<Preview> importFile(
      Moment moment, Delivery delivery, Preview preview, Agreed agreed, String reason) {
    List<Problem> problems = new ArrayList<>(preview.problems());
    if (!preview.digest().equals(agreed.digest())) {
      problems.add(
          Problem.stale(
              "digest",
              "The file would now do something different from what was shown; look again."));
    }
    int bad = preview.count(Preview.Verdict.BAD);
    if (bad > 0 && !agreed.leaveOutBad()) {
      problems.add(
          Problem.invalid(
              "intake.bad-lines",
              "leaveOutBad",
              bad + " lines are invalid; say whether to skip them."));
    }
    if (preview.endsMany() && !Integer.valueOf(preview.ended().size()).equals(agreed.endings())) {
      problems.add(
          Problem.invalid(
              "intake.many-endings",
              "endings",
              "%d of %d would be removed; type that number to continue."
                  .formatted(preview.ended().size(), preview.known())));
    }
    if (problems.isEmpty() && preview.edits().isEmpty()) {
      problems.add(Problem.invalid("intake.nothing", "", "The file changes nothing."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits source = moment.edits();
    source.put(
        new FactKey.Source(delivery.source()),
        new FactValue.Delivery(
            delivery.sourceName(), new TreeMap<>(delivery.matching().columns())));
    List<Edit> edits = new ArrayList<>(source.list());
    edits.addAll(preview.edits());
    Act act =
        Act.of(ActName.DIRECTORY_IMPORT, delivery.source())
            .because(reason)
            .with(
                Map.of(
                    "file", delivery.fileHash(),
                    "scope", delivery.scope() == Scope.ALL ? "all" : "rows",
                    "added", preview.count(Preview.Verdict.ADDED),
                    "changed", preview.count(Preview.Verdict.CHANGED),
                    "ended", preview.ended().size(),
                    "leftOut", bad));
    List<Errand> errands = new ArrayList<>();
    if (agreed.invite()) {
      for (ObjectId invited : preview.invited()) {
        errands.add(new Errand.Invite((PersonId) invited));
      }
    }
    return Outcome.done(act, edits, preview).with(errands);
  }
}
