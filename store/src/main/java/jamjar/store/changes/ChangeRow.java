package jamjar.store.changes;

import java.time.Instant;

/**
 * A change as stored.
 *
 * @param id 0 before it is stored
 * @param who a name
 * @param address from where; empty for what Jam Jar did by itself
 * @param what limit, instance, group, recipe, marker, credential, account, token or sign-in
 * @param ofWhat which of them
 * @param before as JSON; null for what was not there
 * @param after as JSON; null for what is gone
 */
public record ChangeRow(
    long id,
    Instant at,
    String who,
    String address,
    String what,
    String ofWhat,
    String before,
    String after) {

  /** The same, with less told of it. */
  public ChangeRow as(String toldBefore, String toldAfter) {
    return new ChangeRow(id, at, who, address, what, ofWhat, toldBefore, toldAfter);
  }
}
