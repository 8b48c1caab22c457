package jamjar.server.security;

import jamjar.server.settings.Settings;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Encrypts passwords with AES-256-GCM; the key lies in the data folder, outside the database. Each
 * is bound to what it was typed for: in another row, or with another host, it does not open.
 */
@Component
public final class SecretBox {
  private static final Logger LOG = LoggerFactory.getLogger(SecretBox.class);
  private static final int NONCE = 12;
  private static final int TAG_BITS = 128;
  private static final int KEY = 32;
  private static final SecureRandom RANDOM = new SecureRandom();

  /** Begins what is bound; what an earlier version stored was not. */
  private static final byte[] BOUND = {'J', 'J', 2};

  private final SecretKeySpec key;

  SecretBox(Settings settings) throws IOException {
    this.key = new SecretKeySpec(key(settings.data().resolve("secret.key")), "AES");
  }

  /**
   * Mark, nonce, then what the cipher gives.
   *
   * @param place what it is typed for, such as host, port and encryption
   */
  public byte[] lock(String secret, String place) {
    byte[] nonce = new byte[NONCE];
    RANDOM.nextBytes(nonce);
    byte[] locked = run(Cipher.ENCRYPT_MODE, nonce, place, secret.getBytes(StandardCharsets.UTF_8));
    return ByteBuffer.allocate(BOUND.length + NONCE + locked.length)
        .put(BOUND)
        .put(nonce)
        .put(locked)
        .array();
  }

  /**
   * @throws IllegalStateException when it was locked with another key, for another place, or
   *     tampered with
   */
  public String open(byte[] locked, String place) {
    if (!isBound(locked)) {
      throw cannot(null);
    }
    return opened(ByteBuffer.wrap(locked).position(BOUND.length), place);
  }

  /** Whether it is bound to a place; what an earlier version stored is not. */
  public boolean isBound(byte[] locked) {
    return locked.length > BOUND.length
        && Arrays.equals(Arrays.copyOf(locked, BOUND.length), BOUND);
  }

  /** Binds what an earlier version stored; what can't be opened is left as it is. */
  public byte[] bind(byte[] unbound, String place) {
    try {
      return lock(opened(ByteBuffer.wrap(unbound), ""), place);
    } catch (IllegalStateException e) {
      return unbound;
    }
  }

  private String opened(ByteBuffer bytes, String place) {
    if (bytes.remaining() < NONCE) {
      throw cannot(null);
    }
    byte[] nonce = new byte[NONCE];
    bytes.get(nonce);
    byte[] rest = new byte[bytes.remaining()];
    bytes.get(rest);
    return new String(run(Cipher.DECRYPT_MODE, nonce, place, rest), StandardCharsets.UTF_8);
  }

  private byte[] run(int mode, byte[] nonce, String place, byte[] input) {
    try {
      Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
      cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
      cipher.updateAAD(place.getBytes(StandardCharsets.UTF_8));
      return cipher.doFinal(input);
    } catch (GeneralSecurityException e) {
      throw cannot(e);
    }
  }

  private static IllegalStateException cannot(Exception cause) {
    return new IllegalStateException(
        "the stored password cannot be opened with the key in the data folder: enter it again",
        cause);
  }

  private static byte[] key(Path file) throws IOException {
    if (Files.exists(file)) {
      byte[] kept = Files.readAllBytes(file);
      if (kept.length == KEY) {
        return kept;
      }
      // half written, as on a disk that was full: passwords can be entered again, readings go on
      Path aside = file.resolveSibling("secret.key.unusable");
      Files.move(file, aside, StandardCopyOption.REPLACE_EXISTING);
      LOG.warn(
          "event=key-unusable bytes={} why=\"the key of the passwords is not whole; it was put aside"
              + " as {}, and every password must be entered again\"",
          kept.length,
          aside.getFileName());
    }
    Files.createDirectories(file.toAbsolutePath().getParent());
    byte[] fresh = new byte[KEY];
    RANDOM.nextBytes(fresh);
    Path next =
        Files.createTempFile(
            file.toAbsolutePath().getParent(),
            "secret",
            ".tmp",
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    Files.write(next, fresh);
    Files.move(next, file, StandardCopyOption.ATOMIC_MOVE);
    return fresh;
  }
}
