package jamjar.collect.recipe;

/**
 * How deep one digs with a counter: what nobody can do without, what is of use, what is for
 * digging.
 */
public enum Depth {
  ESSENTIAL,
  USEFUL,
  DEEP
}
