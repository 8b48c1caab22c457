package jamjar.core.telling;

import java.util.List;

/**
 * Somebody who can be told.
 *
 * @param ways in their order: the next is for where the one before does not get through
 * @param hours in which they are told at once where a rule names them; out of them in the morning
 * @param scope the parts of the estate that they may know of; none for all
 */
public record Person(String name, List<Way> ways, Hours hours, List<String> scope) {
  public Person {
    ways = List.copyOf(ways);
    scope = List.copyOf(scope);
  }
}
