package jamjar.server.problems;

import jamjar.core.session.Fingerprint;

/** Fingerprints of statements as they are asked for. */
public final class Fingerprints {
  private Fingerprints() {}

  /**
   * @param field the field to be told as at fault
   * @param hex in hexadecimal; empty for none, which is 0
   */
  public static long of(String field, String hex) {
    try {
      return Fingerprint.of(hex);
    } catch (NumberFormatException e) {
      throw Problem.field(field, "A fingerprint is a number in hexadecimal.");
    }
  }
}
