package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.store.telling.MessageStateRow;
import java.util.List;

/**
 * A message, and what became of it.
 *
 * @param at when it was decided, epoch ms
 * @param kind rise, worse, over, digest or report
 * @param alerts their keys
 * @param state waiting, sent or failed
 * @param answer what the other side said last; empty before it was asked
 * @param lastAt when it was tried last, epoch ms; null for never
 */
@Schema(name = "Message")
record MessageView(
    String key,
    long at,
    String kind,
    String recipient,
    String channel,
    String address,
    String rule,
    String severity,
    List<String> alerts,
    String subject,
    String body,
    String state,
    int attempts,
    String answer,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long lastAt) {
  static MessageView of(MessageStateRow row) {
    return new MessageView(
        row.key(),
        row.at().toEpochMilli(),
        row.kind(),
        row.recipient(),
        row.channel(),
        row.address(),
        row.rule(),
        row.severity(),
        List.of(row.alerts()),
        row.subject(),
        row.body(),
        row.state(),
        row.attempts(),
        row.answer(),
        row.lastAt() == null ? null : row.lastAt().toEpochMilli());
  }
}
