package jamjar.server.estate;

import jamjar.server.instances.CheckView;
import jamjar.server.instances.InstanceBody;
import jamjar.server.instances.InstanceService;
import jamjar.server.instances.Soundness;
import jamjar.server.instances.Targets;
import jamjar.server.preflight.Preflight;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.springframework.stereotype.Service;

/**
 * Brings many instances under watch from one file. Each line stands on its own: what is sound and
 * answers is taken, the rest is told and left. The same file again changes nothing.
 */
@Service
class EstateImport {
  private static final int AT_ONCE = 16;
  private static final int LOOK_MILLIS = 200;

  private final Store store;
  private final InstanceService instances;
  private final Targets targets;
  private final Preflight preflight;
  private final RowReader reader;
  private final Map<String, Trying> running = new ConcurrentHashMap<>();

  EstateImport(
      Store store,
      InstanceService instances,
      Targets targets,
      Preflight preflight,
      RowReader reader) {
    this.store = store;
    this.instances = instances;
    this.targets = targets;
    this.preflight = preflight;
    this.reader = reader;
  }

  /**
   * What a file does, line by line.
   *
   * @param action add, change, same, fault, silent for one that does not pass its checks, or
   *     untried where it was stopped before
   * @param changes the fields that are other ones than before
   * @param failing the checks that fail
   */
  record Line(
      int line,
      String name,
      String action,
      List<String> changes,
      List<LineFault> faults,
      List<CheckView> failing) {}

  /**
   * @param faults what is wrong with the file beside its instances
   */
  record Result(List<Line> lines, List<LineFault> faults) {}

  private record Wanted(FileRow row, InstanceBody body, InstanceRow before, Line line) {
    boolean todo() {
      return line.action().equals("add") || line.action().equals("change");
    }

    Wanted failing(List<CheckView> checks) {
      return as("silent", checks);
    }

    Wanted untried() {
      return as("untried", List.of());
    }

    private Wanted as(String action, List<CheckView> checks) {
      return new Wanted(
          row,
          body,
          before,
          new Line(line.line(), line.name(), action, line.changes(), List.of(), checks));
    }
  }

  /**
   * @param format yaml or csv
   * @param dry whether only to tell
   * @param insist whether to take those too that do not pass their checks
   * @param run a name by which others ask how far it is, and stop it: then nothing is taken
   */
  Result run(String text, String format, boolean dry, boolean insist, String run) {
    EstateFile file = EstateFile.read(text, format);
    Map<String, Integer> names = new HashMap<>();
    List<Wanted> wanted = new ArrayList<>();
    for (FileRow row : file.rows()) {
      wanted.add(wanted(row, names));
    }
    Trying trying = new Trying((int) wanted.stream().filter(Wanted::todo).count());
    running.put(run, trying);
    List<Wanted> tried;
    try {
      tried = tried(wanted, trying);
    } finally {
      running.remove(run);
    }
    if (!dry && !trying.stopped()) {
      tried.forEach(one -> take(one, insist));
      file.groups().forEach(store.groups()::put);
    }
    return new Result(tried.stream().map(Wanted::line).toList(), file.faults());
  }

  /** How far a run is; empty when there is none of that name, as after its end. */
  Optional<Trying> running(String run) {
    return Optional.ofNullable(running.get(run));
  }

  private Wanted wanted(FileRow row, Map<String, Integer> names) {
    List<LineFault> faults = new ArrayList<>();
    InstanceBody body = reader.body(row, faults);
    InstanceRow before =
        store.instances().idByName(body.name()).flatMap(store.instances()::byId).orElse(null);
    if (faults.isEmpty()) {
      faults.addAll(reader.faults(row, body, before == null ? 0 : before.id()));
    }
    if (faults.isEmpty() && before != null) {
      try {
        Soundness.requireTypedFor(body, before);
      } catch (Problem e) {
        faults.add(new LineFault(row.lineOf("secret"), "secret", e.getMessage()));
      }
    }
    Integer other = names.putIfAbsent(body.name(), row.line());
    if (other != null && !body.name().isBlank()) {
      faults.add(new LineFault(row.lineOf("name"), "name", "stands on line " + other + " already"));
    }
    if (before != null && !before.kind().equals(body.kind())) {
      faults.add(
          new LineFault(
              row.lineOf("kind"),
              "kind",
              body.name() + " is a " + before.kind() + ", and stays one"));
    }
    List<String> changes = faults.isEmpty() && before != null ? changes(before, body) : List.of();
    String action;
    if (!faults.isEmpty()) {
      action = "fault";
    } else if (before == null) {
      action = "add";
    } else {
      action = changes.isEmpty() ? "same" : "change";
    }
    return new Wanted(
        row, body, before, new Line(row.line(), body.name(), action, changes, faults, List.of()));
  }

