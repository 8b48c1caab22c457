package jamjar.core.chart;

/**
 * A series over a whole window, in the unit as shown.
 *
 * @param mean over the time that is covered; NaN where nothing is
 * @param max the greatest reading that touches the window
 * @param sum of a total all that it grew by within the window, readings over gaps too, in the unit
 *     without "per second"; NaN for other shapes
 */
public record Summary(double mean, double max, double sum) {}
