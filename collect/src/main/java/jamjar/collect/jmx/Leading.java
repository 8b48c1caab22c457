package jamjar.collect.jmx;

import jamjar.collect.Collector;
import jamjar.collect.Hidden;
import jamjar.collect.recipe.BeanQuery;
import jamjar.core.failure.Causes;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The addresses that beans such as connection pools lead to: each is asked once. */
final class Leading {
  private static final Logger LOG = LoggerFactory.getLogger(Leading.class);
  private static final int MOST = 100;

  private long process;
  private final Set<ObjectName> asked = new HashSet<>();
  private final Map<String, String> told = new HashMap<>();

  /** What was told, by the name of the fact. */
  Map<String, String> told() {
    return told;
  }

  /** Another process may lead elsewhere; over a new connection the same one does not. */
  void of(long start) {
    if (start != process) {
      process = start;
      asked.clear();
      told.clear();
    }
  }

  /**
   * Asks those that were not asked before.
   *
   * @return how many calls it took
   */
  int look(MBeanServerConnection server, BeanQuery query, List<ObjectName> names)
      throws IOException {
    int calls = 0;
    if (query.leadsTo().isEmpty()) {
      return calls;
    }
    for (ObjectName name : names) {
      Map<String, String> labels = query.labelsOf(name);
      if (labels == null || asked.size() >= MOST || !asked.add(name)) {
        continue;
      }
      calls++;
      try {
        Object address = server.getAttribute(name, query.leadsTo());
        if (address != null) {
          told.put(
              Collector.LEADS_TO + String.join(" ", labels.values()),
              Hidden.text(Plain.text(address)));
        }
      } catch (IOException e) {
        // one that does not answer costs itself, and is not asked again
        if (!Causes.has(e, SocketTimeoutException.class) && !Troubled.isForeign(e)) {
          throw e;
        }
      } catch (JMException | RuntimeException e) {
        // not every version tells it: then it leads nowhere
        LOG.debug("event=leads-nowhere bean=\"{}\" why=\"{}\"", name, e.toString());
      }
    }
    return calls;
  }
}