  private List<String> changes(InstanceRow before, InstanceBody body) {
    InstanceBody.Endpoint endpoint = body.endpoint();
    List<String> changes = new ArrayList<>();
    compare(changes, "group", before.groupName(), body.group());
    compare(changes, "site", before.site(), body.site());
    compare(changes, "machine", before.machine(), body.machine());
    compare(changes, "tags", Arrays.asList(before.tags()), body.tags());
    compare(changes, "host", before.host(), endpoint.host());
    compare(changes, "port", before.port(), endpoint.port());
    compare(changes, "database", before.database(), endpoint.database());
    compare(changes, "tls", before.tls(), endpoint.tls());
    compare(changes, "ca", before.ca().strip(), endpoint.ca().strip());
    boolean named = body.credential().named();
    compare(changes, "credential", before.credential(), named ? body.credential().name() : null);
    if (!named && before.credential() == null) {
      compare(changes, "user", before.userName(), body.credential().user());
      compare(
          changes, "secret", targets.of(before).password(), targets.of(body, before).password());
    }
    compare(changes, "recipe", before.recipe(), body.recipe());
    compare(changes, "interval", before.intervalS(), body.interval());
    compare(changes, "zone", before.zone(), body.zone());
    if (body.uses() != null) {
      compare(changes, "uses", Arrays.asList(before.uses()), body.uses());
    }
    return changes;
  }

  private static void compare(List<String> changes, String field, Object before, Object now) {
    if (!Objects.equals(before, now)) {
      changes.add(field);
    }
  }

  /** Tries those that are new or other ones, several at once as each may wait for its time-out. */
  private List<Wanted> tried(List<Wanted> wanted, Trying trying) {
    ExecutorService threads = Executors.newFixedThreadPool(AT_ONCE);
    try {
      List<Future<Wanted>> results =
          wanted.stream().map(one -> threads.submit(() -> tried(one, trying))).toList();
      List<Wanted> tried = new ArrayList<>();
      for (int i = 0; i < wanted.size(); i++) {
        tried.add(result(results.get(i), wanted.get(i), trying));
      }
      return tried;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("the server is stopping", e);
    } catch (ExecutionException e) {
      throw new IllegalStateException(e.getCause());
    } finally {
      threads.shutdownNow();
    }
  }

  /** One that is stopped does not wait for those that are silent. */
  private static Wanted result(Future<Wanted> result, Wanted one, Trying trying)
      throws InterruptedException, ExecutionException {
    while (!trying.stopped() || result.isDone()) {
      try {
        return result.get(LOOK_MILLIS, TimeUnit.MILLISECONDS);
      } catch (TimeoutException e) {
        // it may have been stopped meanwhile
      }
    }
    return one.todo() ? one.untried() : one;
  }

  private Wanted tried(Wanted one, Trying trying) {
    if (!one.todo()) {
      return one;
    }
    if (trying.stopped()) {
      return one.untried();
    }
    List<CheckView> failing =
        preflight.of(one.body(), one.before()).stream()
            .filter(check -> check.outcome().equals("fail"))
            .toList();
    trying.one();
    return failing.isEmpty() ? one : one.failing(failing);
  }

  /** They were tried a moment ago. */
  private void take(Wanted one, boolean insist) {
    if (!one.todo() && !(insist && one.line().action().equals("silent"))) {
      return;
    }
    if (one.before() == null) {
      instances.add(one.body(), true);
    } else {
      instances.change(one.before().id(), one.body(), true);
    }
  }
}
