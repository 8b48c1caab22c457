package jamjar.server.instances;

import io.swagger.v3.oas.annotations.media.Schema;

/**
 * How full a jar is: how near its tightest counter is to its critical limit.
 *
 * @param series number of that counter's series
 * @param share 0 … 1.2; 1 at the limit
 * @param value the mean of the last minute
 * @param critical the critical number
 * @param low share at the low end of its normal; null when that is not known
 * @param high share at the high end of its normal
 */
public record JarView(
    int series,
    String title,
    String unit,
    double share,
    double value,
    double critical,
    @Schema(types = {"number", "null"}) Double low,
    @Schema(types = {"number", "null"}) Double high) {}
