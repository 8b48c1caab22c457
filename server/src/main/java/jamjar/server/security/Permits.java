package jamjar.server.security;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.server.PathContainer;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/**
 * Which role may ask what of the API, and how a scope bounds it. What is in no row is asked in
 * vain, by whoever it is.
 */
public final class Permits {
  private static final PathPatternParser PARSER = new PathPatternParser();

  /** What anybody may who reaches the server. */
  private static final String ANYBODY =
      """
      GET    /api/health                                                same
      GET    /api/session                                               same
      POST   /api/session                                               same
      POST   /api/session/key                                           same
      POST   /api/accounts/first                                        same
      """;

  private static final String LOOK =
      """
      DELETE /api/session                                               same
      GET    /api/account/sessions                                      same
      DELETE /api/account/sessions/{browser}                            same
      DELETE /api/account/sessions                                      same
      GET    /api/account/likes                                         same
      PUT    /api/account/likes                                         same
      PUT    /api/account/password                                      same
      GET    /api/openapi.json                                          same
      GET    /api/alerts                                                within
      GET    /api/alerts/{alert}                                        path
      GET    /api/alerts/{alert}/story                                  within
      GET    /api/alerts/{alert}/rang                                   path
      GET    /api/alerts/{alert}/told                                   path
      GET    /api/arrangements                                          within
      GET    /api/baselines                                             within
      GET    /api/baselines/{series}/week                               path
      GET    /api/changes                                               within
      GET    /api/changes/of                                            within
      GET    /api/endpoints                                             within
      GET    /api/estate/estate.csv                                     within
      GET    /api/estate/estate.yaml                                    within
      POST   /api/figures                                               within
      GET    /api/gaps                                                  within
      GET    /api/groups                                                within
      GET    /api/instances                                             within
      GET    /api/instances/{instance}                                  path
      GET    /api/instances/{instance}/beans                            path
      GET    /api/instances/{instance}/beans/attributes                 path
      GET    /api/instances/{instance}/busy                             path
      GET    /api/instances/{instance}/compare                          path
      GET    /api/instances/{instance}/executions                       path
      GET    /api/instances/{instance}/facts                            path
      GET    /api/instances/{instance}/leak                             path
      GET    /api/instances/{instance}/limits                           path
      GET    /api/instances/{instance}/locks                            path
      GET    /api/instances/{instance}/locks/earlier                    path
      GET    /api/instances/{instance}/log                              path
      GET    /api/instances/{instance}/pools/check                      path
      GET    /api/instances/{instance}/preflight                        path
      GET    /api/instances/{instance}/ranking                          path
      GET    /api/instances/{instance}/series                           path
      GET    /api/instances/{instance}/sessions                         path
      GET    /api/instances/{instance}/statements                       path
      GET    /api/instances/{instance}/statements/{fingerprint}         path
      GET    /api/instances/{instance}/threads                          path
      GET    /api/instances/{instance}/threads/{at}                     path
      GET    /api/jvms                                                  within
      GET    /api/limits                                                within
      GET    /api/limits/noise                                          within
      POST   /api/limits/replay                                         within
      POST   /api/limits/replay/numbers                                 within
      GET    /api/links/found                                           within
      GET    /api/live                                                  within
      POST   /api/live/{stream}                                         within
      GET    /api/markers                                               within
      GET    /api/messages                                              within
      GET    /api/messages/picture                                      within
      GET    /api/markers/{marker}/outcomes                             path
      POST   /api/moment                                                within
      GET    /api/moved                                                 within
      POST   /api/points                                                within
      GET    /api/recipes                                               same
      GET    /api/recipes/{key}                                         same
      GET    /api/series/{series}/forecast                              path
      GET    /api/series/{series}/recurs                                path
      GET    /api/series/{series}/work                                  path
      GET    /api/store                                                 whole
      GET    /api/telling/duty                                          same
      GET    /api/together                                              within
      GET    /api/together/strip                                        within
      GET    /api/told/{rose}                                           within
      GET    /api/what-to-do                                            within
      """;

  private static final String ACT =
      """
      POST   /api/alerts/{alert}/acknowledge                            path
      GET    /api/alerts/{alert}/assignable                             path
      PUT    /api/alerts/{alert}/assigned                               path
      POST   /api/alerts/{alert}/comments                               path
      GET    /api/messages/waiting                                      whole
      POST   /api/markers                                               within
      PUT    /api/markers/{marker}                                      path
      DELETE /api/markers/{marker}                                      path
      POST   /api/telling/duty/{duty}/swap                              whole
      PUT    /api/what-to-do                                            within
      """;

