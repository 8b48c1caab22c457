package jamjar.store.markers;

/** What was better and worse of all instances of a marker together, see {@link OutcomeRow}. */
public record OutcomeSum(int marker, String span, int better, int worse, int other) {}
