package eleutheria.server.signon;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.time.Duration;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;

class SessionsTest {
  private final RunningServer server = RunningServer.shared();
  private final DSLContext db = server.context().getBean(DSLContext.class);

  /** The session that was begun last. */
  private String newest() {
    return db.fetchSingle(
            "select PRIMARY_ID from SPRING_SESSION order by CREATION_TIME desc limit 1")
        .get(0, String.class);
  }

  private long used(String session) {
    return db.fetchSingle(
            "select LAST_ACCESS_TIME from SPRING_SESSION where PRIMARY_ID = ?", session)
        .get(0, Long.class);
  }

  @Test
  void whenASessionWasUsedIsWrittenOnceAMinute() {
    Visitor nils = server.signedIn("nils");
    String session = newest();
    long begun = used(session);
    for (int i = 0; i < 3; i++) {
      nils.get("/api/front").expect(200);
      nils.get("/api/me").expect(200);
    }
    assertThat(used(session)).isEqualTo(begun);
    long earlier = begun - Duration.ofMinutes(2).toMillis();
    db.execute(
        "update SPRING_SESSION set LAST_ACCESS_TIME = ? where PRIMARY_ID = ?", earlier, session);
    nils.get("/api/front").expect(200);
    assertThat(used(session)).isGreaterThanOrEqualTo(begun);
  }

  @Test
  void aSessionThatAnotherServerEndedIsEndedHereAtOnce() {
    Visitor nils = server.signedIn("nils");
    String session = newest();
    nils.get("/api/me").expect(200);
    assertThat(nils.get("/api/front").json().path("page").isNull()).isFalse();
    db.execute("delete from SPRING_SESSION where PRIMARY_ID = ?", session);
    nils.get("/api/me").expect(401);
    assertThat(nils.get("/api/front").json().path("page").isNull()).isTrue();
  }
}
