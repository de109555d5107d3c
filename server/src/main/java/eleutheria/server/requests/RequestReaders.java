package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Stage;
import eleutheria.server.web.Viewer;
import java.util.Optional;

/** Who may read a request: whoever asks, decides, has decided, or may read such access. */
public final class RequestReaders {
  private RequestReaders() {}

  public static boolean reads(Viewer viewer, AccessView access, AccessRequest request) {
    Optional<Entitlement> entitlement = access.apps().entitlement(request.entitlement());
    Optional<Person> asker = access.directory().person(request.asker());
    if (entitlement.isEmpty() || asker.isEmpty()) {
      return false;
    }
    return viewer.person().equals(request.asker())
        || request.answers().stream().anyMatch(a -> a.by().equals(viewer.person()))
        || decides(viewer, access, request)
        || Deciders.maySteward(access, viewer.authority(), request.asker(), request.entitlement())
        || viewer.authority().owns(entitlement.get().application())
        || viewer
            .authority()
            .reaches(
                Power.ACCESS_READ,
                entitlement.get().application(),
                asker.get().value(Attributes.UNIT));
  }

  private static boolean decides(Viewer viewer, AccessView access, AccessRequest request) {
    return request.stage() instanceof Stage.Waiting waiting
        && Deciders.of(access, request.asker(), request.entitlement(), waiting.step())
            .people()
            .contains(viewer.person());
  }
}
