package eleutheria.measure;

import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/**
 * One kept-alive connection that sends the same kind of request again and again and reads answers
 * to their end (RFC 9112): so lean that the server, and not this, is what is measured.
 */
final class RawHttp implements AutoCloseable {
  private final int port;
  private final String host;
  private Socket socket = new Socket();
  private InputStream in = InputStream.nullInputStream();
  private OutputStream out = OutputStream.nullOutputStream();

  RawHttp(int port) throws IOException {
    this.port = port;
    host = "127.0.0.1:" + port;
    connect();
  }

  private void connect() throws IOException {
    socket.close();
    socket = new Socket();
    socket.setTcpNoDelay(true);
    socket.setSoTimeout(120_000);
    socket.connect(new InetSocketAddress("127.0.0.1", port));
    in = new BufferedInputStream(socket.getInputStream(), 1 << 16);
    out = socket.getOutputStream();
  }

  byte[] get(String path, String cookies) {
    return ("GET "
            + path
            + " HTTP/1.1\r\nHost: "
            + host
            + "\r\nCookie: "
            + cookies
            + "\r\nAccept: application/json\r\nAccept-Encoding: gzip\r\n\r\n")
        .getBytes(StandardCharsets.US_ASCII);
  }

  byte[] post(String path, String cookies, String token, String body) {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    byte[] head =
        ("POST "
                + path
                + " HTTP/1.1\r\nHost: "
                + host
                + "\r\nCookie: "
                + cookies
                + "\r\nX-XSRF-TOKEN: "
                + token
                + "\r\nContent-Type: application/json\r\nContent-Length: "
                + bytes.length
                + "\r\n\r\n")
            .getBytes(StandardCharsets.US_ASCII);
    byte[] all = new byte[head.length + bytes.length];
    System.arraycopy(head, 0, all, 0, head.length);
    System.arraycopy(bytes, 0, all, head.length, bytes.length);
    return all;
  }

  /**
   * @return the status
   * @throws IOException also if the answer breaks off
   */
  int exchange(byte[] request) throws IOException {
    out.write(request);
    out.flush();
    int status = Integer.parseInt(line().split(" ")[1]);
    int length = -1;
    boolean chunked = false;
    boolean last = false;
    for (String line = line(); !line.isEmpty(); line = line()) {
      String lower = line.toLowerCase(Locale.ROOT);
      if (lower.startsWith("content-length:")) {
        length = Integer.parseInt(lower.substring(15).strip());
      } else if (lower.startsWith("transfer-encoding:")) {
        chunked = lower.contains("chunked");
      } else if (lower.startsWith("connection:")) {
        last = lower.contains("close");
      }
    }
    if (chunked) {
      int size;
      do {
        size = Integer.parseInt(line(), 16);
        in.skipNBytes(size);
        line();
      } while (size > 0);
    } else if (length > 0) {
      in.skipNBytes(length);
    }
    if (last) {
      connect();
    }
    return status;
  }

  private final byte[] buffer = new byte[8_192];

  private String line() throws IOException {
    int size = 0;
    for (int next = in.read(); next != '\n'; next = in.read()) {
      if (next < 0) {
        throw new EOFException("the answer breaks off");
      }
      if (size < buffer.length) {
        buffer[size++] = (byte) next;
      }
    }
    return new String(buffer, 0, Math.max(0, size - 1), StandardCharsets.ISO_8859_1);
  }

  @Override
  public void close() throws IOException {
    socket.close();
  }
}
