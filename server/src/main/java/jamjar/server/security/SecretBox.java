package jamjar.server.security;

import jamjar.server.Settings;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/** Encrypts passwords with AES-256-GCM; the key lies in the data folder, outside the database. */
@Component
public final class SecretBox {
  private static final int NONCE = 12;
  private static final int TAG_BITS = 128;
  private static final SecureRandom RANDOM = new SecureRandom();

  private final SecretKeySpec key;

  SecretBox(Settings settings) throws IOException {
    this.key = new SecretKeySpec(key(settings.data().resolve("secret.key")), "AES");
  }

  /** Nonce, then what the cipher gives. */
  public byte[] lock(String secret) {
    byte[] nonce = new byte[NONCE];
    RANDOM.nextBytes(nonce);
    byte[] locked = run(Cipher.ENCRYPT_MODE, nonce, secret.getBytes(StandardCharsets.UTF_8));
    return ByteBuffer.allocate(NONCE + locked.length).put(nonce).put(locked).array();
  }

  /**
   * @throws IllegalStateException when it was locked with another key or tampered with
   */
  public String open(byte[] locked) {
    ByteBuffer bytes = ByteBuffer.wrap(locked);
    byte[] nonce = new byte[NONCE];
    bytes.get(nonce);
    byte[] rest = new byte[bytes.remaining()];
    bytes.get(rest);
    return new String(run(Cipher.DECRYPT_MODE, nonce, rest), StandardCharsets.UTF_8);
  }

  private byte[] run(int mode, byte[] nonce, byte[] input) {
    try {
      Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
      cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
      return cipher.doFinal(input);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(
          "a stored password cannot be opened with the key in the data folder; enter it again", e);
    }
  }

  private static byte[] key(Path file) throws IOException {
    if (!Files.exists(file)) {
      Files.createDirectories(file.toAbsolutePath().getParent());
      byte[] fresh = new byte[32];
      RANDOM.nextBytes(fresh);
      Files.createFile(
          file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
      Files.write(file, fresh, StandardOpenOption.WRITE);
    }
    return Files.readAllBytes(file);
  }
}
