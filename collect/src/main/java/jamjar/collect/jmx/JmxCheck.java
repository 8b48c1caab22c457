package jamjar.collect.jmx;

import jamjar.collect.CheckResult;
import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.Timing;
import jamjar.collect.Way;
import jamjar.collect.recipe.AttributeRead;
import jamjar.collect.recipe.BeanQuery;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.tls.Handshake;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.management.JMException;
import javax.management.MBeanAttributeInfo;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import javax.management.remote.JMXConnector;

/**
 * Tries a JVM or application server as it would be watched, step by step, and says for each thing
 * that is missing what to start it with.
 */
public final class JmxCheck {
  private static final int CALLS = 40;
  static final String TLS_ON =
      """
      -Dcom.sun.management.jmxremote.ssl=true
      -Dcom.sun.management.jmxremote.registry.ssl=true
      -Djavax.net.ssl.keyStore=KEYS.p12
      -Djavax.net.ssl.keyStorePassword=…""";

  private static final String BEANS = "Managed beans";

  private final Target target;
  private final LoadedRecipe recipe;
  private final List<LoadedRecipe> others;
  private final List<CheckResult> results = new ArrayList<>();

  private JmxCheck(Target target, LoadedRecipe recipe, List<LoadedRecipe> others) {
    this.target = target;
    this.recipe = recipe;
    this.others = others;
  }

  /**
   * The checks in their order; after one that fails for good the rest are not tried.
   *
   * @param others recipes that are proposed where they fit and the chosen one does not
   */
  public static List<CheckResult> check(
      Target target, LoadedRecipe recipe, List<LoadedRecipe> others) {
    JmxCheck check = new JmxCheck(target, recipe, others);
    if (target.port() == 0 || check.answers() && check.handsOn()) {
      check.inside();
    }
    return check.results;
  }

  private boolean answers() {
    Optional<Socket> way = Way.open(target, results, failure -> JmxRefusals.of(target, failure));
    if (way.isEmpty()) {
      return false;
    }
    try (Socket socket = way.get()) {
      if (target.tls() != Target.Tls.OFF) {
        CheckResult certificate = Handshake.over(socket, target).check(target, Instant.now());
        results.add(certificate);
        return !certificate.fails();
      }
      return true;
    } catch (IOException e) {
      results.add(CheckResult.fail("Encryption", JmxRefusals.of(target, e)));
      return false;
    }
  }

  /**
   * What answers at the port only says where else to go. That other address often is one of another
   * network, or a port that is not let through.
   */
  private boolean handsOn() {
    String check = "Protocol";
    HandedOn handed;
    try (TlsOfTarget about = TlsOfTarget.of(target)) {
      handed = HandedOn.by(JmxConnector.server(target));
    } catch (Exception e) {
      results.add(CheckResult.fail(check, JmxRefusals.of(target, e)));
      return false;
    }
    results.add(CheckResult.pass(check, "JMX, which hands on to " + handed.address()));
    Optional<Refusal> refusal = reach(handed);
    refusal.ifPresent(r -> results.add(CheckResult.fail("Handed on", r)));
    return refusal.isEmpty();
  }

  private Optional<Refusal> reach(HandedOn handed) {
    String tried =
        "connecting to " + handed.address() + ", where " + target.address() + " hands on to";
    String option = "-Djava.rmi.server.hostname=" + target.host();
    String advice =
        "It tells an address of its own that can't be reached from here. Start it with the name"
            + " or address by which it is reached, and with one port for both.";
    String options = option + "\n-Dcom.sun.management.jmxremote.rmi.port=" + target.port();
    try {
      JmxConnector.reach(new InetSocketAddress(handed.host(), handed.port()));
      return Optional.empty();
    } catch (IOException e) {
      Refusal plain = JmxRefusals.of(target, e);
      String answered =
          plain.reason() == Reason.NAME_UNKNOWN ? "no address is known for it" : plain.answered();
      return Optional.of(
          new Refusal(plain.reason(), tried, answered, advice).mendedBy(options).afterRestart());
    }
  }

  private void inside() {
    try (TlsOfTarget about = TlsOfTarget.of(target);
        JMXConnector connector = JmxConnector.open(target)) {
      MBeanServerConnection server = connector.getMBeanServerConnection();
      Map<String, String> facts = RuntimeFacts.of(server);
      results.add(CheckResult.pass("Sign in", signedIn(facts)));
      results.add(CheckResult.encryption(target, TLS_ON, true));
      results.add(
          CheckResult.pass("Version", facts.getOrDefault("version", "it does not tell its own")));
      Map<BeanQuery, List<ObjectName>> names = new BeanNames(recipe.beans()).in(server);
      results.add(beans(server, names));
      results.add(attributes(server, names));
      allocation(server).ifPresent(results::add);
      clock(server).ifPresent(results::add);
      results.add(Timing.roundTrip(server::getMBeanCount, CALLS));
    } catch (CollectFailed e) {
      results.add(CheckResult.fail("Sign in", e.refusal()));
    } catch (IOException | JMException | RuntimeException e) {
      results.add(CheckResult.fail("Read its managed beans", JmxRefusals.of(target, e)));
    }
  }

