package jamjar.store.cluster;

import java.security.SecureRandom;
import java.util.HexFormat;

/** Passwords that nobody chose. */
public final class Secrets {
  private static final SecureRandom RANDOM = new SecureRandom();

  private Secrets() {}

  /** 144 random bits in hexadecimal. */
  public static String random() {
    byte[] bytes = new byte[18];
    RANDOM.nextBytes(bytes);
    return HexFormat.of().formatHex(bytes);
  }
}
