package jamjar.collect;

/**
 * One check of a target before it is watched.
 *
 * @param check what was checked, in words
 * @param found what was found
 * @param wanted what is wanted
 * @param fix what to do there, as a command where one does it; empty when nothing is to be done
 * @param restartNeeded whether the target must restart for it
 */
public record CheckResult(
    String check, Outcome outcome, String found, String wanted, String fix, boolean restartNeeded) {

  /** How a check ended. */
  public enum Outcome {
    PASS,
    WARN,
    FAIL
  }

  public static CheckResult pass(String check, String found) {
    return new CheckResult(check, Outcome.PASS, found, "", "", false);
  }

  public static CheckResult fail(String check, Refusal refusal) {
    return new CheckResult(
        check,
        Outcome.FAIL,
        refusal.sentence(),
        "an answer to " + refusal.tried(),
        refusal.advice(),
        false);
  }

  /**
   * How the connection to a target is encrypted.
   *
   * @param switchOn how it is switched on over there
   * @param restart whether the target must restart for it
   */
  public static CheckResult encryption(Target target, String switchOn, boolean restart) {
    String check = "Encryption";
    return switch (target.tls()) {
      case CHECKED -> pass(check, "encrypted, certificate trusted");
      case ENCRYPTED ->
          new CheckResult(
              check,
              Outcome.WARN,
              "encrypted, but whoever answers is believed",
              "a trusted certificate",
              "Choose 'certificate checked' and paste the certificate of the authority, in PEM.",
              false);
      case OFF ->
          target.local()
              ? pass(check, "off; the connection stays on this machine")
              : new CheckResult(
                  check,
                  Outcome.WARN,
                  "off: password and readings cross the network in clear",
                  "an encrypted connection",
                  switchOn + " and choose 'certificate checked' here.",
                  restart);
    };
  }
}
