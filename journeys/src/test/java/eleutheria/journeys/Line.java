package eleutheria.journeys;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** The network between a browser and the server, which can be cut and mended. */
final class Line implements AutoCloseable {
  private final int target;
  private final int port;
  private final Set<Socket> open = ConcurrentHashMap.newKeySet();
  private volatile ServerSocket listening;

  /**
   * @param server the server's address
   */
  Line(String server) throws IOException {
    target = URI.create(server).getPort();
    listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    port = listening.getLocalPort();
    accept(listening);
  }

  String address() {
    return "http://127.0.0.1:" + port;
  }

  /** Nothing answers any more, and what was under way breaks off. */
  void cut() throws IOException {
    listening.close();
    for (Socket socket : open) {
      socket.close();
    }
  }

  void mend() throws IOException {
    listening = new ServerSocket(port, 50, InetAddress.getLoopbackAddress());
    accept(listening);
  }

  private void accept(ServerSocket from) {
    Thread.ofVirtual()
        .start(
            () -> {
              while (!from.isClosed()) {
                try {
                  Socket near = from.accept();
                  Socket far = new Socket(InetAddress.getLoopbackAddress(), target);
                  open.add(near);
                  open.add(far);
                  pass(near, far);
                  pass(far, near);
                } catch (IOException e) {
                  // It was cut; or the server is gone, and then the journey says so.
                }
              }
            });
  }

  private void pass(Socket from, Socket to) {
    Thread.ofVirtual()
        .start(
            () -> {
              try (from;
                  to) {
                InputStream in = from.getInputStream();
                OutputStream out = to.getOutputStream();
                in.transferTo(out);
              } catch (IOException e) {
                // One end has closed.
              } finally {
                open.remove(from);
                open.remove(to);
              }
            });
  }

  @Override
  public void close() throws IOException {
    cut();
  }
}
