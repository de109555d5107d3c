package eleutheria.server.ledger;

import eleutheria.server.settings.Secrets;
import eleutheria.server.settings.Settings;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.PrivateKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.util.Base64;
import java.util.HexFormat;
import org.springframework.stereotype.Component;

/** The key that signs exported heads: Ed25519 (RFC 8032), made once, encrypted in the database. */
@Component
class LedgerKey {
  private static final String PURPOSE = "ledger-key";

  private final Settings settings;
  private final Secrets secrets;

  LedgerKey(Settings settings, Secrets secrets) {
    this.settings = settings;
    this.secrets = secrets;
  }

  /** Signs the UTF-8 bytes of a text; 128 lower-case hex digits. */
  String sign(String text) {
    try {
      Signature signature = Signature.getInstance("Ed25519");
      signature.initSign(privateKey());
      signature.update(text.getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().formatHex(signature.sign());
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("cannot sign", e);
    }
  }

  /** The public key as PEM (RFC 7468, section 13). */
  String publicPem() {
    String kept = kept();
    return "-----BEGIN PUBLIC KEY-----\n"
        + kept.substring(kept.indexOf(' ') + 1)
        + "\n-----END PUBLIC KEY-----\n";
  }

  private PrivateKey privateKey() throws GeneralSecurityException {
    String kept = kept();
    byte[] sealed = Base64.getDecoder().decode(kept.substring(0, kept.indexOf(' ')));
    return KeyFactory.getInstance("Ed25519")
        .generatePrivate(new PKCS8EncodedKeySpec(secrets.decrypt(PURPOSE, sealed)));
  }

  /** "encrypted-private public", both Base64; kept as one value, so that they belong together. */
  private String kept() {
    return settings.get(PURPOSE).orElseGet(() -> settings.keep(PURPOSE, make()));
  }

  private String make() {
    try {
      KeyPair pair = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
      Base64.Encoder encoder = Base64.getEncoder();
      return encoder.encodeToString(secrets.encrypt(PURPOSE, pair.getPrivate().getEncoded()))
          + " "
          + encoder.encodeToString(pair.getPublic().getEncoded());
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("cannot make a key", e);
    }
  }
}
