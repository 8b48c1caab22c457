package jamjar.server.instances;

import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.instances.InstanceState.State;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.server.recipes.RecipesChanged;
import jamjar.server.security.Scopes;
import jamjar.server.security.SecretBox;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
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
public class InstanceService implements RecipesChanged {
  private static final Logger LOG = LoggerFactory.getLogger(InstanceService.class);

  private final Store store;
  private final Scopes scopes;
  private final Reader reader;
  private final SecretBox secrets;
  private final Recipes recipes;
  private final Targets targets;
  private final Checks checks;
  private final Changes changes;
  private final Soundness sound;
  private final Clock clock;

  InstanceService(
      Store store,
      Scopes scopes,
      Reader reader,
      Recipes recipes,
      SecretBox secrets,
      Targets targets,
      Checks checks,
      Changes changes,
      Soundness sound,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.reader = reader;
    this.targets = targets;
    this.checks = checks;
    this.changes = changes;
    this.sound = sound;
    this.recipes = recipes;
    this.secrets = secrets;
    this.clock = clock;
  }

  @EventListener(ApplicationReadyEvent.class)
  void watchAll() {
    if (store.instances().all().stream().noneMatch(row -> row.kind().equals(InstanceRow.OWN))) {
      InstanceBody own = itself();
      store
          .instances()
          .add(InstanceRows.row(0, own, secrets.lock("", place(own)), clock.instant()));
    }
    targets.renewAll();
    for (InstanceRow row : store.instances().all()) {
      try {
        begin(row, false);
      } catch (RuntimeException e) {
        // one whose recipe or key is gone must not keep the others from being watched
        LOG.error("event=not-watched instance={} why=\"{}\"", row.id(), e.getMessage());
        reader.cannotBegin(row, e.getMessage());
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
    Sight sight = scopes.sight();
    return scopes.instances().stream().map(row -> view(row, sight)).toList();
  }

  InstanceView one(int id) {
    return view(row(id));
  }

  public InstanceView add(InstanceBody body, boolean insist) {
    requireInScope(body);
    sound.require(body, 0);
    requireWorking(body, null, insist);
    String secret = Objects.requireNonNullElse(body.credential().secret(), "");
    InstanceRow stored =
        store.inOne(
            () -> {
              int id =
                  store
                      .instances()
                      .add(
                          InstanceRows.row(
                              0, body, secrets.lock(secret, place(body)), clock.instant()));
              InstanceRow row = row(id);
              changes.add(What.INSTANCE, id, null, InstanceRows.past(row));
              return row;
            });
    begin(stored, false);
    return view(stored);
  }

  public InstanceView change(int id, InstanceBody body, boolean insist) {
    InstanceRow before = row(id);
    if (!before.kind().equals(body.kind())) {
      throw Problem.field("kind", "An instance stays of its kind: remove it and add another.");
    }
    requireInScope(body);
    sound.require(body, id);
    requireWorking(body, before, insist);
    String secret = body.credential().secret();
    boolean keeps = secret == null || secret.isEmpty();
    Soundness.requireTypedFor(body, before);
    boolean samePlace = Targets.place(before).equals(place(body));
    // where it was typed for stays, or there is none
    byte[] locked =
        keeps && samePlace ? before.secret() : secrets.lock(keeps ? "" : secret, place(body));
    InstanceRow next = InstanceRows.row(id, body, locked, clock.instant());
    InstanceRow after =
        store.inOne(
            () -> {
              store.instances().change(next.using(uses(body, before)));
              if (!before.name().equals(next.name())) {
                store.instances().renamed(before.name(), next.name());
              }
              InstanceRow row = row(id);
              changes.add(What.INSTANCE, id, InstanceRows.past(before), InstanceRows.past(row));
              return row;
            });
    recipes.changed(id);
    // the totals of another engine say nothing about this one
    begin(after, !sameTarget(before, after));
    return view(after);
  }

  /**
   * It uses another one too, as was found and somebody confirms; done twice it is once.
   *
   * @param use as written among what it uses
   */
  InstanceView uses(int id, String use) {
    InstanceRow before = row(id);
    if (scopes.sight().hides(Uses.name(use.strip()))) {
      throw Problem.field("use", "There is no instance named " + Uses.name(use.strip()) + ".");
    }
    if (before.uses().length >= InstanceBody.MOST_USES) {
      throw Problem.field(
          "use", "It uses " + InstanceBody.MOST_USES + " already: no more are kept.");
    }
    InstanceRow after =
        store.inOne(
            () -> {
              if (store.instances().use(id, use.strip(), InstanceBody.MOST_USES) == 0) {
                return before;
              }
              InstanceRow row = row(id);
              changes.add(What.INSTANCE, id, InstanceRows.past(before), InstanceRows.past(row));
              return row;
            });
    if (after != before) {
      begin(after, false);
    }
    return view(after);
  }

  /** Leaves an instance unread, or reads it again; what was read is kept, and the gap says why. */
  InstanceView pause(int id, boolean paused) {
    InstanceRow before = row(id);
    if (before.kind().equals(InstanceRow.OWN)) {
      throw Problem.field("id", "Jam Jar itself cannot be paused.");
    }
    if (before.paused() != paused) {
      InstanceRow after =
          store.inOne(
              () -> {
                store.instances().pause(id, paused);
                InstanceRow row = row(id);
                changes.add(What.INSTANCE, id, InstanceRows.past(before), InstanceRows.past(row));
                return row;
              });
      begin(after, false);
    }
    return one(id);
  }

  /** Those that are read by these recipes go on with them as they are now. */
  @Override
  public void recipesChanged(Set<String> keys) {
    store.instances().all().stream()
        .filter(row -> keys.contains(row.recipe()))
        .forEach(row -> begin(row, false));
  }

  /** Begins to read it anew, as its credential has changed. */
  public void signInAnew(int id) {
    begin(row(id), false);
  }

  void remove(int id) {
    InstanceRow row = row(id);
    if (row.kind().equals(InstanceRow.OWN)) {
      throw Problem.field("id", "Jam Jar itself cannot be removed.");
    }
    try {
      reader.removed(row);
      store.inOne(
          () -> {
            store.instances().remove(id, clock.instant());
            changes.add(What.INSTANCE, id, InstanceRows.past(row), null);
          });
    } catch (RuntimeException e) {
      // it is still there: it goes on being read
      begin(row, false);
      throw e;
    }
  }

  /** Who insists is not made to wait for the checks. */
  private void requireWorking(InstanceBody body, InstanceRow before, boolean insist) {
    if (insist) {
      return;
    }
    List<CheckView> found = checks.of(body, before);
    if (found.stream().anyMatch(c -> c.outcome().equals("fail"))) {
      throw Problem.checks(
          "It would not work as it is. Mend what failed, or save it all the same.", found);
    }
  }

  private static String place(InstanceBody body) {
    InstanceBody.Endpoint to = body.endpoint();
    return Targets.place(to.host().strip(), to.port(), to.tls());
  }

  private void begin(InstanceRow row, boolean another) {
    reader.begin(row, targets.of(row), another);
  }

  /** An instance as it is stored; a problem where there is none in the scope of who asks. */
  public InstanceRow row(int id) {
    return scopes.instance(id);
  }

  private static boolean sameTarget(InstanceRow a, InstanceRow b) {
    return a.host().equals(b.host())
        && a.port() == b.port()
        && a.database().equals(b.database())
        && a.recipe().equals(b.recipe());
  }

  /** Those that it uses and who asks may not know of stay as they are. */
  private String[] uses(InstanceBody body, InstanceRow before) {
    if (body.uses() == null) {
      return before.uses();
    }
    Sight sight = scopes.sight();
    return Stream.concat(
            Arrays.stream(InstanceRows.uses(body)),
            Arrays.stream(before.uses()).filter(use -> sight.hides(Uses.name(use))))
        .distinct()
        .toArray(String[]::new);
  }

  /** What is typed is to be in the scope of who types it. */
  public void requireInScope(InstanceBody body) {
    Scopes.require(Scopes.holds(InstanceRows.row(0, body, new byte[0], clock.instant())));
  }

  private InstanceView view(InstanceRow row) {
    return view(row, scopes.sight());
  }

  private InstanceView view(InstanceRow row, Sight sight) {
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
        Uses.seen(row, sight),
        reader
            .state(row.id())
            .orElseGet(() -> InstanceState.fresh(row.id(), State.STARTING, 0, row.intervalS())),
        reader.facts(row.id()));
  }
}
