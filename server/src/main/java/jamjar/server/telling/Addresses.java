package jamjar.server.telling;

import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;
import jamjar.server.problems.Problem;
import java.util.regex.Pattern;

/** Addresses of mail, and what may stand in the head of one. */
final class Addresses {
  private static final Pattern CONTROL = Pattern.compile("[\\p{Cntrl}\\u2028\\u2029]+");
  private static final int LONGEST_HEAD = 240;

  private Addresses() {}

  /**
   * @throws Problem where it is none, or would be more than one
   */
  static void check(String field, String address) {
    try {
      InternetAddress[] all = InternetAddress.parse(address, true);
      if (all.length == 1 && !CONTROL.matcher(address).find()) {
        all[0].validate();
        return;
      }
    } catch (AddressException e) {
      // told below
    }
    throw Problem.field(field, "'" + head(address) + "' is no address of mail.");
  }

  /** Fit for one line of a head, whatever somebody named something. */
  static String head(String text) {
    String one = CONTROL.matcher(text).replaceAll(" ").strip();
    return one.length() <= LONGEST_HEAD ? one : one.substring(0, LONGEST_HEAD - 1) + "…";
  }
}
