package eleutheria.server.outbox;

import eleutheria.core.access.Grant;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RequestId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Decision;
import eleutheria.core.requests.Stage;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Letter;
import eleutheria.server.letters.Letters;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * Mails about requests and about what ends soon. They say what happened and lead to the page; they
 * quote no reasons, which stay where they can be erased.
 */
@Component
class RequestMail {
  private final World world;
  private final RequestStore requests;
  private final Letters letters;
  private final Organisation organisation;
  private final ServerSettings settings;

  RequestMail(
      World world,
      RequestStore requests,
      Letters letters,
      Organisation organisation,
      ServerSettings settings) {
    this.world = world;
    this.requests = requests;
    this.letters = letters;
    this.organisation = organisation;
    this.settings = settings;
  }

  void send(PersonId to, RequestId id, String tale) {
    Optional<AccessRequest> found = requests.find(id);
    PortalView whole = world.whole();
    if (found.isEmpty()) {
      return;
    }
    AccessRequest request = found.get();
    String title = title(whole, request);
    String asker = name(whole, request.asker());
    switch (tale) {
      case "to_decide" -> {
        if (request.stage().open()) {
          send(
              whole,
              to,
              Kinds.toDecide(
                  request.name(), asker, title, address("/desk/docket/request/" + id.value())));
        }
      }
      case "given" -> {
        if (request.stage() instanceof Stage.Given) {
          send(whole, to, Kinds.granted(request.name(), title, request.lastDay(), address("/")));
        }
      }
      case "refused" -> {
        if (request.stage() instanceof Stage.Refused) {
          Decision answer = request.lastAnswer().orElseThrow();
          send(
              whole,
              to,
              Kinds.refused(request.name(), name(whole, answer.by()), title, address("/requests")));
        }
      }
      case "lapsed" -> send(whole, to, Kinds.lapsed(request.name(), title, address("/ask")));
      default -> throw new IllegalStateException("unknown tale: " + tale);
    }
  }

  /** Tells who holds something that it ends soon. */
  void sendEnd(PersonId to, GrantId id) {
    PortalView whole = world.whole();
    Optional<Grant> grant = whole.access().grant(id);
    if (grant.isEmpty()) {
      return;
    }
    String title =
        whole
            .access()
            .apps()
            .entitlement(grant.get().given().entitlement())
            .map(Entitlement::title)
            .orElse("an entitlement");
    Instant last = grant.get().until().minusSeconds(1);
    send(
        whole,
        to,
        Kinds.endsSoon(
            title, LocalDate.ofInstant(last, organisation.zone()), address("/holdings")));
  }

  private void send(PortalView whole, PersonId to, Letter letter) {
    Optional<Person> person =
        whole.directory().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (address != null) {
      letters.send(address, person.get().name().greeted(), letter);
    }
  }

  private String address(String path) {
    return settings.baseAddress() + path;
  }

  private static String name(PortalView whole, PersonId id) {
    return whole.directory().person(id).map(p -> p.name().displayed()).orElse("someone");
  }

  private static String title(PortalView whole, AccessRequest request) {
    return whole
        .access()
        .apps()
        .entitlement(request.entitlement())
        .map(Entitlement::title)
        .orElse("an entitlement");
  }
}
