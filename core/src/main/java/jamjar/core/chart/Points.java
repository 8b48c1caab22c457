package jamjar.core.chart;

/**
 * What a chart draws: at each instant the mean, minimum and maximum, or NaN for nothing, so that no
 * line is drawn across.
 *
 * @param at epoch ms: the reading, or the middle of a step
 */
public record Points(long[] at, double[] mean, double[] min, double[] max) {}
