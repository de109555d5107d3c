package eleutheria.core.departures;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;

/**
 * What a departure came to, step by step.
 *
 * @param grants ended: what was granted directly alone
 * @param memberships ended: listed groups that the person was in
 * @param mandates ended: administrative roles
 * @param lost every entitlement that the person held and holds no more
 * @param mirrored groups of a source that still list the person, without effect
 * @param byFilter groups whose filter still fits the person, without effect
 * @param filterGrants entitlements whose filter still fits the person, without effect
 * @param lone what the person owned and nobody active owns beside
 * @param requests how many open requests of the person ended
 */
public record Slip(
    PersonId person,
    Instant at,
    List<EndedGrant> grants,
    List<GroupId> memberships,
    List<MandateId> mandates,
    List<EntitlementId> lost,
    List<GroupId> mirrored,
    List<GroupId> byFilter,
    List<EntitlementId> filterGrants,
    List<ObjectId> lone,
    int requests) {

  public record EndedGrant(GrantId grant, EntitlementId entitlement) {}
}
