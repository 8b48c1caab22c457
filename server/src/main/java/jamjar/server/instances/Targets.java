package jamjar.server.instances;

import jamjar.collect.Target;
import jamjar.server.instances.InstanceBody.Endpoint;
import jamjar.server.problems.Problem;
import jamjar.server.security.SecretBox;
import jamjar.store.Store;
import jamjar.store.credentials.CredentialRow;
import jamjar.store.instances.InstanceRow;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** Where an instance is read and as whom; the only place where a stored password is opened. */
@Component
public class Targets {
  private final Store store;
  private final SecretBox secrets;

  Targets(Store store, SecretBox secrets) {
    this.store = store;
    this.secrets = secrets;
  }

  /** As it is stored. */
  public Target of(InstanceRow row) {
    Endpoint where = new Endpoint(row.host(), row.port(), row.database(), row.tls(), row.ca());
    return row.credential() == null
        ? target(where, row.userName(), row.secret())
        : named(where, row.credential());
  }

  private Target named(Endpoint where, String name) {
    CredentialRow credential =
        store
            .credentials()
            .byName(name)
            .orElseThrow(
                () ->
                    Problem.field(
                        "credential.name", "There is no credential named '" + name + "'."));
    return target(where, credential.userName(), credential.secret());
  }

  private Target target(Endpoint where, String user, byte[] secret) {
    return target(where, user, secrets.open(secret));
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
    return before == null ? "" : secrets.open(before.secret());
  }

  private static Target.Tls tls(String word) {
    return Target.Tls.valueOf(word.toUpperCase(Locale.ROOT));
  }
}
