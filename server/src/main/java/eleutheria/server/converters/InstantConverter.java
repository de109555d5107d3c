package eleutheria.server.converters;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import org.jooq.impl.AbstractConverter;
import org.jspecify.annotations.Nullable;

/** Moments are {@code datetime(6)} in UTC in the database. */
public final class InstantConverter extends AbstractConverter<LocalDateTime, Instant> {
  public InstantConverter() {
    super(LocalDateTime.class, Instant.class);
  }

  @Override
  public @Nullable Instant from(@Nullable LocalDateTime local) {
    return local == null ? null : local.toInstant(ZoneOffset.UTC);
  }

  @Override
  public @Nullable LocalDateTime to(@Nullable Instant instant) {
    return instant == null ? null : LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }
}
