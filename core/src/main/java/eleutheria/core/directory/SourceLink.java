package eleutheria.core.directory;

import eleutheria.core.facts.SourceId;
import java.time.Instant;

/** Under which key a source knows a thing, and since when. */
public record SourceLink(SourceId source, String key, Instant since) {}
