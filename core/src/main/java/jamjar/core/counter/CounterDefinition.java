package jamjar.core.counter;

import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * What a counter is and means.
 *
 * @param key stable name, unique within a kind of instance, such as {@code transactions.committed}
 * @param title what a person reads
 * @param group the query or bean call that reads it; a group is read whole or not at all
 * @param unit as shown: empty for a count, else {@code s}, {@code B}, {@code %}, {@code blocks} …
 * @param shape how it is read, kept and shown
 * @param subject what its labels name (database, table …); empty when it has none
 * @param summed whether a series without labels is kept beside the labelled ones, as the sum of
 *     their increases or levels
 * @param resolution step to which a level is rounded when kept; 0 keeps it as read
 * @param matters the smallest difference that matters to a person, in the unit as shown
 * @param goodEnd the value at the good end of the scale, in the unit as shown
 * @param worse the direction in which it gets worse
 * @param trouble whether it is good at zero only: however often it comes back, nothing above zero
 *     is normal
 * @param meaning one sentence
 * @param suggests what its values suggest
 * @param questions the plain questions it answers
 * @param readWith keys of the counters to read it with
 * @param numerator key of the series above the line; empty unless a quotient
 * @param denominators keys of the series added up below the line; empty unless a quotient
 * @param factor what the kept value is multiplied with to be shown, such as 100 for a percentage
 * @param least the smallest denominator that gives a quotient
 */
public record CounterDefinition(
    String key,
    String title,
    String group,
    String unit,
    Shape shape,
    String subject,
    boolean summed,
    double resolution,
    double matters,
    double goodEnd,
    Worse worse,
    boolean trouble,
    String meaning,
    String suggests,
    List<String> questions,
    List<String> readWith,
    String numerator,
    List<String> denominators,
    double factor,
    double least) {

  /** Least denominator of a quotient when none is declared. */
  public static final double DEFAULT_LEAST = 20;

  public CounterDefinition {
    Objects.requireNonNull(key);
    Objects.requireNonNull(title);
    Objects.requireNonNull(shape);
    questions = List.copyOf(questions);
    readWith = List.copyOf(readWith);
    denominators = List.copyOf(denominators);
    if ((shape == Shape.QUOTIENT) == (numerator.isEmpty() || denominators.isEmpty())) {
      throw new IllegalArgumentException(
          "counter " + key + ": a quotient, and only a quotient, names what it is made of");
    }
  }

  /** The keys of what is read of it: itself, or of a quotient those it is made of, above first. */
  public List<String> parts() {
    if (shape != Shape.QUOTIENT) {
      return List.of(key);
    }
    return Stream.concat(Stream.of(numerator), denominators.stream()).toList();
  }

  public boolean labelled() {
    return !subject.isEmpty();
  }
}
