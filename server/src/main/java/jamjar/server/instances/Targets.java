package jamjar.server.instances;

import jamjar.collect.Target;
import jamjar.server.instances.InstanceBody.Endpoint;
import jamjar.server.problems.Problem;
import jamjar.server.security.Locked;
import jamjar.server.security.Scopes;
import jamjar.server.security.SecretBox;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.credentials.CredentialRow;
import jamjar.store.instances.InstanceRow;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** Where an instance is read and as whom; the only place where a stored password is opened. */
@Component
public class Targets implements Locked {
  private final Store store;
  private final Scopes scopes;
  private final SecretBox secrets;

  Targets(Store store, Scopes scopes, SecretBox secrets) {
    this.store = store;
    this.scopes = scopes;
    this.secrets = secrets;
  }

  /** As it is stored. */
  public Target of(InstanceRow row) {
    Endpoint where = new Endpoint(row.host(), row.port(), row.database(), row.tls(), row.ca());
    return row.credential() == null
        ? target(where, row.userName(), secrets.open(row.secret(), place(row)))
        : named(where, row.credential());
  }

  private Target named(Endpoint where, String name) {
    CredentialRow credential = credential(name);
    return target(
        where,
        credential.userName(),
        secrets.open(credential.secret(), placeOfCredential(credential.name())));
  }

  /**
   * A stored credential. Who has a scope may use those that are used in it, and no others: its
   * password could be had by whoever has a server asked with it.
   */
  CredentialRow credential(String name) {
    return store
        .credentials()
        .byName(name)
        .filter(found -> isUsedInScope(found.name()))
        .orElseThrow(
            () -> Problem.field("credential.name", "There is no credential named '" + name + "'."));
  }

  private boolean isUsedInScope(String name) {
    Sight sight = scopes.sight();
    return Scopes.isAll() || store.credentials().usedBy(name).stream().anyMatch(sight::holds);
  }

  /** What the password of an instance is typed for: it is sent nowhere else. */
  static String place(String host, int port, String tls) {
    return "instance " + host + ":" + port + " " + tls;
  }

  static String place(InstanceRow row) {
    return place(row.host(), row.port(), row.tls());
  }

  /** What a stored credential is typed for: its name, by which several instances may use it. */
  public static String placeOfCredential(String name) {
    return "credential " + name;
  }

  /**
   * Locks anew whatever is not locked as it would be now: by an earlier version, or by an earlier
   * key. What somebody changes meanwhile is left.
   *
   * @return how many were
   */
  @Override
  public int renewAll() {
    int renewed = 0;
    for (InstanceRow row : store.instances().all()) {
      if (!secrets.isAsNow(row.secret())) {
        byte[] now = secrets.renewed(row.secret(), place(row));
        renewed += store.instances().secret(row.id(), row.secret(), now);
      }
    }
    for (CredentialRow row : store.credentials().all()) {
      if (!secrets.isAsNow(row.secret())) {
        byte[] now = secrets.renewed(row.secret(), placeOfCredential(row.name()));
        renewed += store.credentials().secret(row.name(), row.secret(), now);
      }
    }
    return renewed;
  }

  private static Target target(Endpoint where, String user, String secret) {
    return new Target(
        where.host().strip(),
        where.port(),
        where.database(),
        tls(where.tls()),
        where.ca(),
        user,
        secret);
  }

  /**
   * As a person has typed it.
   *
   * @param before the instance that is changed, whose password is kept where none is typed; null
   *     for a new one
   */
  public Target of(InstanceBody body, InstanceRow before) {
    return body.credential().named()
        ? named(body.endpoint(), body.credential().name())
        : target(body.endpoint(), body.credential().user(), secret(body, before));
  }

  private String secret(InstanceBody body, InstanceRow before) {
    String typed = body.credential().secret();
    if (typed != null && !typed.isEmpty()) {
      return typed;
    }
    if (before == null) {
      return "";
    }
    Soundness.requireTypedFor(body, before);
    return secrets.open(before.secret(), place(before));
  }

  private static Target.Tls tls(String word) {
    return Target.Tls.valueOf(word.toUpperCase(Locale.ROOT));
  }
}
