package eleutheria.server.converters;

import java.nio.ByteBuffer;
import java.util.UUID;
import org.jooq.impl.AbstractConverter;
import org.jspecify.annotations.Nullable;

/** Ids are 16 bytes in the database. */
public final class UuidConverter extends AbstractConverter<byte[], UUID> {
  public UuidConverter() {
    super(byte[].class, UUID.class);
  }

  @Override
  public @Nullable UUID from(byte @Nullable [] bytes) {
    if (bytes == null) {
      return null;
    }
    ByteBuffer buffer = ByteBuffer.wrap(bytes);
    return new UUID(buffer.getLong(), buffer.getLong());
  }

  @Override
  public byte @Nullable [] to(@Nullable UUID id) {
    return id == null
        ? null
        : ByteBuffer.allocate(16)
            .putLong(id.getMostSignificantBits())
            .putLong(id.getLeastSignificantBits())
            .array();
  }
}
