package jamjar.server.accounts;

import com.nulabinc.zxcvbn.Strength;
import com.nulabinc.zxcvbn.Zxcvbn;
import jamjar.server.problems.OneAtATime;
import jamjar.server.problems.Problem;
import jamjar.server.security.Secrets;
import java.util.List;
import java.util.Locale;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** What a password must be, and whether one is right. */
@Component
class Passwords {
  private static final int SHORTEST = 12;
  private static final int LONGEST = 128;

  /** Of five: 3 is safe from who tries offline for some hours. */
  private static final int STRONG = 3;

  private final PasswordEncoder encoder;
  private final Zxcvbn guesser = new Zxcvbn();

  /** Each takes a core and 16 MB for a while. */
  private final OneAtATime hashing = new OneAtATime("Many sign in just now.");

  /** What an attempt at an account is held against that has none: it takes as long. */
  private final String nobodys;

  Passwords(PasswordEncoder encoder) {
    this.encoder = encoder;
    this.nobodys = encoder.encode(Secrets.fresh());
  }

  /**
   * Whether it is the right one.
   *
   * @param encoded as it is stored; null for none, which none matches
   */
  boolean matches(String password, String encoded) {
    String held = encoded == null ? nobodys : encoded;
    return hashing.answer(() -> encoder.matches(password, held)) && encoded != null;
  }

  /** Whether it was encoded in an older way, and is to be encoded anew. */
  boolean old(String encoded) {
    return encoder.upgradeEncoding(encoded);
  }

  /** As it is stored, of one that is right already. */
  String encoded(String password) {
    return hashing.answer(() -> encoder.encode(password));
  }

  /**
   * As it is stored, of a new one.
   *
   * @param name of its owner
   * @throws Problem when it is too short or too long, or guessed too soon
   */
  String fresh(String password, String name) {
    if (password.length() < SHORTEST || password.length() > LONGEST) {
      throw Problem.field(
          "password", "A password has " + SHORTEST + " to " + LONGEST + " signs, any of them.");
    }
    Strength strength = guesser.measure(password, List.of(name, "jamjar", "jam jar"));
    if (strength.getScore() < STRONG) {
      String why = strength.getFeedback().getWarning();
      throw Problem.field(
          "password",
          "This one is guessed too soon"
              + (why.isEmpty() ? "" : ": " + why.toLowerCase(Locale.ROOT).replaceFirst("\\.$", ""))
              + ". Several words that do not go together are good, and easy to remember.");
    }
    return encoded(password);
  }
}
