package jamjar.server.security;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.http.server.PathContainer;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/** Which role may ask what of the API. What is in no row is asked in vain, by whoever it is. */
public final class Permits {
  private static final PathPatternParser PARSER = new PathPatternParser();

  /** What anybody may who reaches the server. */
  private static final String ANYBODY =
      """
      GET    /api/health
      GET    /api/session
      POST   /api/session
      POST   /api/session/key
      POST   /api/accounts/first
      """;

  private static final String LOOK =
      """
      DELETE /api/session
      DELETE /api/account/sessions
      PUT    /api/account/password
      GET    /api/openapi.json
      GET    /api/alerts
      GET    /api/alerts/{id}
      GET    /api/alerts/{id}/story
      GET    /api/alerts/{id}/rang
      GET    /api/arrangements
      GET    /api/baselines
      GET    /api/baselines/{series}/week
      GET    /api/changes
      GET    /api/changes/of
      GET    /api/endpoints
      GET    /api/estate/estate.csv
      GET    /api/estate/estate.yaml
      POST   /api/figures
      GET    /api/gaps
      GET    /api/groups
      GET    /api/instances
      GET    /api/instances/{id}
      GET    /api/instances/{id}/beans
      GET    /api/instances/{id}/beans/attributes
      GET    /api/instances/{id}/busy
      GET    /api/instances/{id}/compare
      GET    /api/instances/{id}/executions
      GET    /api/instances/{id}/facts
      GET    /api/instances/{id}/leak
      GET    /api/instances/{id}/limits
      GET    /api/instances/{id}/locks
      GET    /api/instances/{id}/locks/earlier
      GET    /api/instances/{id}/log
      GET    /api/instances/{id}/pools/check
      GET    /api/instances/{id}/preflight
      GET    /api/instances/{id}/ranking
      GET    /api/instances/{id}/series
      GET    /api/instances/{id}/sessions
      GET    /api/instances/{id}/statements
      GET    /api/instances/{id}/statements/{fingerprint}
      GET    /api/instances/{id}/threads
      GET    /api/instances/{id}/threads/{at}
      GET    /api/jvms
      GET    /api/limits
      GET    /api/limits/noise
      POST   /api/limits/replay
      POST   /api/limits/replay/numbers
      GET    /api/links/found
      GET    /api/live
      POST   /api/live/{stream}
      GET    /api/markers
      GET    /api/markers/{id}/outcomes
      POST   /api/moment
      GET    /api/moved
      POST   /api/points
      GET    /api/recipes
      GET    /api/recipes/{key}
      GET    /api/series/{id}/forecast
      GET    /api/series/{id}/recurs
      GET    /api/series/{id}/work
      GET    /api/store
      GET    /api/together
      GET    /api/together/strip
      GET    /api/what-to-do
      """;

  private static final String ACT =
      """
      POST   /api/alerts/{id}/acknowledge
      POST   /api/alerts/{id}/comments
      POST   /api/markers
      PUT    /api/markers/{id}
      DELETE /api/markers/{id}
      PUT    /api/what-to-do
      """;

  private static final String SHAPE =
      """
      PUT    /api/arrangements
      DELETE /api/arrangements
      GET    /api/credentials
      POST   /api/estate/import
      GET    /api/estate/import/{run}
      DELETE /api/estate/import/{run}
      PUT    /api/groups
      POST   /api/instances
      PUT    /api/instances/{id}
      DELETE /api/instances/{id}
      POST   /api/instances/{id}/beans/counter
      POST   /api/instances/{id}/frozen
      DELETE /api/instances/{id}/frozen/{frozen}
      POST   /api/instances/{id}/learn
      POST   /api/instances/{id}/pause
      POST   /api/instances/{id}/preflight
      POST   /api/instances/{id}/resume
      POST   /api/instances/{id}/statements/follow
      POST   /api/instances/{id}/uses
      POST   /api/instances/preflight
      POST   /api/limits
      PUT    /api/limits
      POST   /api/limits/afterwards
      PUT    /api/limits/{id}
      DELETE /api/limits/{id}
      PUT    /api/recipes/{key}
      DELETE /api/recipes/{key}
      """;

  private static final String ADMINISTER =
      """
      GET    /api/accounts
      POST   /api/accounts
      PUT    /api/accounts/{id}
      DELETE /api/accounts/{id}
      POST   /api/accounts/{id}/key
      DELETE /api/accounts/{id}/sessions
      POST   /api/keys
      GET    /api/audit
      GET    /api/audit.csv
      PUT    /api/credentials/{name}
      DELETE /api/credentials/{name}
      PUT    /api/store/classes/{keep}
      POST   /api/store/classes/{keep}/going
      PUT    /api/store/instances/{id}
      GET    /api/tokens
      POST   /api/tokens
      DELETE /api/tokens/{id}
      """;

  /**
   * Who may ask one thing.
   *
   * @param method of HTTP
   * @param path with names in braces for what varies
   * @param least the role from which on it may be asked; none for anybody
   */
  public record Row(String method, String path, Optional<Role> least) {}

  private record Known(Row row, PathPattern pattern) {}

  private static final List<Known> ALL = known();

  private Permits() {}

  private static List<Known> known() {
    List<Known> all = new ArrayList<>();
    add(all, ANYBODY, Optional.empty());
    add(all, LOOK, Optional.of(Role.LOOK));
    add(all, ACT, Optional.of(Role.ACT));
    add(all, SHAPE, Optional.of(Role.SHAPE));
    add(all, ADMINISTER, Optional.of(Role.ADMINISTER));
    // of several that fit the one that says most comes first
    all.sort((a, b) -> PathPattern.SPECIFICITY_COMPARATOR.compare(a.pattern(), b.pattern()));
    return List.copyOf(all);
  }

  private static void add(List<Known> all, String rows, Optional<Role> least) {
    for (String line : rows.lines().toList()) {
      String[] words = line.split(" +");
      all.add(new Known(new Row(words[0], words[1], least), PARSER.parse(words[1])));
    }
  }

  public static List<Row> rows() {
    return ALL.stream().map(Known::row).toList();
  }

  /** The row of what is asked; none where nobody may. */
  public static Optional<Row> of(String method, String path) {
    // who may GET may ask for its head
    String asked = method.equals("HEAD") ? "GET" : method;
    PathContainer parsed = PathContainer.parsePath(path);
    return ALL.stream()
        .filter(known -> known.row().method().equals(asked) && known.pattern().matches(parsed))
        .map(Known::row)
        .findFirst();
  }
}
