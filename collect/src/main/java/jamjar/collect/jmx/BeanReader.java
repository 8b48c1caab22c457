package jamjar.collect.jmx;

import jamjar.collect.recipe.AttributeRead;
import jamjar.collect.recipe.BeanQuery;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.failure.Causes;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import javax.management.Attribute;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;

/** Reads the attributes of one bean, in one call, into values. */
final class BeanReader {
  /** Beans that come and go must not fill the heap. */
  private static final int MOST_KNOWN = 5_000;

  private final Recipe recipe;
  private final Troubled troubled;

  /** What is read of the beans of each query, which is the same each time. */
  private final Map<BeanQuery, Map<ObjectName, Told>> known = new IdentityHashMap<>();

  /**
   * What is asked of a bean and what it is about.
   *
   * @param keys per attribute read its series; none where the name does not have the form
   */
  private record Told(List<String> attributes, List<SeriesKey> keys) {}

  /**
   * @param troubled attributes that are not asked for with the others
   */
  BeanReader(Recipe recipe, Troubled troubled) {
    this.recipe = recipe;
    this.troubled = troubled;
  }

  /** The values of a bean; a bean whose name does not have the form of the labels has none. */
  void read(MBeanServerConnection server, BeanQuery query, ObjectName name, List<RawValue> into)
      throws IOException, JMException {
    Told told = told(query, name);
    if (told.keys().isEmpty()) {
      return;
    }
    Map<String, Troubled.Trouble> troubles = troubled.of(name, told.attributes());
    if (troubled.isLookedAt(name)) {
      nothing(query, name, into);
      return;
    }
    List<String> asked =
        troubles.isEmpty()
            ? told.attributes()
            : told.attributes().stream().filter(a -> !troubles.containsKey(a)).toList();
    Map<String, Object> values = values(server, name, asked);
    if (values.isEmpty() && !server.isRegistered(name)) {
      throw new InstanceNotFoundException(name.toString());
    }
    if (!values.keySet().containsAll(asked)) {
      // it is not told why: it may be none of this version, or fail
      troubled.look(name, asked.stream().filter(a -> !values.containsKey(a)).toList());
    }
    for (int i = 0; i < told.keys().size(); i++) {
      AttributeRead read = query.reads().get(i);
      SeriesKey key = told.keys().get(i);
      Troubled.Trouble trouble = troubles.get(read.attribute());
      into.add(
          trouble == null
              ? value(key, read, values.get(read.attribute()))
              : new RawValue.Nothing(key, trouble.why()));
    }
  }

  private Told told(BeanQuery query, ObjectName name) {
    Map<ObjectName, Told> beans = known.computeIfAbsent(query, q -> new HashMap<>());
    if (beans.size() > MOST_KNOWN) {
      beans.clear();
    }
    return beans.computeIfAbsent(
        name,
        bean -> {
          Map<String, String> labels = query.labelsOf(bean);
          return labels == null
              ? new Told(List.of(), List.of())
              : new Told(
                  query.reads().stream().map(AttributeRead::attribute).distinct().toList(),
                  query.reads().stream()
                      .map(read -> new SeriesKey(read.counter(), labels))
                      .toList());
        });
  }

  private Map<String, Object> values(
      MBeanServerConnection server, ObjectName name, List<String> asked)
      throws IOException, JMException {
    Map<String, Object> values = new HashMap<>();
    if (asked.isEmpty()) {
      return values;
    }
    try {
      String[] attributes = asked.toArray(String[]::new);
      for (Attribute attribute : server.getAttributes(name, attributes).asList()) {
        values.put(attribute.getName(), attribute.getValue());
      }
      return values;
    } catch (IOException e) {
      boolean ofOne = Causes.has(e, SocketTimeoutException.class) || Troubled.isForeign(e);
      if (ofOne) {
        troubled.look(name, asked);
      }
      throw e;
    }
  }

  /** Its counters have no value this time: it is being found out which of them are to blame. */
  void nothing(BeanQuery query, ObjectName name, List<RawValue> into) {
    for (SeriesKey key : told(query, name).keys()) {
      into.add(new RawValue.Nothing(key, WhyNothing.NOT_YET_KNOWN));
    }
  }

  /** There is no such bean: those of its counters that have no labels have no value. */
  void noneThere(BeanQuery query, List<RawValue> into) {
    if (query.labels().isEmpty()) {
      for (AttributeRead read : query.reads()) {
        into.add(new RawValue.Nothing(SeriesKey.of(read.counter()), WhyNothing.NONE_THERE));
      }
    }
  }

  private static Object inside(Object value, List<String> path) {
    Object now = value;
    for (String item : path.subList(1, path.size())) {
      now = now instanceof CompositeData data && data.containsKey(item) ? data.get(item) : null;
    }
    return now;
  }

  private RawValue value(SeriesKey key, AttributeRead read, Object attribute) {
    if (!read.needs().isEmpty()
        && inside(attribute, read.needs()) instanceof Number beside
        && beside.doubleValue() <= 0) {
      return new RawValue.Nothing(key, WhyNothing.NOT_YET_KNOWN);
    }
    Object found = inside(attribute, read.path());
    Object value = read.words().isEmpty() ? found : word(read.words(), found);
    if (!(value instanceof Number number) || number.doubleValue() == read.unknown()) {
      return new RawValue.Nothing(key, WhyNothing.NONE_THERE);
    }
    if (recipe.counters().get(read.counter()).shape() == Shape.LEVEL) {
      return new RawValue.Level(key, number.doubleValue() * read.scale());
    }
    boolean whole = read.scale() == 1 && !(number instanceof Double || number instanceof Float);
    long total = whole ? number.longValue() : Math.round(number.doubleValue() * read.scale());
    return new RawValue.Total(key, total, 0);
  }

  private static Double word(Map<String, Double> words, Object found) {
    if (found == null) {
      return null;
    }
    Double number = words.get(Plain.text(found));
    return number != null ? number : words.get("*");
  }
}
