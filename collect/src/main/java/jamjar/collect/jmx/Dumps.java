package jamjar.collect.jmx;

import jamjar.collect.Bounds;
import jamjar.collect.Hidden;
import jamjar.core.threads.ThreadDump;
import jamjar.core.threads.ThreadDump.Seen;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;

/**
 * Looks at the threads of a JVM, some at a time, so that no answer is large. What is told of one is
 * taken by its types: a target may lie.
 */
final class Dumps {
  private static final int AT_ONCE = 100;

  private Dumps() {}

  static ThreadDump of(MBeanServerConnection server, Instant at, String why)
      throws IOException, JMException {
    ObjectName threading = new ObjectName("java.lang:type=Threading");
    long[] all = (long[]) server.getAttribute(threading, "AllThreadIds");
    long[] ids = Arrays.stream(all).sorted().limit(ThreadDump.MOST).toArray();
    Map<List<String>, Integer> stacks = new LinkedHashMap<>();
    List<Seen> threads = new ArrayList<>();
    for (int from = 0; from < ids.length; from += AT_ONCE) {
      long[] some = Arrays.copyOfRange(ids, from, Math.min(ids.length, from + AT_ONCE));
      CompositeData[] infos =
          (CompositeData[])
              server.invoke(
                  threading,
                  "getThreadInfo",
                  new Object[] {some, ThreadDump.DEPTH},
                  new String[] {long[].class.getName(), int.class.getName()});
      for (CompositeData info : infos) {
        // one that has ended meanwhile is none
        if (info != null && threads.size() < ids.length) {
          threads.add(seen(info, stacks));
        }
      }
    }
    return new ThreadDump(
        at, why, List.copyOf(stacks.keySet()), threads, Math.max(0, all.length - ids.length));
  }

  private static Seen seen(CompositeData info, Map<List<String>, Integer> stacks) {
    List<String> stack = stack(info);
    Integer place = stacks.get(stack);
    if (place == null) {
      place = stacks.size();
      stacks.put(stack, place);
    }
    return new Seen(
        number(info, "threadId", 0),
        Hidden.text(text(info, "threadName")),
        text(info, "threadState"),
        text(info, "lockName"),
        number(info, "lockOwnerId", -1),
        place);
  }

  private static List<String> stack(CompositeData info) {
    List<String> calls = new ArrayList<>();
    if (info.containsKey("stackTrace")
        && info.get("stackTrace") instanceof CompositeData[] elements) {
      for (CompositeData call : elements) {
        if (calls.size() < ThreadDump.DEPTH) {
          long line = number(call, "lineNumber", -1);
          String method = text(call, "className") + '.' + text(call, "methodName");
          calls.add(Bounds.label(line < 0 ? method : method + ':' + line));
        }
      }
    }
    return calls;
  }

  private static String text(CompositeData of, String name) {
    Object value = of.containsKey(name) ? of.get(name) : null;
    return value == null ? "" : Bounds.label(Plain.text(value));
  }

  private static long number(CompositeData of, String name, long without) {
    return of.containsKey(name) && of.get(name) instanceof Number number
        ? number.longValue()
        : without;
  }
}
