package jamjar.core.chart;

/**
 * The figures of a series over a window, in the unit as shown; NaN where nothing is covered.
 *
 * @param least the least reading that touches the window
 * @param mean over the time that is covered
 * @param p95 at or below this it was for 95 % of the time that is covered, by the means of 400
 *     steps of the window
 * @param greatest the greatest reading that touches the window
 * @param sum of a total all that it grew by within the window, without "per second"; NaN for other
 *     shapes
 */
public record Figures(double least, double mean, double p95, double greatest, double sum) {}
