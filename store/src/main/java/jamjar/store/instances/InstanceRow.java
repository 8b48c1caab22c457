package jamjar.store.instances;

import java.time.Instant;

/**
 * An instance as stored.
 *
 * @param id 0 before it is stored
 * @param tls off, encrypted or checked
 * @param ca certificates in PEM that are trusted for this instance; empty for those of the machine
 * @param secret the password, encrypted
 * @param credential the name of the credential that is used in place of user and secret; null for
 *     none
 * @param paused whether it is left unread for now
 * @param uses the instances that it uses, by name: NAME, or THROUGH=NAME for a pool that leads
 *     there
 * @param intervalS seconds between two fast readings
 */
public record InstanceRow(
    int id,
    String name,
    String kind,
    String groupName,
    String site,
    String machine,
    String[] tags,
    String host,
    int port,
    String database,
    String tls,
    String ca,
    String userName,
    byte[] secret,
    String recipe,
    int intervalS,
    String zone,
    Instant createdAt,
    String credential,
    boolean paused,
    String[] uses) {
  /** The same, using others. */
  public InstanceRow using(String[] others) {
    return new InstanceRow(
        id,
        name,
        kind,
        groupName,
        site,
        machine,
        tags,
        host,
        port,
        database,
        tls,
        ca,
        userName,
        secret,
        recipe,
        intervalS,
        zone,
        createdAt,
        credential,
        paused,
        others);
  }

  /** The kind of Jam Jar itself. */
  public static final String OWN = "jamjar";
}
