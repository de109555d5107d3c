package eleutheria.server.outbox;

import eleutheria.core.access.Grant;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Decision;
import eleutheria.core.requests.Stage;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Mailer;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.settings.Organisation;
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
  private final Mailer mailer;
  private final Organisation organisation;

  RequestMail(World world, RequestStore requests, Mailer mailer, Organisation organisation) {
    this.world = world;
    this.requests = requests;
    this.mailer = mailer;
    this.organisation = organisation;
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
          PersonId behalf =
              Deciders.of(whole.access(), request, (Stage.Open) request.stage()).behalf(to);
          mailer.send(
              to,
              Kinds.toDecide(
                  request.name(),
                  asker,
                  title,
                  behalf == null ? null : name(whole, behalf),
                  mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "remind" -> {
        if (request.stage() instanceof Stage.Waiting waiting
            && Deciders.of(whole.access(), request, waiting).include(to)) {
          mailer.send(
              to,
              Kinds.remind(
                  request.name(),
                  asker,
                  title,
                  LocalDate.ofInstant(waiting.lapses(), organisation.zone()),
                  mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "given" -> {
        if (request.stage() instanceof Stage.Given) {
          mailer.send(
              to, Kinds.granted(request.name(), title, request.lastDay(), mailer.link("/")));
        }
      }
      case "refused" -> {
        if (request.stage() instanceof Stage.Refused) {
          Decision answer = request.lastAnswer().orElseThrow();
          mailer.send(
              to,
              Kinds.refused(
                  request.name(), name(whole, answer.by()), title, mailer.link("/requests")));
        }
      }
      case "asked_back" -> {
        if (request.stage() instanceof Stage.AskedBack asked) {
          mailer.send(
              to,
              Kinds.askedBack(
                  request.name(),
                  name(whole, asked.by()),
                  title,
                  LocalDate.ofInstant(asked.goesOn(), organisation.zone()),
                  mailer.link("/requests#" + request.name())));
        }
      }
      case "answered" -> {
        if (request.stage().open()) {
          mailer.send(
              to,
              Kinds.answered(
                  request.name(), asker, title, mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "unanswered" -> {
        if (request.stage().open()) {
          mailer.send(
              to,
              Kinds.unanswered(
                  request.name(), asker, title, mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "lapsed" -> mailer.send(to, Kinds.lapsed(request.name(), title, mailer.link("/ask")));
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
    mailer.send(
        to,
        Kinds.endsSoon(
            title,
            LocalDate.ofInstant(last, organisation.zone()),
            mailer.link("/ask/" + grant.get().given().entitlement().value())));
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
