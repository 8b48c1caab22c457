package jamjar.collect.recipe;

import java.util.List;
import java.util.Map;

/**
 * One counter as read from an attribute of a managed bean.
 *
 * @param counter key of the counter
 * @param path name of the attribute, and of the items inside it where it is a composite
 * @param scale what the value is multiplied with to be kept
 * @param unknown the value by which the bean says that it does not know; NaN for none
 * @param needs names of the attribute and of an item inside it that is above 0 while the value is
 *     known; empty for none
 * @param words for an attribute that is a text, the value of each; {@code *} for any other
 */
public record AttributeRead(
    String counter,
    List<String> path,
    double scale,
    double unknown,
    List<String> needs,
    Map<String, Double> words) {

  public AttributeRead {
    path = List.copyOf(path);
    needs = List.copyOf(needs);
    words = Map.copyOf(words);
  }

  /** Name of the attribute that is asked for. */
  public String attribute() {
    return path.get(0);
  }
}
