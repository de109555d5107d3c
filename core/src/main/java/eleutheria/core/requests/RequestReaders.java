package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Who may read a request: whoever asks, whom it is for, whoever decides, has decided or passed it
 * on, or may read such access.
 */
public final class RequestReaders {
  private RequestReaders() {}

  public static boolean reads(Authority reader, AccessView access, AccessRequest request) {
    Optional<Entitlement> entitlement = access.apps().entitlement(request.entitlement());
    Optional<Person> person = access.directory().person(request.person());
    if (entitlement.isEmpty() || person.isEmpty()) {
      return false;
    }
    return request.wish().isOf(reader.person())
        || request.answers().stream().anyMatch(a -> a.by().equals(reader.person()))
        || hasPassedOn(reader, request)
        || decides(reader, access, request)
        || Deciders.maySteward(access, reader, request.wish())
        || reader.owns(entitlement.get().application())
        || reader.reaches(
            Power.ACCESS_READ,
            entitlement.get().application(),
            person.get().value(Attributes.UNIT));
  }

  /** Who has passed a step on sees what becomes of it. */
  private static boolean hasPassedOn(Authority reader, AccessRequest request) {
    return Stream.concat(
            request.stage() instanceof Stage.Open open ? Stream.of(open) : Stream.empty(),
            request.answers().stream().map(Decision::before))
        .map(Stage.Open::passed)
        .anyMatch(passed -> passed != null && passed.by().equals(reader.person()));
  }

  static boolean decides(Authority reader, AccessView access, AccessRequest request) {
    return request.stage() instanceof Stage.Open open
        && Deciders.of(access, request, open).include(reader.person());
  }

  /** Whether the step that waits is theirs to decide, themselves or by stepping in. */
  public static boolean mayDecide(Authority reader, AccessView access, AccessRequest request) {
    return request.stage().open()
        && !request.wish().isOf(reader.person())
        && (decides(reader, access, request)
            || Deciders.maySteward(access, reader, request.wish()));
  }

  /**
   * Who may read and write the thread of a request: whoever asks, whom it is for, whoever decides,
   * has decided, may step in, or has written into it. Nobody reads it for what they own or may read
   * elsewhere.
   *
   * @param messages what was written so far
   */
  public static boolean readsThread(
      Authority reader, AccessView access, AccessRequest request, List<Message> messages) {
    PersonId person = reader.person();
    return person != null
        && access.apps().entitlement(request.entitlement()).isPresent()
        && (request.wish().isOf(person)
            || request.answers().stream().anyMatch(a -> a.by().equals(person))
            || messages.stream().anyMatch(m -> m.by().equals(person))
            || decides(reader, access, request)
            || Deciders.maySteward(access, reader, request.wish()));
  }
}
