package eleutheria.server.gate;

import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.IOException;
import org.jspecify.annotations.Nullable;

/** A request whose body somebody else sees while it is read. */
final class ReadThrough extends HttpServletRequestWrapper {
  private final Seeing seeing;
  private @Nullable ServletInputStream stream;

  /** Sees what is read, piece by piece, and may end the reading. */
  interface Seeing {
    void read(byte[] bytes, int offset, int length) throws IOException;
  }

  ReadThrough(HttpServletRequest request, Seeing seeing) {
    super(request);
    this.seeing = seeing;
  }

  @Override
  public ServletInputStream getInputStream() throws IOException {
    ServletInputStream known = stream;
    if (known == null) {
      known = new Seen(super.getInputStream(), seeing);
      stream = known;
    }
    return known;
  }

  private static final class Seen extends ServletInputStream {
    private final ServletInputStream from;
    private final Seeing seeing;

    Seen(ServletInputStream from, Seeing seeing) {
      this.from = from;
      this.seeing = seeing;
    }

    @Override
    public int read() throws IOException {
      int read = from.read();
      if (read >= 0) {
        seeing.read(new byte[] {(byte) read}, 0, 1);
      }
      return read;
    }

    @Override
    public int read(byte[] bytes, int offset, int length) throws IOException {
      int read = from.read(bytes, offset, length);
      if (read > 0) {
        seeing.read(bytes, offset, read);
      }
      return read;
    }

    @Override
    public boolean isFinished() {
      return from.isFinished();
    }

    @Override
    public boolean isReady() {
      return from.isReady();
    }

    @Override
    public void setReadListener(ReadListener listener) {
      from.setReadListener(listener);
    }
  }
}
