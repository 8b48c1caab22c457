package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.CheckResult;
import jamjar.collect.CheckResult.Outcome;
import jamjar.collect.SelfSigned;
import jamjar.collect.Target;
import jamjar.collect.Target.Tls;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.store.cluster.OtherClock;
import java.lang.management.ManagementFactory;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.management.Attribute;
import javax.management.ObjectName;
import javax.management.remote.JMXConnector;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What keeps a JVM from being read is told, and what is advised is done to it and cures it. */
class JmxCheckTest {
  private static final LoadedRecipe RECIPE = RecipeFile.shipped("jvm");
  private static final Map<String, String> OPEN = Map.of("authenticate", "false", "ssl", "false");

  @Test
  void one_that_does_not_listen_does_so_with_the_advised_options() throws Exception {
    int port = ChildJvm.freePort();
    Target target = new Target("127.0.0.1", port, "", Tls.OFF, "", "", "");
    CheckResult reach = check(target, "Reach");
    assertThat(reach.found())
        .isEqualTo("refused: JMX at 127.0.0.1:" + port + "; nobody listens there");
    assertThat(reach.restartNeeded()).isTrue();
    String prefix = "-Dcom.sun.management.jmxremote.";
    try (ChildJvm started =
        ChildJvm.with(
            reach.fix().lines().toList(), prefix + "authenticate=false", prefix + "ssl=false")) {
      assertThat(JmxCheck.check(target, RECIPE, List.of())).noneMatch(CheckResult::fails);
      assertThat(check(target, "Sign in").found()).isEqualTo("it asks for no user");
    }
  }

  @Test
  void one_that_hands_on_to_an_address_of_another_network_is_cured_by_the_advised_options()
      throws Exception {
    List<String> fix;
    try (ChildJvm elsewhere = ChildJvm.start(OPEN, "-Djava.rmi.server.hostname=inside.invalid")) {
      CheckResult handed = check(elsewhere.target(), "Handed on");
      assertThat(handed.outcome()).isEqualTo(Outcome.FAIL);
      assertThat(handed.found())
          .startsWith("name unknown: connecting to inside.invalid:")
          .contains("where " + elsewhere.target().address() + " hands on to");
      assertThat(handed.restartNeeded()).isTrue();
      fix = handed.fix().lines().toList();
    }
    int port = Integer.parseInt(fix.get(1).replaceAll(".*=", ""));
    String jmx = "-Dcom.sun.management.jmxremote.";
    try (ChildJvm cured =
        ChildJvm.with(fix, jmx + "port=" + port, jmx + "authenticate=false", jmx + "ssl=false")) {
      assertThat(
              JmxCheck.check(
                  new Target("127.0.0.1", port, "", Tls.OFF, "", "", ""), RECIPE, List.of()))
          .noneMatch(CheckResult::fails);
    }
  }

  @Test
  void a_user_whom_it_does_not_know_is_let_in_by_the_advised_lines(@TempDir Path folder)
      throws Exception {
    Path passwords = secret(folder.resolve("jmx.password"), "other pw\n");
    Path access = secret(folder.resolve("jmx.access"), "other readonly\n");
    Map<String, String> options = new HashMap<>();
    options.put("ssl", "false");
    options.put("authenticate", "true");
    options.put("password.file", passwords.toString());
    options.put("access.file", access.toString());
    String[] fix;
    try (ChildJvm asks = ChildJvm.start(options)) {
      CheckResult refused = check(as("reader", asks), "Sign in");
      assertThat(refused.outcome()).isEqualTo(Outcome.FAIL);
      assertThat(refused.restartNeeded()).isTrue();
      fix = refused.fix().split("\n");
    }
    Files.writeString(passwords, fix[0].replace("…", "planted-secret") + "\n");
    Files.writeString(access, fix[1] + "\n");
    try (ChildJvm knows = ChildJvm.start(options)) {
      List<CheckResult> all = JmxCheck.check(as("reader", knows), RECIPE, List.of());
      assertThat(all).noneMatch(CheckResult::fails);
      assertThat(all.toString()).doesNotContain("planted-secret");
    }
  }

  @Test
  void certificates_that_are_missing_expired_or_of_another_name_are_told_apart(@TempDir Path folder)
      throws Exception {
    try (ChildJvm plain = ChildJvm.start(OPEN)) {
      Target wanted = plain.target("localhost", Tls.CHECKED, "", "", "");
      assertThat(check(wanted, "Encryption").found()).startsWith("TLS not offered");
    }
    SelfSigned expired = SelfSigned.of("localhost", folder, "-10d", 5);
    try (ChildJvm old = encrypted(expired)) {
      assertThat(check(trusting(old, "localhost", expired.pem()), "Certificate").found())
          .startsWith("expired: it was valid until ");
    }
    SelfSigned good = SelfSigned.of("localhost", folder);
    try (ChildJvm fine = encrypted(good)) {
      assertThat(check(trusting(fine, "localhost", ""), "Certificate").found())
          .startsWith("from an unknown issuer: CN=localhost (it signed itself)");
      assertThat(check(trusting(fine, "127.0.0.1", good.pem()), "Certificate").found())
          .isEqualTo("of another name: it is of localhost");
      assertThat(JmxCheck.check(trusting(fine, "localhost", good.pem()), RECIPE, List.of()))
          .allMatch(result -> result.outcome() == Outcome.PASS);
    }
  }

