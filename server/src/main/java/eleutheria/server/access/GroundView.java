package eleutheria.server.access;

import eleutheria.server.refs.PersonView;
import eleutheria.server.refs.SubjectView;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * One ground of a holding.
 *
 * @param by person, group or filter: the first of its two signs
 * @param source by an administrator, on request, by import, by review: the second
 * @param chain groups from the person's own to the subject, shortest way; empty where there is none
 * @param form how the first group of the chain gets its members; null where there is none
 * @param more how many further ways lead from the person to the subject
 * @param matched attribute labels and values that a filter looked at
 * @param until when this ground ends by itself; null if it does not
 * @param covers how many people the grant covers
 * @param request the number of the request that it came from
 * @param mayEndGrant whether the reader may end the grant, for all whom it covers
 * @param mayTakeOut whether the reader may take the person out of the first group of the chain
 */
@NullMarked
public record GroundView(
    String grant,
    String by,
    String source,
    SubjectView subject,
    List<PersonView.GroupRef> chain,
    @Nullable String form,
    int more,
    Map<String, String> matched,
    Instant from,
    @Nullable Instant until,
    int covers,
    @Nullable String givenBy,
    @Nullable Instant givenAt,
    @Nullable String reason,
    @Nullable String request,
    boolean mayEndGrant,
    boolean mayTakeOut) {}
