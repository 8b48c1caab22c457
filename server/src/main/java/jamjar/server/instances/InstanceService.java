package jamjar.server.instances;

import jamjar.server.preflight.CheckView;
import jamjar.server.preflight.Preflight;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.SecretBox;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import java.util.Set;
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
  private final Targets targets;
  private final Preflight preflight;
  private final Soundness sound;
  private final Clock clock;

  InstanceService(
      Store store,
      Watch watch,
      Recipes recipes,
      SecretBox secrets,
      Targets targets,
      Preflight preflight,
      Soundness sound,
      Clock clock) {
    this.store = store;
    this.watch = watch;
    this.targets = targets;
    this.preflight = preflight;
    this.sound = sound;
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
        new InstanceBody.Credential("", "", null),
        InstanceRow.OWN,
        10,
        ZoneId.systemDefault().getId(),
        List.of());
  }

  List<InstanceView> all() {
    return store.instances().all().stream().map(this::view).toList();
  }

  InstanceView one(int id) {
    return view(row(id));
  }

  public InstanceView add(InstanceBody body, boolean insist) {
    sound.require(body, 0);
    requireWorking(body, null, insist);
    String secret = Objects.requireNonNullElse(body.credential().secret(), "");
    InstanceRow row = row(0, body, secrets.lock(secret));
    int id = store.instances().add(row);
    InstanceRow stored = row(id);
    begin(stored);
    return view(stored);
  }

  public InstanceView change(int id, InstanceBody body, boolean insist) {
    InstanceRow before = row(id);
    if (!before.kind().equals(body.kind())) {
      throw Problem.field("kind", "An instance stays of its kind: remove it and add another.");
    }
    sound.require(body, id);
    requireWorking(body, before, insist);
    String secret = body.credential().secret();
    boolean keeps = secret == null || secret.isEmpty();
    InstanceRow next = row(id, body, keeps ? before.secret() : secrets.lock(secret));
    store.instances().change(body.uses() == null ? next.using(before.uses()) : next);
    if (!before.name().equals(next.name())) {
      store.instances().renamed(before.name(), next.name());
    }
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

  /** Leaves an instance unread, or reads it again; what was read is kept, and the gap says why. */
  InstanceView pause(int id, boolean paused) {
    InstanceRow before = row(id);
    if (before.kind().equals(InstanceRow.OWN)) {
      throw Problem.field("id", "Jam Jar itself cannot be paused.");
    }
    if (before.paused() != paused) {
      store.instances().pause(id, paused);
      begin(row(id));
    }
    return one(id);
  }

  /** Those that are read by these recipes go on with them as they are now. */
  public void recipesChanged(Set<String> keys) {
    store.instances().all().stream()
        .filter(row -> keys.contains(row.recipe()))
        .forEach(this::begin);
  }

  /** Begins to read it anew, as its credential has changed. */
  public void signInAnew(int id) {
    begin(row(id));
  }

  void remove(int id) {
    if (row(id).kind().equals(InstanceRow.OWN)) {
      throw Problem.field("id", "Jam Jar itself cannot be removed.");
    }
    watch.removed(id);
    store.instances().remove(id, clock.instant());
  }

  /** Who insists is not made to wait for the checks. */
  private void requireWorking(InstanceBody body, InstanceRow before, boolean insist) {
    if (insist) {
      return;
    }
    List<CheckView> checks = preflight.of(body, before);
    if (checks.stream().anyMatch(c -> c.outcome().equals("fail"))) {
      throw Problem.checks(
          "It would not work as it is. Mend what failed, or save it all the same.", checks);
    }
  }

  private void begin(InstanceRow row) {
    watch.begin(row, targets.of(row));
  }

  /** An instance as it is stored; a problem where there is none. */
  public InstanceRow row(int id) {
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
        clock.instant(),
        body.credential().named() ? body.credential().name() : null,
        false,
        uses(body));
  }

  private static String[] uses(InstanceBody body) {
    return body.uses() == null
        ? new String[0]
        : body.uses().stream().map(String::strip).distinct().toArray(String[]::new);
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
        row.credential(),
        row.recipe(),
        row.intervalS(),
        row.zone(),
        List.of(row.uses()),
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
                        null,
                        "")),
        watch.facts(row.id()));
  }
}
