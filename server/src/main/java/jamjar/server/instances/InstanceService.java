package jamjar.server.instances;

import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCheck;
import jamjar.collect.postgresql.PostgresCheck;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.SecretBox;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/**
 * Adds, changes and removes instances. Nothing is saved that does not work, unless the person
 * insists.
 */
@Service
public class InstanceService {
  private static final Logger LOG = LoggerFactory.getLogger(InstanceService.class);

  private final Store store;
  private final Watch watch;
  private final SecretBox secrets;
  private final Recipes recipes;
  private final Clock clock;

  InstanceService(Store store, Watch watch, Recipes recipes, SecretBox secrets, Clock clock) {
    this.store = store;
    this.watch = watch;
    this.recipes = recipes;
    this.secrets = secrets;
    this.clock = clock;
  }

  @EventListener(ApplicationReadyEvent.class)
  void watchAll() {
    if (store.instances().all().stream().noneMatch(row -> row.kind().equals(InstanceRow.OWN))) {
      store.instances().add(row(0, itself(), secrets.lock("")));
    }
    for (InstanceRow row : store.instances().all()) {
      try {
        begin(row);
      } catch (RuntimeException e) {
        // one whose recipe is gone must not keep the others from being watched
        LOG.error("event=not-watched instance={} why=\"{}\"", row.id(), e.getMessage());
      }
    }
  }

  private static InstanceBody itself() {
    return new InstanceBody(
        "Jam Jar",
        InstanceRow.OWN,
        "",
        "Jam Jar",
        "",
        List.of(),
        new InstanceBody.Endpoint("", 0, "", "off", ""),
        new InstanceBody.Credential("", ""),
        InstanceRow.OWN,
        10,
        ZoneId.systemDefault().getId());
  }

  List<InstanceView> all() {
    return store.instances().all().stream().map(this::view).toList();
  }

  InstanceView one(int id) {
    return view(row(id));
  }

  InstanceView add(InstanceBody body, boolean insist) {
    requireSound(body, 0);
    String secret = Objects.requireNonNullElse(body.credential().secret(), "");
    if (secret.isEmpty() && !body.credential().user().isEmpty()) {
      throw Problem.field("credential.secret", "The password is missing.");
    }
    requireWorking(check(body), insist);
    InstanceRow row = row(0, body, secrets.lock(secret));
    int id = store.instances().add(row);
    InstanceRow stored = row(id);
    begin(stored);
    return view(stored);
  }

  InstanceView change(int id, InstanceBody body, boolean insist) {
    InstanceRow before = row(id);
    if (!before.kind().equals(body.kind())) {
      throw Problem.field("kind", "An instance stays of its kind: remove it and add another.");
    }
    requireSound(body, id);
    requireWorking(check(id, body), insist);
    String secret = body.credential().secret();
    boolean keeps = secret == null || secret.isEmpty();
    store.instances().change(row(id, body, keeps ? before.secret() : secrets.lock(secret)));
    recipes.changed(id);
    InstanceRow after = row(id);
    if (!sameTarget(before, after)) {
      // the totals of another engine say nothing about this one
      watch.end(id);
      store.instances().forgetTotals(id);
    }
    begin(after);
    return view(after);
  }

  void remove(int id) {
    if (row(id).kind().equals(InstanceRow.OWN)) {
      throw Problem.field("id", "Jam Jar itself cannot be removed.");
    }
    watch.removed(id);
    store.instances().remove(id, clock.instant());
  }

  /** Tries what a person has typed. */
  public List<CheckView> check(InstanceBody body) {
    String secret = Objects.requireNonNullElse(body.credential().secret(), "");
    return tried(body.kind(), body.recipe(), target(body, secret));
  }

  /** Tries a change, with the stored password where none is typed. */
  public List<CheckView> check(int id, InstanceBody body) {
    String typed = body.credential().secret();
    boolean stored = typed == null || typed.isEmpty();
    String secret = stored ? secrets.open(row(id).secret()) : typed;
    return tried(body.kind(), body.recipe(), target(body, secret));
  }

  /** Tries an instance as it is stored. */
  public List<CheckView> check(int id) {
    InstanceRow row = row(id);
    return tried(row.kind(), row.recipe(), target(row));
  }