  @Test
  void a_switch_that_is_off_is_cured_by_setting_the_advised_attribute() throws Exception {
    try (ChildJvm jvm = ChildJvm.start(OPEN)) {
      set(jvm, ManagementFactory.THREAD_MXBEAN_NAME, "ThreadAllocatedMemoryEnabled", false);
      CheckResult off = check(jvm.target(), "Allocation by threads");
      assertThat(off.outcome()).isEqualTo(Outcome.WARN);
      String[] words = off.fix().split(" ");
      set(jvm, words[0], words[1], Boolean.valueOf(words[3]));
      assertThat(check(jvm.target(), "Allocation by threads").outcome()).isEqualTo(Outcome.PASS);
    }
  }

  @Test
  void a_wrong_clock_is_told_with_how_wrong_it_is() throws Exception {
    try (ChildJvm behind = ChildJvm.start(OtherClock.ahead("-90s"), OPEN)) {
      CheckResult clock = check(behind.target(), "Clock");
      assertThat(clock.outcome()).isEqualTo(Outcome.WARN);
      assertThat(clock.found()).matches("(89|90)\\.\\d s behind ours");
    }
  }

  @Test
  void a_name_and_a_listener_that_are_none_are_told_apart() throws Exception {
    Target unknown = new Target("nowhere.invalid", 9010, "", Tls.OFF, "", "", "");
    assertThat(check(unknown, "Name").found()).startsWith("name unknown: ");
    try (ServerSocket silent = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
      Target there = new Target("127.0.0.1", silent.getLocalPort(), "", Tls.OFF, "", "", "");
      assertThat(check(there, "Protocol").found()).startsWith("timed out: JMX at 127.0.0.1:");
    }
  }

  @Test
  void a_recipe_of_another_make_is_told_and_the_one_that_fits_is_proposed() throws Exception {
    try (ChildJvm jvm = ChildJvm.start(OPEN)) {
      LoadedRecipe other = sails("Halyard", "halyard:service=Sails");
      CheckResult beans = beans(jvm, other, RECIPE);
      assertThat(beans.outcome()).isEqualTo(Outcome.FAIL);
      assertThat(beans.found()).isEqualTo("none of those that the recipe 'Halyard' reads");
      // the one for JVMs knows of no sails: it would be no better
      assertThat(beans.recipe()).isEmpty();

      LoadedRecipe fits = sails("Topsail", "java.lang:type=Runtime");
      beans = beans(jvm, other, RECIPE, fits);
      assertThat(beans.outcome()).isEqualTo(Outcome.FAIL);
      assertThat(beans.found())
          .isEqualTo("of another make: the recipe 'Halyard' does not find sails");
      assertThat(beans.recipe()).isEqualTo("topsail");
      assertThat(beans(jvm, fits, RECIPE, other).outcome()).isEqualTo(Outcome.PASS);
    }
  }

  @Test
  void counters_that_this_version_does_not_tell_are_named() throws Exception {
    try (ChildJvm jvm = ChildJvm.start(OPEN)) {
      assertThat(check(jvm.target(), "Counters of this version").outcome()).isEqualTo(Outcome.PASS);
      CheckResult lacking =
          JmxCheck.check(jvm.target(), sails("Topsail", "java.lang:type=Runtime"), List.of())
              .stream()
              .filter(result -> result.check().equals("Counters of this version"))
              .findFirst()
              .orElseThrow();
      assertThat(lacking.outcome()).isEqualTo(Outcome.WARN);
      assertThat(lacking.found())
          .isEqualTo("not told: sails.torn (Torn of java.lang:type=Runtime)");
    }
  }

  private static LoadedRecipe sails(String name, String bean) {
    return RecipeFile.read(
        name.toLowerCase(Locale.ROOT),
        name + ".yaml",
        """
        kind: appserver
        name: %s
        paces: {fast: 10}
        groups: {sails: fast}
        beans:
          - {group: sails, name: '%s', read: [{counter: sails.torn, attribute: Torn}]}
        counters:
          - {key: sails.torn, title: Torn, group: sails, shape: level, worse: up, meaning: Torn ones.}
        """
            .formatted(name, bean),
        base -> RECIPE);
  }

  private static CheckResult beans(ChildJvm jvm, LoadedRecipe chosen, LoadedRecipe... others) {
    return JmxCheck.check(jvm.target(), chosen, List.of(others)).stream()
        .filter(result -> result.check().equals("Managed beans"))
        .findFirst()
        .orElseThrow();
  }

  private static void set(ChildJvm jvm, String bean, String name, Object value) throws Exception {
    try (JMXConnector connector = JmxConnector.open(jvm.target())) {
      connector
          .getMBeanServerConnection()
          .setAttribute(new ObjectName(bean), new Attribute(name, value));
    }
  }

  private static ChildJvm encrypted(SelfSigned certificate) throws Exception {
    return ChildJvm.start(
        Map.of("authenticate", "false", "ssl", "true", "registry.ssl", "true"),
        "-Djavax.net.ssl.keyStore=" + certificate.store(),
        "-Djavax.net.ssl.keyStorePassword=" + SelfSigned.PASSWORD);
  }

  private static Target trusting(ChildJvm jvm, String host, String ca) {
    return jvm.target(host, Tls.CHECKED, ca, "", "");
  }

  private static Target as(String user, ChildJvm jvm) {
    return jvm.target("127.0.0.1", Tls.OFF, "", user, "planted-secret");
  }

  private static CheckResult check(Target target, String name) {
    List<CheckResult> all = JmxCheck.check(target, RECIPE, List.of());
    return all.stream()
        .filter(result -> result.check().equals(name))
        .findFirst()
        .orElseThrow(() -> new AssertionError("no check '" + name + "' among " + all));
  }

  static Path secret(Path file, String text) throws Exception {
    Files.createFile(
        file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    return Files.writeString(file, text);
  }
}
