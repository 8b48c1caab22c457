package jamjar.collect.jmx;

import jamjar.collect.Hidden;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.management.Attribute;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;
import javax.management.openmbean.TabularData;

/** What a JVM says of itself: its start, its clock, its name and version. */
final class RuntimeFacts {
  private static final Pattern RELEASE = Pattern.compile("\\d{1,4}");
  private static final int FIRST_VIRTUAL = 21;
  private static final String[] TOLD = {
    "StartTime", "VmName", "VmVersion", "Name", "InputArguments", "SystemProperties"
  };
  private static final int MOST = 1_000;
  private static final ObjectName RUNTIME;

  static {
    try {
      RUNTIME = new ObjectName(ManagementFactory.RUNTIME_MXBEAN_NAME);
    } catch (JMException e) {
      throw new IllegalStateException(e);
    }
  }

  private RuntimeFacts() {}

  /** When it started, epoch ms; 1 when it does not tell. */
  static long start(MBeanServerConnection server) throws IOException, JMException {
    try {
      return (Long) server.getAttribute(RUNTIME, "StartTime");
    } catch (InstanceNotFoundException e) {
      return 1;
    }
  }

  /** How long it has run, in ms, by a clock that never goes back; −1 when it does not tell. */
  static long up(MBeanServerConnection server) throws IOException, JMException {
    try {
      return (Long) server.getAttribute(RUNTIME, "Uptime");
    } catch (InstanceNotFoundException e) {
      return -1;
    }
  }

  /** Whether a JVM of this version may have threads that it does not tell of over JMX. */
  static boolean virtual(String version) {
    Matcher release = RELEASE.matcher(version);
    return release.lookingAt() && Integer.parseInt(release.group()) >= FIRST_VIRTUAL;
  }

  static Map<String, String> of(MBeanServerConnection server) throws IOException, JMException {
    Map<String, Object> told = new LinkedHashMap<>();
    try {
      for (Attribute attribute : server.getAttributes(RUNTIME, TOLD).asList()) {
        told.put(attribute.getName(), attribute.getValue());
      }
    } catch (InstanceNotFoundException e) {
      return Map.of();
    }
    Map<String, String> facts = new LinkedHashMap<>();
    if (told.get("VmName") != null) {
      facts.put(
          "version", Plain.text(told.get("VmName")) + " " + Plain.text(told.get("VmVersion")));
    }
    if (virtual(Plain.text(told.get("VmVersion")))) {
      facts.put("threads", "platform threads only; among virtual ones deadlocks are not looked at");
    }
    if (told.get("StartTime") instanceof Long start) {
      facts.put("started", Long.toString(start));
    }
    if (told.get("Name") != null) {
      facts.put("process", Plain.text(told.get("Name")));
    }
    if (told.get("InputArguments") instanceof String[] arguments) {
      facts.put("arguments", Hidden.text(Plain.text(String.join(" ", arguments))));
    }
    if (told.get("SystemProperties") instanceof TabularData properties) {
      int more = 0;
      for (Object row : properties.values()) {
        if (row instanceof CompositeData property && facts.size() < MOST) {
          String name = Plain.text(property.get("key"));
          facts.put("properties/" + name, Hidden.value(name, Plain.text(property.get("value"))));
        } else {
          more++;
        }
      }
      if (more > 0) {
        facts.put("properties/…", more + " more are not read: at most " + MOST + " are");
      }
    }
    return facts;
  }
}
