package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * Who was told of an alert, who was not, and by which rule.
 *
 * @param rose its key
 * @param rule the rule that is for it now; empty for none
 * @param kept why nobody is told just now; empty where nothing keeps it
 * @param steps those of the rule
 * @param messages that told of it, the oldest first
 */
@Schema(name = "ToldOfAlert")
record ToldView(
    String rose, String rule, String kept, List<StepView> steps, List<MessageView> messages) {

  /**
   * One step of the rule.
   *
   * @param to person:NAME, duty:NAME or channel:NAME
   * @param who whom that means; empty for nobody
   * @param dueAt epoch ms
   * @param urgency wake, morning or nobody
   * @param why why they are not told; empty where they were, or will be
   */
  @Schema(name = "ToldStep")
  record StepView(String to, String who, long dueAt, String urgency, String why) {}
}
