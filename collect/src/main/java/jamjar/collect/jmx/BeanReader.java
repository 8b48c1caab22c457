package jamjar.collect.jmx;

import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.io.IOException;
import java.util.HashMap;
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
  private final Recipe recipe;

  BeanReader(Recipe recipe) {
    this.recipe = recipe;
  }

  /** The values of a bean; a bean whose name does not have the form of the labels has none. */
  void read(MBeanServerConnection server, BeanQuery query, ObjectName name, List<RawValue> into)
      throws IOException, JMException {
    Map<String, String> labels = labels(query, name);
    if (labels == null) {
      return;
    }
    String[] attributes =
        query.reads().stream().map(AttributeRead::attribute).distinct().toArray(String[]::new);
    Map<String, Object> values = new HashMap<>();
    for (Attribute attribute : server.getAttributes(name, attributes).asList()) {
      values.put(attribute.getName(), attribute.getValue());
    }
    if (values.isEmpty() && !server.isRegistered(name)) {
      throw new InstanceNotFoundException(name.toString());
    }
    for (AttributeRead read : query.reads()) {
      SeriesKey key = new SeriesKey(read.counter(), labels);
      into.add(value(key, read, inside(values.get(read.attribute()), read.path())));
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

  private static Map<String, String> labels(BeanQuery query, ObjectName name) {
    Map<String, String> labels = new HashMap<>();
    for (Map.Entry<String, BeanQuery.FromName> label : query.labels().entrySet()) {
      String value = label.getValue().of(name);
      if (value == null) {
        return null;
      }
      labels.put(label.getKey(), value);
    }
    return labels;
  }

  private static Object inside(Object value, List<String> path) {
    Object now = value;
    for (String item : path.subList(1, path.size())) {
      now = now instanceof CompositeData data && data.containsKey(item) ? data.get(item) : null;
    }
    return now;
  }

  private RawValue value(SeriesKey key, AttributeRead read, Object found) {
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
    Double number = words.get(found.toString());
    return number != null ? number : words.get("*");
  }
}
