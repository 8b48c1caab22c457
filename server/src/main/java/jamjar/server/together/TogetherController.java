package jamjar.server.together;

import jamjar.core.counter.CounterDefinition;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.store.instances.InstanceRow;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Many instances at once: counters across them, and one counter of each through time. */
@RestController
@RequestMapping(path = "/api/together", produces = "application/json")
class TogetherController {
  private static final int MOST_COLUMNS = 8;
  private static final int MOST_STEPS = 400;

  private final Many many;
  private final TogetherTable table;
  private final StripReader strips;

  TogetherController(Many many, TogetherTable table, StripReader strips) {
    this.many = many;
    this.table = table;
    this.strips = strips;
  }

  /**
   * @param of which instances, as of {@link jamjar.server.security.Those}
   * @param counters keys, at most eight; empty for those that are looked at first of most of them
   * @param at epoch ms; without it now
   */
  @GetMapping
  TogetherView together(
      @RequestParam(defaultValue = "") String of,
      @RequestParam(defaultValue = "") List<String> counters,
      @RequestParam(required = false) Long at) {
    List<InstanceRow> instances = many.instances(of);
    Map<String, CounterDefinition> choices = many.counters(instances);
    List<CounterDefinition> columns =
        (counters.isEmpty() ? many.firstView(instances) : counters)
            .stream().filter(choices::containsKey).map(choices::get).limit(MOST_COLUMNS).toList();
    return table.of(instances, columns, choices, Optional.ofNullable(at));
  }

  /**
   * @param of as above
   * @param from epoch ms
   * @param steps at most so many
   */
  @GetMapping("/strip")
  TogetherView.Strip strip(
      @RequestParam(defaultValue = "") String of,
      @RequestParam String counter,
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(defaultValue = "200") int steps) {
    Times.requireWindow(from, to);
    List<InstanceRow> instances = many.instances(of);
    CounterDefinition definition = many.counters(instances).get(counter);
    if (definition == null) {
      throw Problem.field("counter", "None of them has " + counter + ".");
    }
    return strips.read(instances, definition, from, to, Math.max(1, Math.min(steps, MOST_STEPS)));
  }
}
