package jamjar.server.threads;

import jamjar.core.threads.ThreadDump;
import jamjar.core.threads.WhoWaits;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.store.Store;
import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What the threads of a JVM did where something was the cause to look at them. */
@RestController
@RequestMapping(path = "/api/instances/{id}/threads", produces = "application/json")
class ThreadController {
  private static final int MOST = 200;

  private final Store store;
  private final InstanceService instances;

  ThreadController(Store store, InstanceService instances) {
    this.store = store;
    this.instances = instances;
  }

  /** The dumps of a window, the newest first. */
  @GetMapping
  List<ThreadsView.Taken> taken(
      @PathVariable int id, @RequestParam long from, @RequestParam long to) {
    Times.requireWindow(from, to);
    instances.row(id);
    return store
        .dumps()
        .between(id, Instant.ofEpochMilli(from), Instant.ofEpochMilli(to), MOST)
        .stream()
        .map(
            row ->
                new ThreadsView.Taken(
                    row.at().toEpochMilli(), row.why(), row.threads(), row.blocked()))
        .toList();
  }

  /**
   * The one of a moment.
   *
   * @param at epoch ms, as the list tells it
   */
  @GetMapping("/{at}")
  ThreadsView dump(@PathVariable int id, @PathVariable long at) {
    instances.row(id);
    ThreadDump dump =
        store
            .dumps()
            .at(id, Instant.ofEpochMilli(at))
            .orElseThrow(() -> Problem.unknown("No threads were looked at then."));
    return ThreadsView.of(dump, new WhoWaits(dump));
  }
}
