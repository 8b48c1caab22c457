package jamjar.collect;

/**
 * One check of a target before it is watched.
 *
 * @param check what was checked, in words
 * @param found what was found
 * @param wanted what is wanted
 * @param advice what to do, as a sentence; empty when nothing is to be done
 * @param fix the commands that mend it there, ready to copy; empty where no command does
 * @param restartNeeded whether the target must restart for it
 * @param recipe key of the recipe that fits what answers; empty where the chosen one does
 */
public record CheckResult(
    String check,
    Outcome outcome,
    String found,
    String wanted,
    String advice,
    String fix,
    boolean restartNeeded,
    String recipe) {

  public CheckResult(
      String check,
      Outcome outcome,
      String found,
      String wanted,
      String advice,
      String fix,
      boolean restartNeeded) {
    this(check, outcome, found, wanted, advice, fix, restartNeeded, "");
  }

  /** How a check ended. */
  public enum Outcome {
    PASS,
    WARN,
    FAIL
  }

  public static CheckResult pass(String check, String found) {
    return new CheckResult(check, Outcome.PASS, found, "", "", "", false);
  }

  public static CheckResult fail(String check, Refusal refusal) {
    return new CheckResult(
        check,
        Outcome.FAIL,
        refusal.sentence(),
        "an answer to " + refusal.tried(),
        refusal.advice(),
        refusal.fix(),
        refusal.restartNeeded());
  }

  /** Something is off that does not keep it from being watched. */
  public static CheckResult warn(
      String check, String found, String wanted, String advice, String fix) {
    return new CheckResult(check, Outcome.WARN, found, wanted, advice, fix, false);
  }

  /** The same, when the target must restart for the fix. */
  public CheckResult afterRestart() {
    return new CheckResult(check, outcome, found, wanted, advice, fix, true, recipe);
  }

  /** The same, when it keeps the target from being watched as it should. */
  public CheckResult failing() {
    return new CheckResult(check, Outcome.FAIL, found, wanted, advice, fix, restartNeeded, recipe);
  }

  /** The same, when another recipe fits better. */
  public CheckResult proposing(String key) {
    return new CheckResult(check, outcome, found, wanted, advice, fix, restartNeeded, key);
  }

  public boolean fails() {
    return outcome == Outcome.FAIL;
  }

  /**
   * How the connection to a target is encrypted.
   *
   * @param switchOn the commands that switch it on over there
   * @param restart whether the target must restart for it
   */
  public static CheckResult encryption(Target target, String switchOn, boolean restart) {
    String check = "Encryption";
    return switch (target.tls()) {
      case CHECKED -> pass(check, "on, the certificate is checked");
      case ENCRYPTED ->
          warn(
              check,
              "on, but whoever answers is believed",
              "a certificate that is checked",
              "Choose 'certificate checked' and paste the certificate of the authority, in PEM.",
              "");
      case OFF ->
          target.local()
              ? pass(check, "off; the connection stays on this machine")
              : new CheckResult(
                  check,
                  Outcome.WARN,
                  "off: password and readings cross the network in clear",
                  "an encrypted connection",
                  "Switch it on there and choose 'certificate checked' here.",
                  switchOn,
                  restart);
    };
  }
}