  private String signedIn(Map<String, String> facts) {
    if (target.port() == 0) {
      return "attached to process " + facts.get("process");
    }
    return target.user().isEmpty() ? "it asks for no user" : "as " + target.user();
  }

  /** What of the recipe there is, and whether another one finds what it misses. */
  private CheckResult beans(MBeanServerConnection server, Map<BeanQuery, List<ObjectName>> names)
      throws IOException {
    FoundGroups found = FoundGroups.of(names);
    String name = "the recipe '" + recipe.recipe().name() + "'";
    for (LoadedRecipe other : others) {
      FoundGroups better = FoundGroups.of(new BeanNames(other.beans()).in(server));
      if (better.isBetterThan(found)) {
        return CheckResult.warn(
                BEANS,
                "of another make: " + name + " does not find " + words(found.missing()),
                "a recipe that finds them",
                "The recipe '"
                    + other.recipe().name()
                    + "' finds "
                    + words(better.there())
                    + ": choose it.",
                "")
            .proposing(other.key())
            .failing();
      }
    }
    if (found.there().isEmpty()) {
      return CheckResult.warn(
              BEANS,
              "none of those that " + name + " reads",
              "at least one",
              "No other recipe finds more: write one for its make.",
              "")
          .failing();
    }
    String missing = words(found.missing());
    return CheckResult.pass(
        BEANS,
        "there: " + words(found.there()) + (missing.isEmpty() ? "" : "; not there: " + missing));
  }

  /** Which counters are not told although the beans are there: of another version, most often. */
  private static CheckResult attributes(
      MBeanServerConnection server, Map<BeanQuery, List<ObjectName>> names)
      throws IOException, JMException {
    Set<String> told = new TreeSet<>();
    Map<String, String> lacking = new TreeMap<>();
    for (Map.Entry<BeanQuery, List<ObjectName>> entry : names.entrySet()) {
      BeanQuery query = entry.getKey();
      if (entry.getValue().isEmpty() || !query.special().isEmpty()) {
        continue;
      }
      ObjectName bean = entry.getValue().get(0);
      Set<String> there =
          Stream.of(server.getMBeanInfo(bean).getAttributes())
              .map(MBeanAttributeInfo::getName)
              .collect(Collectors.toSet());
      for (AttributeRead read : query.reads()) {
        if (there.contains(read.attribute())) {
          told.add(read.counter());
        } else {
          lacking.put(read.counter(), read.attribute() + " of " + bean);
        }
      }
    }
    // another make may tell it in another bean
    lacking.keySet().removeAll(told);
    String check = "Counters of this version";
    if (lacking.isEmpty()) {
      return CheckResult.pass(check, "all " + told.size() + " of these beans are told");
    }
    return CheckResult.warn(
        check,
        "not told: "
            + lacking.entrySet().stream()
                .map(e -> e.getKey() + " (" + e.getValue() + ")")
                .collect(Collectors.joining(", ")),
        "all " + (told.size() + lacking.size()),
        "This version does not have them: they stay empty. Leave them out of the recipe, or say"
            + " there where they are read now.",
        "");
  }

  private static String words(Set<String> groups) {
    return groups.stream().map(g -> g.replace('_', ' ')).collect(Collectors.joining(", "));
  }

  /** Whether it counts what its threads allocate; empty where there is no such switch. */
  private static Optional<CheckResult> allocation(MBeanServerConnection server)
      throws IOException, JMException {
    String name = "ThreadAllocatedMemoryEnabled";
    ObjectName threads = new ObjectName(ManagementFactory.THREAD_MXBEAN_NAME);
    Object on;
    try {
      on = server.getAttribute(threads, name);
    } catch (JMException e) {
      return Optional.empty();
    }
    String check = "Allocation by threads";
    return Optional.of(
        Boolean.TRUE.equals(on)
            ? CheckResult.pass(check, name + " is on")
            : CheckResult.warn(
                check,
                name + " is off",
                name + " = true",
                "Set this attribute there, as a user who may write.",
                threads + " " + name + " = true"));
  }

  /** Empty where it does not tell its time. Its start by its own clock, and on from there. */
  private static Optional<CheckResult> clock(MBeanServerConnection server)
      throws IOException, JMException {
    long start = RuntimeFacts.start(server);
    long began = System.nanoTime();
    long up = RuntimeFacts.up(server);
    long ours = System.currentTimeMillis();
    double took = (System.nanoTime() - began) / 1e9;
    if (up < 0) {
      return Optional.empty();
    }
    return Optional.of(Timing.clock((start + up - ours) / 1e3 + took / 2, took / 2));
  }
}
