package eleutheria.core.portal;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/** How the organisation shows itself on the portal and where people sign in. */
public final class BrandDecisions {
  /** What the product wears until somebody says otherwise. */
  public static final FactValue.Brand PLAIN =
      new FactValue.Brand("", "", "#17504a", "", "", "", "tiles", false);

  /** How tiles can be drawn. */
  public static final Set<String> FORMS = Set.of("tiles", "lines", "marks");

  public static final int LONGEST_TEXT = 300;

  private static final String TEXT_ON_IT = "#ffffff";
  private static final String MARK_ON_IT = "#f2a900";
  private static final Pattern PICTURE = Pattern.compile("|own:[0-9a-f]{64}");

  private BrandDecisions() {}

  public static FactValue.Brand at(Facts facts, Instant at) {
    return facts.valueAt(FactKey.Brand.ORGANISATION, at) instanceof FactValue.Brand brand
        ? brand
        : PLAIN;
  }

  public static Outcome<Integer> set(Moment moment, FactValue.Brand base, FactValue.Brand wanted) {
    if (!moment.authority().hasEverywhere(Power.PORTAL_BRAND)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_BRAND));
    }
    if (!at(moment.facts(), moment.at()).equals(base)) {
      return Outcome.refused(
          Problem.stale("name", "Someone has changed name, mark or colours meanwhile."));
    }
    List<Problem> problems = new ArrayList<>();
    AppDecisions.length(problems, "name", wanted.name(), AppDecisions.LONGEST_NAME);
    AppDecisions.length(problems, "welcome", wanted.welcome(), LONGEST_TEXT);
    AppDecisions.length(problems, "help", wanted.help(), LONGEST_TEXT);
    if (!Contrast.isColour(wanted.band())) {
      problems.add(
          Problem.invalid(
              "brand.colour", "band", "A colour is # and six digits from 0 to 9 and a to f."));
    } else {
      double text = Contrast.of(wanted.band(), TEXT_ON_IT);
      double mark = Contrast.of(wanted.band(), MARK_ON_IT);
      if (text < Contrast.TEXT) {
        problems.add(
            Problem.invalid(
                "brand.contrast",
                "band",
                "White text on it has a contrast of %.1f; 4.5 is needed. Take a darker one."
                    .formatted(text)));
      } else if (mark < Contrast.MARK) {
        problems.add(
            Problem.invalid(
                "brand.contrast",
                "band",
                "The marker on it has a contrast of %.1f; 3 is needed. Take a darker one."
                    .formatted(mark)));
      }
    }
    for (String[] picture : new String[][] {{"mark", wanted.mark()}, {"door", wanted.door()}}) {
      if (!PICTURE.matcher(picture[1]).matches()) {
        problems.add(Problem.invalid("tile.picture", picture[0], "There is no such picture."));
      }
    }
    if (!FORMS.contains(wanted.form())) {
      problems.add(
          Problem.invalid("brand.form", "form", "Tiles are drawn as tiles, lines or marks."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(FactKey.Brand.ORGANISATION, wanted);
    return Outcome.done(Act.of(ActName.PORTAL_BRAND), edits.list(), edits.size());
  }
}
