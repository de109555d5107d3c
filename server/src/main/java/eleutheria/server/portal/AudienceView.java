package eleutheria.server.portal;

import eleutheria.core.facts.FactValue;
import eleutheria.core.portal.PortalView;
import eleutheria.server.refs.SubjectView;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * A union of people, groups, filters, everyone and the first days.
 *
 * @param firstDays whoever is active for less than so many times 24 hours; 0 for nobody
 * @param people how many active people are in it
 */
public record AudienceView(
    boolean everyone, int firstDays, List<SubjectView> subjects, int people) {
  public static AudienceView of(PortalView whole, FactValue.Audience audience) {
    return new AudienceView(
        audience.everyone(),
        audience.firstDays(),
        audience.subjects().stream().map(s -> SubjectView.of(whole.access(), s)).toList(),
        whole.active(audience).size());
  }

  /** The same as it is sent. */
  public record AudienceForm(
      boolean everyone,
      @Min(0) @Max(10_000) int firstDays,
      @NotNull @Size(max = 1000) List<SubjectView.@Valid SubjectForm> subjects) {
    public FactValue.Audience audience() {
      return new FactValue.Audience(
          everyone, subjects.stream().map(SubjectView.SubjectForm::subject).toList(), firstDays);
    }
  }
}
