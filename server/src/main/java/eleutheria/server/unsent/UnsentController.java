package eleutheria.server.unsent;

import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.Map;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** A person's half-filled forms, by the name of the form. */
@RestController
class UnsentController {
  private static final int LONGEST_NAME = 80;

  /** A request form has up to a hundred questions. */
  private static final int MOST_FIELDS = 120;

  /** Characters in one field, which may hold a list. */
  private static final int LONGEST_FIELD = 64_000;

  private final UnsentForms forms;
  private final Clock clock;

  UnsentController(UnsentForms forms, Clock clock) {
    this.forms = forms;
    this.clock = clock;
  }

  /**
   * @param fields what stands in each field; empty where nothing is kept
   */
  record UnsentForm(
      @NotNull @Size(max = MOST_FIELDS)
          Map<@Size(max = 60) String, @Size(max = LONGEST_FIELD) String> fields) {}

  @GetMapping("/api/my/unsent/{name}")
  @Needs(signedIn = true)
  UnsentForm read(Viewer viewer, @PathVariable @Size(max = LONGEST_NAME) String name) {
    return new UnsentForm(forms.find(viewer.person(), name));
  }

  @PutMapping("/api/my/unsent/{name}")
  @Needs(signedIn = true)
  UnsentForm save(
      Viewer viewer,
      @PathVariable @Size(max = LONGEST_NAME) String name,
      @Valid @RequestBody UnsentForm form) {
    forms.keep(viewer.person(), name, form.fields(), clock.instant());
    return form;
  }

  @DeleteMapping("/api/my/unsent/{name}")
  @Needs(signedIn = true)
  UnsentForm sent(Viewer viewer, @PathVariable @Size(max = LONGEST_NAME) String name) {
    forms.forget(viewer.person(), name);
    return new UnsentForm(Map.of());
  }
}
