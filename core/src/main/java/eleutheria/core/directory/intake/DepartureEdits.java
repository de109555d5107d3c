package eleutheria.core.directory.intake;

import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.PersonId;

/**
 * What a departure ends beside the status: listed memberships, mandates held by name, and deciding
 * for each other.
 */
final class DepartureEdits {
  private DepartureEdits() {}

  static void ofListed(Moment moment, Edits edits, PersonId id) {
    for (Group group : moment.directory().groups()) {
      if (group.listed() && group.people().contains(id)) {
        edits.end(new FactKey.Membership(group.id(), id));
      }
    }
    for (DirectoryView.Mandate mandate : moment.directory().mandates()) {
      if (mandate.holders().contains(id)) {
        edits.end(new FactKey.MandateHeld(mandate.id(), id));
      }
    }
    Deputies.end(moment.facts(), edits, id);
  }
}
