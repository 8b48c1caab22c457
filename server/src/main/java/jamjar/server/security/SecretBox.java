package jamjar.server.security;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/**
 * Encrypts passwords with AES-256-GCM, by a key that lies outside the database. Each is bound to
 * what it was typed for: in another row, or with another host, it does not open. Each tells by
 * which key it was locked, so that the key can be changed while passwords are opened.
 */
@Component
public class SecretBox {
  private static final int NONCE = 12;
  private static final int TAG_BITS = 128;
  private static final SecureRandom RANDOM = new SecureRandom();

  /** Begins what is locked now: then follows by which key. */
  private static final byte[] BY_KEY = {'J', 'J', 3};

  /** Began what an earlier version bound; one before that bound nothing. */
  private static final byte[] BOUND = {'J', 'J', 2};

  private final KeyRing keys;

  SecretBox(KeyRing keys) {
    this.keys = keys;
  }

  /**
   * Mark, key, nonce, then what the cipher gives.
   *
   * @param place what it is typed for, such as host, port and encryption
   */
  public byte[] lock(String secret, String place) {
    KeyRing.Key key = keys.current();
    byte[] nonce = new byte[NONCE];
    RANDOM.nextBytes(nonce);
    byte[] locked =
        run(Cipher.ENCRYPT_MODE, key, nonce, place, secret.getBytes(StandardCharsets.UTF_8));
    return ByteBuffer.allocate(BY_KEY.length + KeyRing.NAME + NONCE + locked.length)
        .put(BY_KEY)
        .put(key.name())
        .put(nonce)
        .put(locked)
        .array();
  }

  /**
   * @throws IllegalStateException when it was locked with another key, for another place, or
   *     tampered with
   */
  public String open(byte[] locked, String place) {
    ByteBuffer bytes = ByteBuffer.wrap(locked);
    if (begins(locked, BY_KEY)) {
      byte[] name = new byte[KeyRing.NAME];
      require(bytes.position(BY_KEY.length), name.length);
      bytes.get(name);
      return opened(bytes, place, keys.named(name));
    }
    if (begins(locked, BOUND)) {
      return opened(bytes.position(BOUND.length), place, keys.all());
    }
    throw cannot(null);
  }

  private static boolean begins(byte[] locked, byte[] mark) {
    return locked.length > mark.length && Arrays.equals(Arrays.copyOf(locked, mark.length), mark);
  }

  /** Whether it is locked as it would be now, and by the same key. */
  public boolean isAsNow(byte[] locked) {
    byte[] name = keys.current().name();
    return begins(locked, BY_KEY)
        && locked.length > BY_KEY.length + name.length
        && Arrays.equals(
            Arrays.copyOfRange(locked, BY_KEY.length, BY_KEY.length + name.length), name);
  }

  /**
   * Locks anew what an earlier version stored, or what was locked with an earlier key; what can't
   * be opened is left as it is.
   */
  public byte[] renewed(byte[] locked, String place) {
    try {
      boolean bound = begins(locked, BY_KEY) || begins(locked, BOUND);
      String secret = bound ? open(locked, place) : opened(ByteBuffer.wrap(locked), "", keys.all());
      return lock(secret, place);
    } catch (IllegalStateException e) {
      return locked;
    }
  }

  private static String opened(ByteBuffer bytes, String place, List<KeyRing.Key> keys) {
    require(bytes, NONCE);
    byte[] nonce = new byte[NONCE];
    bytes.get(nonce);
    byte[] rest = new byte[bytes.remaining()];
    bytes.get(rest);
    IllegalStateException last = cannot(null);
    for (KeyRing.Key key : keys) {
      try {
        return new String(
            run(Cipher.DECRYPT_MODE, key, nonce, place, rest), StandardCharsets.UTF_8);
      } catch (IllegalStateException e) {
        last = e;
      }
    }
    throw last;
  }

  private static void require(ByteBuffer bytes, int length) {
    if (bytes.remaining() < length) {
      throw cannot(null);
    }
  }

  private static byte[] run(int mode, KeyRing.Key key, byte[] nonce, String place, byte[] input) {
    try {
      Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
      cipher.init(
          mode, new SecretKeySpec(key.bytes(), "AES"), new GCMParameterSpec(TAG_BITS, nonce));
      cipher.updateAAD(place.getBytes(StandardCharsets.UTF_8));
      return cipher.doFinal(input);
    } catch (GeneralSecurityException e) {
      throw cannot(e);
    }
  }

  private static IllegalStateException cannot(Exception cause) {
    return new IllegalStateException(
        "the stored password cannot be opened with the key that there is: enter it again", cause);
  }
}
