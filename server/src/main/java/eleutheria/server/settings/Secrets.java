package eleutheria.server.settings;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/** Encrypts what must be kept secret in the database: AES-256-GCM, one key for each purpose. */
@Component
public class Secrets {
  private static final int NONCE = 12;

  private final byte[] secret;
  private final SecureRandom random = new SecureRandom();

  Secrets(ServerSettings settings) {
    if (settings.secret().length() < 32) {
      throw new IllegalStateException(
          "ELEUTHERIA_SECRET has %d characters; at least 32 are needed."
              .formatted(settings.secret().length()));
    }
    this.secret = settings.secret().getBytes(StandardCharsets.UTF_8);
  }

  /** A keyed hash (HMAC-SHA-256), with one key for each purpose. */
  public byte[] mac(String purpose, String text) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secret, "HmacSHA256"));
      byte[] key = mac.doFinal(("mac " + purpose).getBytes(StandardCharsets.UTF_8));
      mac.init(new SecretKeySpec(key, "HmacSHA256"));
      return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  public byte[] encrypt(String purpose, byte[] plain) {
    byte[] nonce = new byte[NONCE];
    random.nextBytes(nonce);
    byte[] sealed = run(Cipher.ENCRYPT_MODE, purpose, nonce, plain);
    byte[] all = Arrays.copyOf(nonce, NONCE + sealed.length);
    System.arraycopy(sealed, 0, all, NONCE, sealed.length);
    return all;
  }

  /**
   * @throws IllegalStateException if it was encrypted with another secret or was changed
   */
  public byte[] decrypt(String purpose, byte[] sealed) {
    return run(
        Cipher.DECRYPT_MODE,
        purpose,
        Arrays.copyOf(sealed, NONCE),
        Arrays.copyOfRange(sealed, NONCE, sealed.length));
  }

  private byte[] run(int mode, String purpose, byte[] nonce, byte[] bytes) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secret, "HmacSHA256"));
      byte[] key = mac.doFinal(purpose.getBytes(StandardCharsets.UTF_8));
      Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
      cipher.init(mode, new SecretKeySpec(key, "AES"), new GCMParameterSpec(128, nonce));
      return cipher.doFinal(bytes);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(
          "cannot read a secret of the database; is ELEUTHERIA_SECRET the one it was made with?",
          e);
    }
  }
}