  private static final String SHAPE =
      """
      PUT    /api/arrangements                                          within
      DELETE /api/arrangements                                          within
      GET    /api/credentials                                           within
      POST   /api/estate/import                                         whole
      GET    /api/estate/import/{run}                                   whole
      DELETE /api/estate/import/{run}                                   whole
      PUT    /api/groups                                                within
      POST   /api/instances                                             within
      PUT    /api/instances/{instance}                                  path
      DELETE /api/instances/{instance}                                  path
      POST   /api/instances/{instance}/beans/counter                    whole
      POST   /api/instances/{instance}/frozen                           path
      DELETE /api/instances/{instance}/frozen/{frozen}                  path
      POST   /api/instances/{instance}/learn                            path
      POST   /api/instances/{instance}/pause                            path
      POST   /api/instances/{instance}/preflight                        path
      POST   /api/instances/{instance}/resume                           path
      POST   /api/instances/{instance}/statements/follow                path
      POST   /api/instances/{instance}/uses                             path
      POST   /api/instances/preflight                                   within
      POST   /api/limits                                                within
      PUT    /api/limits                                                within
      POST   /api/limits/afterwards                                     whole
      PUT    /api/limits/{limit}                                        path
      DELETE /api/limits/{limit}                                        path
      PUT    /api/recipes/{key}                                         whole
      GET    /api/channels                                              whole
      GET    /api/telling                                               whole
      PUT    /api/telling                                               whole
      GET    /api/telling/heartbeats                                    whole
      POST   /api/telling/trial                                         whole
      DELETE /api/recipes/{key}                                         whole
      """;

  private static final String ADMINISTER =
      """
      GET    /api/accounts                                              whole
      POST   /api/accounts                                              whole
      PUT    /api/accounts/{id}                                         whole
      DELETE /api/accounts/{id}                                         whole
      POST   /api/accounts/{id}/key                                     whole
      DELETE /api/accounts/{id}/sessions                                whole
      POST   /api/keys                                                  whole
      GET    /api/audit                                                 whole
      GET    /api/settings                                              whole
      GET    /api/audit.csv                                             whole
      PUT    /api/channels/{name}                                       whole
      DELETE /api/channels/{name}                                       whole
      POST   /api/channels/{name}/trial                                 whole
      PUT    /api/credentials/{name}                                    whole
      DELETE /api/credentials/{name}                                    whole
      PUT    /api/store/classes/{keep}                                  whole
      POST   /api/store/classes/{keep}/going                            whole
      PUT    /api/store/instances/{id}                                  whole
      POST   /api/secrets/key                                           whole
      GET    /api/sign-on/groups                                        whole
      PUT    /api/sign-on/groups                                        whole
      DELETE /api/sign-on/groups                                        whole
      GET    /api/tokens                                                whole
      POST   /api/tokens                                                whole
      DELETE /api/tokens/{id}                                           whole
      """;

  /** What a scope, where somebody has one, means for what is asked. */
  public enum Bound {
    /** Nothing: it is the same for all. */
    SAME,
    /** What is told of, changed and counted is in the scope. */
    WITHIN,
    /** It is about what its path names, which is not there where it is not in the scope. */
    PATH,
    /** It is about the whole estate: it is not for who has one. */
    WHOLE
  }

  /**
   * Who may ask one thing.
   *
   * @param method of HTTP
   * @param path with names in braces for what varies
   * @param least the role from which on it may be asked; none for anybody
   */
  public record Row(String method, String path, Optional<Role> least, Bound bound) {}

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
      Bound bound = Bound.valueOf(words[2].toUpperCase(Locale.ROOT));
      all.add(new Known(new Row(words[0], words[1], least, bound), PARSER.parse(words[1])));
    }
  }

  public static List<Row> rows() {
    return ALL.stream().map(Known::row).toList();
  }

  /** The row of what is asked; none where nobody may. */
  public static Optional<Row> of(String method, String path) {
    return known(method, path).map(Known::row);
  }

  /** What a path names, by what stands in the braces. */
  static Map<String, String> named(String method, String path) {
    return known(method, path)
        .map(known -> known.pattern().matchAndExtract(PathContainer.parsePath(path)))
        .map(PathPattern.PathMatchInfo::getUriVariables)
        .orElse(Map.of());
  }

  private static Optional<Known> known(String method, String path) {
    // who may GET may ask for its head
    String asked = method.equals("HEAD") ? "GET" : method;
    PathContainer parsed = PathContainer.parsePath(path);
    return ALL.stream()
        .filter(known -> known.row().method().equals(asked) && known.pattern().matches(parsed))
        .findFirst();
  }
}
