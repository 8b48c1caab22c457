package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * What a plan would have sent.
 *
 * @param from epoch ms
 * @param to epoch ms
 * @param alerts how many there were
 * @param wake how many messages would have come at once
 * @param night how many of these between ten in the evening and the report
 * @param morning how many reports of the night
 * @param recipients each with what they would have got
 * @param latest the newest messages
 */
@Schema(name = "TellingTrial")
record TrialView(
    long from,
    long to,
    int alerts,
    int wake,
    int night,
    int morning,
    List<ByRecipient> recipients,
    List<Sent> latest) {

  /** What one recipient would have got. */
  @Schema(name = "TellingTrialRecipient")
  record ByRecipient(String recipient, int wake, int night, int morning) {}

  /**
   * One message.
   *
   * @param at epoch ms
   * @param key without the channel
   */
  @Schema(name = "TellingTrialMessage")
  record Sent(String key, long at, String kind, String recipient, String rule, String subject) {}
}
