package jamjar.store.arrangements;

/**
 * Charts as a person has arranged them.
 *
 * @param reach {@code kind} or {@code instance}
 * @param ofWhat the kind, or the number of the instance
 * @param charts in their order, each as the front end names it
 */
public record ArrangementRow(String reach, String ofWhat, String[] charts) {}
