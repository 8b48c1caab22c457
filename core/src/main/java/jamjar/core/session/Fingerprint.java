package jamjar.core.session;

/** A statement's fingerprint as it is written: in hexadecimal; empty for none. */
public final class Fingerprint {
  private Fingerprint() {}

  public static String hex(long fingerprint) {
    return fingerprint == 0 ? "" : Long.toHexString(fingerprint);
  }

  /**
   * @throws NumberFormatException when it is none
   */
  public static long of(String hex) {
    return hex.isEmpty() ? 0 : Long.parseUnsignedLong(hex, 16);
  }
}
