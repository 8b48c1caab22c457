package jamjar.collect.jmx;

import jamjar.collect.Bounds;
import jamjar.collect.recipe.BeanQuery;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;

/**
 * Which beans there are for each query. Asked again when the number of beans there has changed, and
 * now and then, as one may have come while another went.
 */
final class BeanNames {
  private static final long ASK_AGAIN_NANOS = 60_000_000_000L;

  private final List<BeanQuery> queries;
  private final List<String> beyond = new ArrayList<>();
  private volatile Map<BeanQuery, List<ObjectName>> found = Map.of();
  private int count = -1;
  private long asked;

  BeanNames(List<BeanQuery> queries) {
    this.queries = queries;
  }

  /** The names per query; one call when nothing has changed. */
  Map<BeanQuery, List<ObjectName>> in(MBeanServerConnection server) throws IOException {
    int now = server.getMBeanCount();
    if (now != count || System.nanoTime() - asked > ASK_AGAIN_NANOS) {
      Map<BeanQuery, List<ObjectName>> asking = new LinkedHashMap<>();
      beyond.clear();
      for (BeanQuery query : queries) {
        asking.put(query, names(server, query));
      }
      found = Collections.unmodifiableMap(asking);
      count = now;
      asked = System.nanoTime();
    }
    return found;
  }

  /** As they were found last; may be asked by any thread. */
  Map<BeanQuery, List<ObjectName>> known() {
    return found;
  }

  /** What is left out, as there is too much of it, in words; empty for nothing. */
  String beyond() {
    return String.join("; ", beyond);
  }

  /** One of them was not there any more. */
  void forget() {
    count = -1;
  }

  private List<ObjectName> names(MBeanServerConnection server, BeanQuery query) throws IOException {
    Set<ObjectName> names = new LinkedHashSet<>();
    for (ObjectName pattern : query.names()) {
      names.addAll(server.queryNames(pattern, null));
    }
    for (ObjectName except : query.except()) {
      names.removeIf(except::apply);
    }
    int most = Bounds.mostRows(query.reads().size());
    if (names.size() > most) {
      beyond.add(
          most + " of " + names.size() + " beans " + Bounds.label(query.names().get(0).toString()));
    }
    return names.stream().sorted().limit(most).toList();
  }
}
