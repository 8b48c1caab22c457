package jamjar.collect.recipe;

import jamjar.collect.Bounds;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.management.ObjectName;

/**
 * Which managed beans are read, and what of them.
 *
 * @param group the group of counters that it fills
 * @param names patterns of managed-bean names
 * @param except patterns of names that are left out
 * @param labels per label where it is taken from
 * @param reads the attributes that are read
 * @param leadsTo the attribute that holds the address of what the bean leads to, such as the
 *     database of a pool; empty for none
 * @param special what can't be said by attributes alone; empty for nothing
 */
public record BeanQuery(
    String group,
    List<ObjectName> names,
    List<ObjectName> except,
    Map<String, FromName> labels,
    List<AttributeRead> reads,
    String leadsTo,
    String special) {
  /** The states and the allocation of threads. */
  public static final String THREADS = "threads";

  /** Threads that wait for each other. */
  public static final String DEADLOCKED = "deadlocked";

  /** What of the old generation is still used after a collection. */
  public static final String FLOOR = "floor";

  /** What the process uses of memory, where it runs on this machine. */
  public static final String RESIDENT = "resident";

  /** What there is, with the number of counters that each fills. */
  public static final Map<String, Integer> SPECIALS =
      Map.of(THREADS, 3, DEADLOCKED, 1, FLOOR, 3, RESIDENT, 1);

  /** Whether so many counters are what a special fills; a floor did not always tell its age. */
  public static boolean fills(String special, int counters) {
    int all = SPECIALS.get(special);
    return counters == all || special.equals(FLOOR) && counters == all - 1;
  }

  /**
   * The same without some counters. One that is special fills its counters in their order: it is
   * left as it is, and what nobody wants of it is dropped later.
   */
  public BeanQuery without(Set<String> counters) {
    if (!special.isEmpty()) {
      return this;
    }
    return new BeanQuery(
        group,
        names,
        except,
        labels,
        reads.stream().filter(read -> !counters.contains(read.counter())).toList(),
        leadsTo,
        special);
  }

  /**
   * The counter that is filled from an attribute of a bean; empty where none is.
   *
   * @param path the attribute, and the items inside it, with dots between
   */
  public Optional<String> counterOf(ObjectName bean, String path) {
    if (!special.isEmpty()
        || names.stream().noneMatch(pattern -> pattern.apply(bean))
        || except.stream().anyMatch(pattern -> pattern.apply(bean))) {
      return Optional.empty();
    }
    return reads.stream()
        .filter(read -> String.join(".", read.path()).equals(path))
        .map(AttributeRead::counter)
        .findFirst();
  }

  /** The labels of a bean by its name; null where it does not have their form. */
  public Map<String, String> labelsOf(ObjectName name) {
    Map<String, String> found = new HashMap<>();
    for (Map.Entry<String, FromName> label : labels.entrySet()) {
      String value = label.getValue().of(name);
      if (value == null) {
        return null;
      }
      found.put(label.getKey(), value);
    }
    return found;
  }

  /** Whether both read the same beans, so that one call serves them. */
  public boolean goesWith(BeanQuery other) {
    boolean plain = special.isEmpty() && other.special.isEmpty();
    return plain
        && group.equals(other.group)
        && names.equals(other.names)
        && except.equals(other.except)
        && labels.equals(other.labels);
  }

  /** The same with what another one reads too. */
  public BeanQuery and(BeanQuery other) {
    List<AttributeRead> all = new ArrayList<>(reads);
    all.addAll(other.reads);
    String leads = leadsTo.isEmpty() ? other.leadsTo : leadsTo;
    return new BeanQuery(group, names, except, labels, List.copyOf(all), leads, special);
  }

  /**
   * A label taken from a part of the bean's name.
   *
   * @param key the key property
   * @param form what of its value is the label: the first group of it; null for all
   */
  public record FromName(String key, Pattern form) {

    /** The label, or null when the name does not have the form. */
    public String of(ObjectName name) {
      String value = name.getKeyProperty(key);
      if (value == null) {
        return null;
      }
      if (value.startsWith("\"") && value.endsWith("\"")) {
        value = ObjectName.unquote(value);
      }
      String label = Bounds.label(value);
      if (form == null) {
        return label;
      }
      Matcher matcher = form.matcher(label);
      return matcher.matches() ? matcher.group(1) : null;
    }
  }
}
