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
import eleutheria.core.requests.Message;
import eleutheria.core.requests.Stage;
import eleutheria.server.letters.Asked;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Mailer;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.requests.ThreadStore;
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
  private final ThreadStore threads;
  private final Mailer mailer;
  private final Organisation organisation;

  RequestMail(
      World world,
      RequestStore requests,
      ThreadStore threads,
      Mailer mailer,
      Organisation organisation) {
    this.world = world;
    this.requests = requests;
    this.threads = threads;
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
    String asker = name(whole, request.asker());
    String person = name(whole, request.person());
    String title = title(whole, request);
    Asked asked =
        request.wish().forSelf()
            ? Asked.own(request.name(), title)
            : to.equals(request.person())
                ? Asked.byOther(request.name(), title, asker)
                : Asked.forOther(request.name(), title, person);
    // To those who decide: what is asked for, and for whom.
    String wished = request.wish().forSelf() ? title : "%s for %s".formatted(title, person);
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
                  wished,
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
                  wished,
                  LocalDate.ofInstant(waiting.lapses(), organisation.zone()),
                  mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "asked_for_you" -> {
        if (request.stage().open()) {
          mailer.send(
              to,
              Kinds.askedForYou(
                  request.name(), asker, title, mailer.link("/requests#" + request.name())));
        }
      }
      case "given" -> {
        if (request.stage() instanceof Stage.Given) {
          mailer.send(
              to,
              Kinds.granted(
                  asked,
                  request.lastDay(),
                  mailer.link(to.equals(request.person()) ? "/" : "/requests")));
        }
      }
      case "refused" -> {
        if (request.stage() instanceof Stage.Refused) {
          Decision answer = request.lastAnswer().orElseThrow();
          mailer.send(to, Kinds.refused(asked, name(whole, answer.by()), mailer.link("/requests")));
        }
      }
      case "asked_back" -> {
        if (request.stage() instanceof Stage.AskedBack question) {
          mailer.send(
              to,
              Kinds.askedBack(
                  asked,
                  name(whole, question.by()),
                  LocalDate.ofInstant(question.goesOn(), organisation.zone()),
                  mailer.link("/requests#" + request.name())));
        }
      }
      case "answered" -> {
        if (request.stage().open()) {
          mailer.send(
              to,
              Kinds.answered(
                  request.name(),
                  answerer(whole, request),
                  wished,
                  mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "unanswered" -> {
        if (request.stage().open()) {
          mailer.send(
              to,
              Kinds.unanswered(
                  request.name(),
                  request.wish().forSelf() ? asker : "%s or %s".formatted(asker, person),
                  wished,
                  mailer.link("/desk/docket/request/" + id.value())));
        }
      }
      case "lapsed" -> mailer.send(to, Kinds.lapsed(asked, mailer.link("/ask")));
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

  /** Whoever has answered last what was asked back. */
  private String answerer(PortalView whole, AccessRequest request) {
    return threads.of(request.id()).reversed().stream()
        .filter(message -> message.kind() == Message.Kind.ANSWERED)
        .findFirst()
        .map(message -> name(whole, message.by()))
        .orElse(name(whole, request.asker()));
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
