package jamjar.store.silences;

import java.time.Instant;

/**
 * A span in which a source did not answer.
 *
 * @param to null while it lasts
 * @param reason stable word for the kind of failure
 * @param words what was tried and what answered
 */
public record Silence(
    int instance, int source, Instant from, Instant to, String reason, String words) {

  /** One that lasts. */
  public static Silence since(Instant from, int instance, int source, String reason, String words) {
    return new Silence(instance, source, from, null, reason, words);
  }
}
