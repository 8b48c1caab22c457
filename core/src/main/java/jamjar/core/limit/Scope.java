package jamjar.core.limit;

/**
 * What a rule is for, from the widest to the nearest.
 *
 * @param of the kind, the name of the group, or the number of the instance
 */
public record Scope(Reach reach, String of) {

  /** How far a rule reaches. */
  public enum Reach {
    KIND,
    GROUP,
    INSTANCE
  }

  public static Scope instance(int id) {
    return new Scope(Reach.INSTANCE, Integer.toString(id));
  }
}