  private List<CheckView> tried(String kind, String recipe, Target target) {
    return switch (kind) {
      case "postgresql" -> CheckView.of(PostgresCheck.check(target));
      case InstanceRow.OWN -> List.of();
      default -> CheckView.of(JmxCheck.check(target, recipe(recipe)));
    };
  }

  private LoadedRecipe recipe(String key) {
    return recipes
        .find(key)
        .orElseThrow(() -> Problem.field("recipe", "There is no recipe '" + key + "'."));
  }

  private void requireSound(InstanceBody body, int self) {
    try {
      ZoneId.of(body.zone());
    } catch (DateTimeException e) {
      throw Problem.field("zone", "'" + body.zone() + "' is not a time zone.");
    }
    requireReachable(body);
    if (!recipe(body.recipe()).recipe().kind().equals(body.kind())) {
      throw Problem.field("recipe", "That recipe is of another kind.");
    }
    store
        .instances()
        .idByName(body.name().strip())
        .filter(id -> id != self)
        .ifPresent(
            id -> {
              throw Problem.field(
                  "name", "There is an instance named " + body.name().strip() + " already.");
            });
  }

  private static void requireReachable(InstanceBody body) {
    InstanceBody.Endpoint endpoint = body.endpoint();
    boolean attached = endpoint.port() == 0 && body.kind().equals("jvm");
    if (attached && endpoint.database().isBlank()) {
      throw Problem.field("endpoint.database", "Which JVM of this machine? Pick one.");
    }
    if (!attached && endpoint.host().isBlank()) {
      throw Problem.field("endpoint.host", "The host is missing.");
    }
    if (!attached && endpoint.port() == 0) {
      throw Problem.field("endpoint.port", "The port is missing.");
    }
    if (body.kind().equals("postgresql")) {
      if (endpoint.database().isBlank()) {
        throw Problem.field("endpoint.database", "The database is missing.");
      }
      if (body.credential().user().isBlank()) {
        throw Problem.field("credential.user", "The user is missing.");
      }
    }
  }

  private static void requireWorking(List<CheckView> checks, boolean insist) {
    boolean fails = checks.stream().anyMatch(c -> c.outcome().equals("fail"));
    if (fails && !insist) {
      throw Problem.checks(
          "It would not work as it is. Mend what failed, or save it all the same.", checks);
    }
  }

  private void begin(InstanceRow row) {
    watch.begin(row, target(row));
  }

  private InstanceRow row(int id) {
    return store
        .instances()
        .byId(id)
        .orElseThrow(() -> Problem.unknown("There is no instance " + id + "."));
  }

  private static boolean sameTarget(InstanceRow a, InstanceRow b) {
    return a.host().equals(b.host())
        && a.port() == b.port()
        && a.database().equals(b.database())
        && a.recipe().equals(b.recipe());
  }

  private InstanceRow row(int id, InstanceBody body, byte[] secret) {
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
        clock.instant());
  }

  private Target target(InstanceRow row) {
    return new Target(
        row.host(),
        row.port(),
        row.database(),
        tls(row.tls()),
        row.ca(),
        row.userName(),
        secrets.open(row.secret()));
  }

  private static Target target(InstanceBody body, String secret) {
    InstanceBody.Endpoint endpoint = body.endpoint();
    return new Target(
        endpoint.host().strip(),
        endpoint.port(),
        endpoint.database(),
        tls(endpoint.tls()),
        endpoint.ca(),
        body.credential().user(),
        secret);
  }

  private static Target.Tls tls(String word) {
    return Target.Tls.valueOf(word.toUpperCase(Locale.ROOT));
  }

  private InstanceView view(InstanceRow row) {
    return new InstanceView(
        row.id(),
        row.name(),
        row.kind(),
        row.groupName(),
        row.site(),
        row.machine(),
        List.of(row.tags()),
        new InstanceBody.Endpoint(row.host(), row.port(), row.database(), row.tls(), row.ca()),
        row.userName(),
        row.recipe(),
        row.intervalS(),
        row.zone(),
        watch
            .state(row.id())
            .orElseGet(
                () ->
                    new InstanceState(
                        row.id(),
                        "starting",
                        0,
                        null,
                        "",
                        "",
                        "",
                        row.intervalS(),
                        List.of(),
                        null)),
        watch.facts(row.id()));
  }
}
