package jamjar.collect.jmx;

import jamjar.collect.Collector;
import jamjar.collect.Hidden;
import jamjar.collect.recipe.BeanQuery;
import jamjar.core.failure.Causes;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The addresses that beans such as connection pools lead to: each is asked once. Where one does not
 * answer, none of that process is asked any more: each would wait as long, and hang over there.
 */
final class Leading {
  private static final Logger LOG = LoggerFactory.getLogger(Leading.class);
  private static final int MOST = 100;
  private static final int LONGEST = 1_000;

  private long process;
  private boolean hangs;

  /** By query and bean; empty where it tells none. */
  private final Map<BeanQuery, Map<ObjectName, String>> told = new HashMap<>();

  /** What was told, by the name of the fact. */
  Map<String, String> told() {
    Map<String, String> facts = new HashMap<>();
    told.forEach(
        (query, beans) ->
            beans.forEach(
                (bean, address) -> {
                  if (!address.isEmpty()) {
                    String of = String.join(" ", query.labelsOf(bean).values());
                    facts.put(Collector.LEADS_TO + of, address);
                  }
                }));
    return facts;
  }

  /** Another process may lead elsewhere; over a new connection the same one does not. */
  void of(long start) {
    if (start != process) {
      process = start;
      hangs = false;
      told.clear();
    }
  }

  /**
   * Asks those that were not asked before, and forgets those that are gone.
   *
   * @return how many calls it took
   */
  int look(MBeanServerConnection server, BeanQuery query, List<ObjectName> names)
      throws IOException {
    if (query.leadsTo().isEmpty()) {
      return 0;
    }
    Map<ObjectName, String> beans = told.computeIfAbsent(query, q -> new HashMap<>());
    beans.keySet().retainAll(names);
    int calls = 0;
    for (ObjectName name : names) {
      if (hangs || beans.size() >= MOST) {
        break;
      }
      if (!beans.containsKey(name) && query.labelsOf(name) != null) {
        calls++;
        beans.put(name, address(server, name, query.leadsTo()));
      }
    }
    return calls;
  }

  private String address(MBeanServerConnection server, ObjectName name, String attribute)
      throws IOException {
    try {
      Object address = server.getAttribute(name, attribute);
      String text = address == null ? "" : Hidden.text(Plain.text(address));
      return text.length() > LONGEST ? text.substring(0, LONGEST) : text;
    } catch (IOException e) {
      hangs = Causes.has(e, SocketTimeoutException.class);
      if (!hangs && !Troubled.isForeign(e)) {
        throw e;
      }
    } catch (JMException | RuntimeException e) {
      // not every version tells it: then it leads nowhere
      LOG.debug("event=leads-nowhere bean=\"{}\" why=\"{}\"", name, e.toString());
    }
    return "";
  }
}
