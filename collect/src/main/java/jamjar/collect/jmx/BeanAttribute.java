package jamjar.collect.jmx;

import jamjar.collect.Hidden;
import jamjar.core.failure.Causes;
import java.lang.reflect.Array;
import java.util.ArrayList;
import java.util.List;
import java.util.StringJoiner;
import javax.management.MBeanAttributeInfo;
import javax.management.openmbean.CompositeData;
import javax.management.openmbean.TabularData;

/**
 * What can be read of a managed bean.
 *
 * @param type its Java type
 * @param description in the bean's own words
 * @param value as a text, cut short, passwords left out; empty where it could not be read
 * @param why why it could not be read; empty where it could
 * @param numbers what of it can become a counter: itself, or the items inside it
 */
public record BeanAttribute(
    String name, String type, String description, String value, String why, List<Inside> numbers) {
  private static final int LONGEST = 400;
  private static final int MOST_ITEMS = 20;

  /**
   * A number of an attribute.
   *
   * @param path the attribute, and the items inside it, with dots between
   * @param value NaN where it is none just now
   * @param flag whether it is true or false, told as 1 or 0
   */
  public record Inside(String path, double value, boolean flag) {}

  static BeanAttribute of(MBeanAttributeInfo info, Object value) {
    List<Inside> numbers = new ArrayList<>();
    inside(info.getName(), value, numbers);
    if (numbers.isEmpty() && value == null && isNumber(info.getType())) {
      numbers.add(new Inside(info.getName(), Double.NaN, false));
    }
    String text = text(info.getName(), value);
    return new BeanAttribute(
        info.getName(),
        type(info, value),
        info.getDescription() == null ? "" : info.getDescription(),
        text.length() > LONGEST ? text.substring(0, LONGEST) + " …" : text,
        "",
        numbers);
  }

  static BeanAttribute unread(MBeanAttributeInfo info, String why) {
    return new BeanAttribute(info.getName(), info.getType(), "", "", why, List.of());
  }

  static BeanAttribute unread(MBeanAttributeInfo info, Exception failure) {
    return unread(
        info,
        Troubled.isForeign(failure)
            ? "of a class that is not taken"
            : Hidden.text(Plain.text(Causes.words(failure))));
  }

  /** Where it is only declared as an object, what it is now. */
  private static String type(MBeanAttributeInfo info, Object value) {
    boolean told = value != null && info.getType().equals(Object.class.getName());
    return told ? value.getClass().getName() : info.getType();
  }

  private static boolean isNumber(String type) {
    return List.of("java.lang.Integer", "java.lang.Long", "java.lang.Double", "java.lang.Float")
        .contains(type);
  }

  private static void inside(String path, Object value, List<Inside> numbers) {
    if (value instanceof Number number) {
      numbers.add(new Inside(path, number.doubleValue(), false));
    } else if (value instanceof Boolean flag) {
      numbers.add(new Inside(path, flag ? 1 : 0, true));
    } else if (value instanceof CompositeData data) {
      data.getCompositeType().keySet().stream()
          .sorted()
          .forEach(item -> inside(path + "." + item, data.get(item), numbers));
    }
  }

  private static String text(String name, Object value) {
    if (value instanceof CompositeData data) {
      StringJoiner items = new StringJoiner(", ");
      data.getCompositeType().keySet().stream()
          .sorted()
          .forEach(item -> items.add(item + " " + text(item, data.get(item))));
      return items.toString();
    }
    if (value instanceof TabularData table) {
      return table.size() + " rows";
    }
    if (value != null && value.getClass().isArray()) {
      StringJoiner items = new StringJoiner(", ");
      int length = Array.getLength(value);
      for (int i = 0; i < Math.min(length, MOST_ITEMS); i++) {
        items.add(text(name, Array.get(value, i)));
      }
      return length > MOST_ITEMS ? items + " … " + length + " in all" : items.toString();
    }
    return Hidden.value(name, Plain.text(value));
  }
}
