package eleutheria.server.holdings;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.ledger.CanonicalJson;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class ProvenTest {
  @Test
  void isCanonicalJson() {
    UUID role = UUID.fromString("01936883-c370-7351-86fa-d9fa955c31b2");
    UUID person = UUID.fromString("01936242-8960-7609-9afb-098b102570bd");
    Map<String, Object> plain = Map.of("person", person.toString(), "entitlement", role.toString());
    assertThat(Answers.proven(role, person, false, null)).isEqualTo(CanonicalJson.write(plain));
    Map<String, Object> grounds = new java.util.TreeMap<>(plain);
    grounds.put("grounds", "person/hand group/request");
    assertThat(Answers.proven(role, person, false, "person/hand group/request"))
        .isEqualTo(CanonicalJson.write(grounds));
    Map<String, Object> change = new java.util.TreeMap<>(plain);
    change.put("change", "lost");
    assertThat(Answers.proven(role, person, true, "lost")).isEqualTo(CanonicalJson.write(change));
  }
}
