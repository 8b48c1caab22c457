package jamjar.collect.jmx;

import java.io.ObjectInputFilter;
import java.util.Set;

/**
 * Which classes are made from what comes over the wire, and how much of it. A JVM is asked for open
 * types, numbers, texts and what JMX itself is made of; anything else is refused before any of its
 * code runs here. For the whole process, as RMI offers no other place.
 */
final class AllowedClasses implements ObjectInputFilter {
  /**
   * Nested sets take twice the time with each level. What the JDK itself tells of its threads is 14
   * deep.
   */
  private static final long DEEPEST = 24;

  private static final long LARGEST_ARRAY = 500_000;
  private static final long MOST_REFERENCES = 3_000_000;
  private static final long MOST_BYTES = 64L << 20;

  private static final Set<String> PACKAGES =
      Set.of(
          "java.math",
          "java.time",
          "java.rmi",
          "java.rmi.server",
          "java.rmi.dgc",
          "sun.rmi.transport",
          "sun.rmi.registry",
          "sun.rmi.server");

  private static final Set<String> CLASSES =
      Set.of(
          "java.lang.Object",
          "java.lang.Number",
          "java.lang.Boolean",
          "java.lang.Byte",
          "java.lang.Character",
          "java.lang.Double",
          "java.lang.Enum",
          "java.lang.Float",
          "java.lang.Integer",
          "java.lang.Long",
          "java.lang.Short",
          "java.lang.String",
          "java.lang.StackTraceElement",
          "java.lang.Void",
          "java.net.InetAddress",
          "java.net.Inet4Address",
          "java.net.Inet6Address",
          "java.util.AbstractCollection",
          "java.util.AbstractList",
          "java.util.AbstractMap",
          "java.util.AbstractSet",
          "java.util.ArrayList",
          "java.util.Arrays$ArrayList",
          "java.util.CollSer",
          "java.util.Date",
          "java.util.Dictionary",
          "java.util.HashMap",
          "java.util.HashSet",
          "java.util.Hashtable",
          "java.util.LinkedHashMap",
          "java.util.LinkedHashSet",
          "java.util.LinkedList",
          "java.util.Map",
          "java.util.Map$Entry",
          "java.util.TreeMap",
          "java.util.TreeSet",
          "java.util.Vector",
          "java.util.Stack",
          "java.util.UUID",
          "java.util.Locale",
          "java.util.concurrent.TimeUnit",
          "javax.rmi.ssl.SslRMIClientSocketFactory");

  @Override
  public Status checkInput(FilterInfo info) {
    if (info.depth() > DEEPEST
        || info.references() > MOST_REFERENCES
        || info.streamBytes() > MOST_BYTES
        || info.arrayLength() > LARGEST_ARRAY) {
      return Status.REJECTED;
    }
    Class<?> type = info.serialClass();
    if (type == null) {
      return Status.UNDECIDED;
    }
    while (type.isArray()) {
      type = type.getComponentType();
    }
    return allowed(type) ? Status.ALLOWED : Status.REJECTED;
  }

  private static boolean allowed(Class<?> type) {
    String name = type.getName();
    return type.isPrimitive()
        || CLASSES.contains(name)
        || PACKAGES.contains(type.getPackageName())
        // JMX: names, attributes, open types, notifications, its connections
        || type.getPackageName().startsWith("javax.management")
        || name.startsWith("java.util.Collections$")
        // a failure over there is told by one of the JDK's own
        || Throwable.class.isAssignableFrom(type) && name.startsWith("java");
  }
}
