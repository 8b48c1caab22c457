package jamjar.server.pools;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.Map;

/**
 * Whether what a pool has lent out is explained by its work.
 *
 * @param verdict agrees, held_longer, not_coming_back, does_not_fit, too_little or not_told
 * @param inUse mean of the connections lent out
 * @param perSecond handed out in a second
 * @param hold for how long each was held, s
 * @param holdHigh the upper end of what is normal for that, s
 * @param expected how many would be in use by these two
 * @param notBack how many more are
 */
@Schema(name = "PoolCheck")
public record PoolCheckView(
    Map<String, String> labels,
    String verdict,
    @Schema(types = {"number", "null"}) Double inUse,
    @Schema(types = {"number", "null"}) Double perSecond,
    @Schema(types = {"number", "null"}) Double hold,
    @Schema(types = {"number", "null"}) Double holdHigh,
    @Schema(types = {"number", "null"}) Double expected,
    double notBack) {}
