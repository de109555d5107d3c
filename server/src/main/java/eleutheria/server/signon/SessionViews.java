package eleutheria.server.signon;

import eleutheria.core.directory.Person;
import eleutheria.core.drafts.DraftDecisions;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What a browser knows of its session. */
@Component
public class SessionViews {
  private final World world;
  private final Organisation organisation;
  private final Viewers viewers;
  private final FreshSignIn freshSignIn;
  private final SessionLimits limits;

  private final Deciding deciding;

  SessionViews(
      World world,
      Organisation organisation,
      Viewers viewers,
      FreshSignIn freshSignIn,
      SessionLimits limits,
      Deciding deciding) {
    this.deciding = deciding;
    this.world = world;
    this.organisation = organisation;
    this.viewers = viewers;
    this.freshSignIn = freshSignIn;
    this.limits = limits;
  }

  /**
   * @param zone the organisation's zone (IANA name), in which days are counted
   * @param locale how dates and numbers are written (BCP 47); empty for as the browser says
   * @param position the newest ledger position that this answer knows
   */
  public record SessionView(
      String organisation,
      BrandView brand,
      String zone,
      String locale,
      @Nullable Signed signed,
      long position,
      @Nullable Instant begins) {}

  /**
   * How the organisation shows itself.
   *
   * @param mark an uploaded picture, or nothing; so the picture where people sign in
   * @param band a colour, {@code #rrggbb}
   * @param form how tiles are drawn: tiles, lines or marks
   * @param tight whether they stand close
   */
  public record BrandView(
      String mark,
      String band,
      String welcome,
      String door,
      String help,
      String form,
      boolean tight) {
    public static BrandView of(FactValue.Brand brand) {
      return new BrandView(
          brand.mark(),
          brand.band(),
          brand.welcome(),
          brand.door(),
          brand.help(),
          brand.form(),
          brand.tight());
    }
  }

  /** Knows who has something to decide. */
  public interface Deciding {
    boolean decides(PersonId person);
  }

  /**
   * @param powers words of all powers held, with whatever reach
   * @param limited whether some power does not reach everything
   * @param ownsGroups whether the person owns a group; likewise for applications and collections
   * @param drafts whether the person can change anything that a draft gathers
   * @param deskOver whether the desk wants a new sign-in
   * @param leads whether the person is somebody's manager
   * @param decides whether some request is or was theirs to decide, as a deputy or passed on too
   */
  public record Signed(
      String person,
      String displayed,
      String given,
      List<String> powers,
      List<String> mandates,
      boolean limited,
      boolean ownsGroups,
      boolean ownsApps,
      boolean ownsCollections,
      boolean ownsListings,
      boolean drafts,
      boolean leads,
      boolean decides,
      boolean deskOver,
      @Nullable Instant freshUntil) {}

  public SessionView of(HttpServletRequest request) {
    FactValue.Brand brand = world.whole().brand();
    return new SessionView(
        brand.name().isEmpty() ? organisation.name() : brand.name(),
        BrandView.of(brand),
        organisation.zone().getId(),
        organisation.locale(),
        viewers.of(request).map(viewer -> signed(viewer, request)).orElse(null),
        world.position(),
        world.begins());
  }

  private Signed signed(Viewer viewer, HttpServletRequest request) {
    Person person = world.now().person(viewer.person()).orElseThrow();
    return new Signed(
        viewer.person().value().toString(),
        person.name().displayed(),
        person.name().greeted(),
        viewer.authority().powers().stream().map(Power::word).sorted().toList(),
        viewer.authority().mandates(),
        viewer.authority().powers().stream().anyMatch(p -> !viewer.authority().hasEverywhere(p)),
        viewer.authority().ownsAny(ObjectKind.GROUP),
        viewer.authority().ownsAny(ObjectKind.APPLICATION),
        viewer.authority().ownsAny(ObjectKind.COLLECTION),
        viewer.authority().ownsAny(ObjectKind.LISTING),
        DraftDecisions.works(viewer.authority()),
        !world.now().reports(viewer.person()).isEmpty(),
        deciding.decides(viewer.person()),
        limits.deskOver(request.getSession(false)),
        freshSignIn.until(request.getSession(false)));
  }
}
