package jamjar.core.telling;

/**
 * Who is told, and when.
 *
 * @param to person:NAME, duty:NAME, or channel:NAME; empty for nobody
 * @param afterMinutes how long after it rose: only what is open then, and known to nobody, is told
 */
public record Step(String to, int afterMinutes, Urgency urgency) {
  public static final String PERSON = "person:";
  public static final String DUTY = "duty:";
  public static final String CHANNEL = "channel:";

  /** The name without what it is the name of. */
  public String name() {
    return to.substring(to.indexOf(':') + 1);
  }
}
