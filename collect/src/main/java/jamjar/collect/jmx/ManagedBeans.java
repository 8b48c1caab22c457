package jamjar.collect.jmx;

import jamjar.collect.CollectFailed;
import jamjar.collect.Target;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.MBeanAttributeInfo;
import javax.management.MBeanServerConnection;
import javax.management.MalformedObjectNameException;
import javax.management.ObjectName;
import javax.management.remote.JMXConnector;

/**
 * The managed beans of a JVM, for a person to look around in: all names, then the attributes of one
 * with their values. Nothing is written there and no operation is called.
 */
public final class ManagedBeans implements AutoCloseable {
  /** How long names of attributes are asked for, bean by bean; the rest is found by name alone. */
  private static final long ASK_NANOS = 5_000_000_000L;

  private final Target target;
  private final JMXConnector connector;
  private final MBeanServerConnection server;

  private ManagedBeans(Target target, JMXConnector connector, MBeanServerConnection server) {
    this.target = target;
    this.connector = connector;
    this.server = server;
  }

  /**
   * @throws CollectFailed when it can't be signed in to
   */
  public static ManagedBeans of(Target target) throws CollectFailed {
    JMXConnector connector = JmxConnector.open(target);
    try {
      return new ManagedBeans(target, connector, connector.getMBeanServerConnection());
    } catch (IOException e) {
      throw new CollectFailed(JmxRefusals.of(target, e), e);
    }
  }

  /** Those of this very process. */
  public static ManagedBeans own(MBeanServerConnection here) {
    return new ManagedBeans(LocalJvms.THIS, null, here);
  }

  /**
   * One bean.
   *
   * @param attributes the names of what can be read of it; empty where there was no time to ask
   */
  public record Bean(String name, List<String> attributes) {}

  /**
   * All beans, by domain and type.
   *
   * @param unasked of how many the names of attributes are not known
   */
  public record All(List<Bean> beans, int unasked) {}

  /** The beans with the names of their attributes, as far as there is time. */
  public All all() throws CollectFailed {
    return answered(
        () -> {
          List<Bean> beans = new ArrayList<>();
          int unasked = 0;
          long until = System.nanoTime() + ASK_NANOS;
          for (ObjectName name : server.queryNames(null, null).stream().sorted().toList()) {
            boolean late = System.nanoTime() > until;
            unasked += late ? 1 : 0;
            beans.add(new Bean(name.getCanonicalName(), late ? List.of() : names(name)));
          }
          return new All(beans, unasked);
        });
  }

  private List<String> names(ObjectName name) throws IOException {
    try {
      return readable(name).map(MBeanAttributeInfo::getName).toList();
    } catch (JMException | RuntimeException e) {
      // one that has gone, or can't describe itself, is listed by its name
      return List.of();
    }
  }

  private Stream<MBeanAttributeInfo> readable(ObjectName name) throws IOException, JMException {
    return Stream.of(server.getMBeanInfo(name).getAttributes())
        .filter(MBeanAttributeInfo::isReadable)
        .sorted(Comparator.comparing(MBeanAttributeInfo::getName));
  }

  /**
   * What can be read of a bean, with its values now.
   *
   * @throws IllegalArgumentException when there is no such bean, or that is no name of one
   */
  public List<BeanAttribute> attributes(String bean) throws CollectFailed {
    ObjectName name = name(bean);
    return answered(
        () -> {
          List<MBeanAttributeInfo> infos = readable(name).toList();
          return new OneByOne(target, name, server).read(infos);
        });
  }

  private static ObjectName name(String bean) {
    try {
      ObjectName name = new ObjectName(bean);
      if (!name.isPattern()) {
        return name;
      }
    } catch (MalformedObjectNameException e) {
      // told below
    }
    throw new IllegalArgumentException("'" + bean + "' is not the name of a managed bean.");
  }

  private interface Asked<T> {
    T ask() throws IOException, JMException;
  }

  private <T> T answered(Asked<T> asked) throws CollectFailed {
    try (TlsOfTarget about = TlsOfTarget.of(target)) {
      return asked.ask();
    } catch (InstanceNotFoundException e) {
      throw new IllegalArgumentException("There is no such managed bean: " + e.getMessage(), e);
    } catch (IOException | JMException e) {
      throw new CollectFailed(JmxRefusals.of(target, e), e);
    }
  }

  @Override
  public void close() {
    JmxConnector.close(connector);
  }
}
