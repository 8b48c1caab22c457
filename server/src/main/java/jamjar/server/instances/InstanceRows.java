package jamjar.server.instances;

import jamjar.store.instances.InstanceRow;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;

/** Instances as they are stored, and as they are kept in the history of changes. */
final class InstanceRows {
  private InstanceRows() {}

  /**
   * An instance as a person describes it.
   *
   * @param id 0 before it is stored
   * @param secret locked
   */
  static InstanceRow row(int id, InstanceBody body, byte[] secret, Instant at) {
    InstanceBody.Endpoint endpoint = body.endpoint();
    return new InstanceRow(
        id,
        body.name().strip(),
        body.kind(),
        body.group().strip(),
        body.site().strip(),
        body.machine().strip(),
        body.tags().toArray(String[]::new),
        endpoint.host().strip(),
        endpoint.port(),
        endpoint.database(),
        endpoint.tls(),
        endpoint.ca(),
        body.credential().user(),
        secret,
        body.recipe(),
        body.interval(),
        body.zone(),
        at,
        body.credential().named() ? body.credential().name() : null,
        false,
        uses(body));
  }

  static String[] uses(InstanceBody body) {
    return body.uses() == null
        ? new String[0]
        : body.uses().stream().map(String::strip).distinct().toArray(String[]::new);
  }

  /** As it is kept in the history: where and how it is read, and nothing of its secrets. */
  static Map<String, Object> past(InstanceRow row) {
    Map<String, Object> past = new LinkedHashMap<>();
    past.put("name", row.name());
    past.put("kind", row.kind());
    past.put("group", row.groupName());
    past.put("site", row.site());
    past.put("machine", row.machine());
    past.put("tags", row.tags());
    past.put("host", row.host());
    past.put("port", row.port());
    past.put("database", row.database());
    past.put("tls", row.tls());
    past.put("user", row.userName());
    past.put("credential", row.credential());
    past.put("recipe", row.recipe());
    past.put("interval", row.intervalS());
    past.put("zone", row.zone());
    past.put("paused", row.paused());
    past.put("uses", row.uses());
    return past;
  }
}
