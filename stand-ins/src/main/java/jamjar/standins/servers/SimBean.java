package jamjar.standins.servers;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Supplier;
import javax.management.Attribute;
import javax.management.AttributeList;
import javax.management.AttributeNotFoundException;
import javax.management.DynamicMBean;
import javax.management.MBeanAttributeInfo;
import javax.management.MBeanInfo;
import javax.management.ReflectionException;

/** A managed bean whose attributes and operations are given one by one. */
public final class SimBean implements DynamicMBean {
  private final Map<String, Supplier<Object>> attributes = new LinkedHashMap<>();
  private final Map<String, Function<Object[], Object>> operations = new LinkedHashMap<>();
  private final Runnable asked;

  /**
   * @param asked called before each answer; may keep it waiting
   */
  public SimBean(Runnable asked) {
    this.asked = asked;
  }

  public SimBean with(String attribute, Supplier<Object> value) {
    attributes.put(attribute, value);
    return this;
  }

  SimBean does(String operation, Function<Object[], Object> answer) {
    operations.put(operation, answer);
    return this;
  }

  @Override
  public Object getAttribute(String name) throws AttributeNotFoundException {
    asked.run();
    return value(name);
  }

  private Object value(String name) throws AttributeNotFoundException {
    Supplier<Object> value = attributes.get(name);
    if (value == null) {
      throw new AttributeNotFoundException(name);
    }
    return value.get();
  }

  @Override
  public AttributeList getAttributes(String[] names) {
    asked.run();
    AttributeList list = new AttributeList();
    for (String name : names) {
      if (attributes.containsKey(name)) {
        list.add(new Attribute(name, attributes.get(name).get()));
      }
    }
    return list;
  }

  @Override
  public Object invoke(String name, Object[] arguments, String[] signature)
      throws ReflectionException {
    asked.run();
    Function<Object[], Object> answer = operations.get(name);
    if (answer == null) {
      throw new ReflectionException(new NoSuchMethodException(name));
    }
    return answer.apply(arguments);
  }

  @Override
  public void setAttribute(Attribute attribute) throws AttributeNotFoundException {
    throw new AttributeNotFoundException(attribute.getName() + " can only be read");
  }

  @Override
  public AttributeList setAttributes(AttributeList list) {
    return new AttributeList();
  }

  @Override
  public MBeanInfo getMBeanInfo() {
    MBeanAttributeInfo[] infos =
        attributes.keySet().stream()
            .map(name -> new MBeanAttributeInfo(name, "java.lang.Object", name, true, false, false))
            .toArray(MBeanAttributeInfo[]::new);
    return new MBeanInfo(SimBean.class.getName(), "stand-in", infos, null, null, null);
  }
}
