package jamjar.server.watch;

import jamjar.collect.ByHand;
import jamjar.core.counter.Pace;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Work;
import java.util.Map;

/**
 * How the latest value of a series came about.
 *
 * @param pace at which it is read
 * @param byHand per part of it that can be read over there by hand, how
 */
public record Worked(Pace pace, Work work, Map<SeriesKey, ByHand> byHand) {}
