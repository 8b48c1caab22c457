package jamjar.server.statements;

import jamjar.core.log.LogEntry;
import jamjar.core.log.StateClass;
import jamjar.core.session.Fingerprint;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Times;
import jamjar.server.watch.Watch;
import jamjar.server.watch.Watch.Sampling;
import jamjar.store.Store;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What an engine's own log tells: errors, and who was in a deadlock. */
@RestController
@RequestMapping(path = "/api/instances/{id}/log", produces = "application/json")
class LogController {
  private static final int MOST_LINES = 50;
  private static final int MOST_DEADLOCKS = 50;
  private static final Set<LogEntry.Kind> FAILED =
      Set.of(LogEntry.Kind.ERROR, LogEntry.Kind.CANCELLED, LogEntry.Kind.DEADLOCK);

  private final Store store;
  private final Watch watch;
  private final InstanceService instances;

  LogController(Store store, Watch watch, InstanceService instances) {
    this.store = store;
    this.watch = watch;
    this.instances = instances;
  }

  @GetMapping
  LogView log(@PathVariable int id, @RequestParam long from, @RequestParam long to) {
    Times.requireWindow(from, to);
    instances.row(id);
    LogOfWindow log =
        LogOfWindow.read(store, id, Instant.ofEpochMilli(from), Instant.ofEpochMilli(to), FAILED);
    List<LogEntry> failed =
        log.entries().stream()
            .sorted(Comparator.comparingLong((LogEntry entry) -> -entry.at()))
            .toList();
    List<LogEntry> lines = failed.stream().limit(MOST_LINES).toList();
    List<LogEntry> deadlocks =
        failed.stream()
            .filter(entry -> entry.kind() == LogEntry.Kind.DEADLOCK)
            .limit(MOST_DEADLOCKS)
            .toList();
    Map<Long, String> texts = texts(id, lines, deadlocks);
    return new LogView(
        log.reads() > 0,
        log.reads() > 0 ? "" : why(id),
        log.lockWaits(),
        log.left() + log.beyond(),
        classes(failed),
        lines.stream().map(entry -> line(entry, texts)).toList(),
        deadlocks.stream().map(entry -> deadlock(entry, texts)).toList());
  }

  private String why(int id) {
    return watch
        .sampling(id)
        .map(Sampling::unreadLog)
        .map(why -> why.isEmpty() ? "its log was not read then" : why)
        .orElse("logs are read of PostgreSQL engines that are not paused");
  }

  private Map<Long, String> texts(int id, List<LogEntry> lines, List<LogEntry> deadlocks) {
    Set<Long> wanted =
        Stream.concat(
                lines.stream().map(LogEntry::statement),
                deadlocks.stream()
                    .flatMap(entry -> entry.parties().stream())
                    .map(LogEntry.Party::statement))
            .filter(fingerprint -> fingerprint != 0)
            .collect(Collectors.toSet());
    return store.statements().texts(id, wanted);
  }

  private static List<LogView.ErrorClass> classes(List<LogEntry> failed) {
    return failed.stream()
        .collect(Collectors.groupingBy(LogEntry::state, Collectors.counting()))
        .entrySet()
        .stream()
        .sorted(
            Map.Entry.<String, Long>comparingByValue()
                .reversed()
                .thenComparing(Map.Entry.comparingByKey()))
        .map(
            e ->
                new LogView.ErrorClass(
                    e.getKey(), StateClass.words(e.getKey()), e.getValue().intValue()))
        .toList();
  }

  private static LogView.Line line(LogEntry entry, Map<Long, String> texts) {
    return new LogView.Line(
        entry.at(),
        entry.state(),
        entry.message(),
        entry.pid(),
        entry.user(),
        entry.program(),
        entry.database(),
        Fingerprint.hex(entry.statement()),
        texts.getOrDefault(entry.statement(), ""));
  }

  private static LogView.Deadlock deadlock(LogEntry entry, Map<Long, String> texts) {
    return new LogView.Deadlock(
        entry.at(),
        entry.pid(),
        entry.user(),
        entry.program(),
        entry.database(),
        entry.parties().stream()
            .map(
                party ->
                    new LogView.Party(
                        party.pid(),
                        party.wants(),
                        party.blocker(),
                        Fingerprint.hex(party.statement()),
                        texts.getOrDefault(party.statement(), "")))
            .toList());
  }
}
