package jamjar.standins;

import jamjar.standins.servers.SimServer;
import java.util.List;
import java.util.Map;

/**
 * An instance on loopback as the API is told of it.
 *
 * @param group its group on the shelf; empty for none, as are site and machine
 * @param database for a database engine the one to sign in to
 * @param user empty where nobody signs in
 * @param interval seconds between two readings
 * @param uses the instances that it uses, as the API is told of them
 */
public record WatchedInstance(
    String name,
    String kind,
    String recipe,
    String group,
    String site,
    String machine,
    List<String> tags,
    int port,
    String database,
    String user,
    String secret,
    int interval,
    List<String> uses) {

  /** A database engine that stands alone. */
  public static WatchedInstance engine(
      String name, int port, String database, String user, String secret, int interval) {
    return new WatchedInstance(
        name,
        "postgresql",
        "postgresql",
        "",
        "",
        "",
        List.of(),
        port,
        database,
        user,
        secret,
        interval,
        List.of());
  }

  /** A stand-in for a JVM or an application server. */
  public static WatchedInstance server(SimServer server, int interval) {
    return new WatchedInstance(
        server.name(),
        server.profile().kind(),
        server.profile().recipe(),
        server.profile().group(),
        server.profile().site(),
        "",
        List.of(),
        server.port(),
        "",
        "",
        "",
        interval,
        server.profile().pools().stream()
            .map(pool -> pool.name() + "=" + pool.database())
            .toList());
  }

  /** The same on the shelf. */
  public WatchedInstance at(String itsGroup, String itsSite, String itsMachine, String... itsTags) {
    return new WatchedInstance(
        name,
        kind,
        recipe,
        itsGroup,
        itsSite,
        itsMachine,
        List.of(itsTags),
        port,
        database,
        user,
        secret,
        interval,
        uses);
  }

  /** The address of an engine, as a pool is told of it. */
  public String address() {
    return "jdbc:postgresql://127.0.0.1:%d/%s".formatted(port, database);
  }

  /** The same of which nobody has said what it uses. */
  public WatchedInstance withoutUses() {
    return new WatchedInstance(
        name, kind, recipe, group, site, machine, tags, port, database, user, secret, interval,
        List.of());
  }

  /** The body to post. */
  public Map<String, Object> body() {
    return Map.ofEntries(
        Map.entry("name", name),
        Map.entry("kind", kind),
        Map.entry("group", group),
        Map.entry("site", site),
        Map.entry("machine", machine),
        Map.entry("tags", tags),
        Map.entry(
            "endpoint",
            Map.of(
                "host", "127.0.0.1",
                "port", port,
                "database", database,
                "tls", "off",
                "ca", "")),
        Map.entry("credential", Map.of("user", user, "secret", secret)),
        Map.entry("recipe", recipe),
        Map.entry("interval", interval),
        Map.entry("zone", "Europe/Oslo"),
        Map.entry("uses", uses));
  }
}
