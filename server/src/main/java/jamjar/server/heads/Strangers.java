package jamjar.server.heads;

import jamjar.collect.jmx.LocalJvms;
import jamjar.store.Store;
import jamjar.store.facts.FactRow;
import jamjar.store.groups.GroupRow;
import java.lang.management.ManagementFactory;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** The JVMs of this machine that run what a group runs, and that nobody watches. */
@Component
class Strangers {
  private static final String PROCESS = "process";

  /** A process tells itself as its number at its machine. */
  private static final String MACHINE =
      ManagementFactory.getRuntimeMXBean().getName().replaceFirst("^[^@]*", "");

  private final Store store;
  private final Supplier<List<LocalJvms.Found>> found;

  @Autowired
  Strangers(Store store) {
    this(store, LocalJvms::all);
  }

  Strangers(Store store, Supplier<List<LocalJvms.Found>> found) {
    this.store = store;
    this.found = found;
  }

  /** The processes that are watched, as they tell themselves. */
  Set<String> watched() {
    return store.facts().named(PROCESS).stream().map(FactRow::value).collect(Collectors.toSet());
  }

  /**
   * By name: what it runs, without its arguments, which may hold secrets, and its process.
   *
   * @param rows the group, per site
   * @param watched the processes that are watched
   */
  List<String> of(List<GroupRow> rows, Set<String> watched) {
    Set<String> commands =
        rows.stream()
            .map(GroupRow::command)
            .filter(command -> !command.isEmpty())
            .collect(Collectors.toSet());
    if (commands.isEmpty()) {
      return List.of();
    }
    return found.get().stream()
        .filter(jvm -> !jvm.own())
        .filter(jvm -> commands.stream().anyMatch(jvm.what()::startsWith))
        .filter(jvm -> !watched.contains(jvm.process() + MACHINE))
        .map(jvm -> jvm.what().split(" ")[0] + " (process " + jvm.process() + ")")
        .toList();
  }
}
