package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static org.assertj.core.api.Assertions.within;

import jamjar.collect.CheckResult;
import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.SelfSigned;
import jamjar.collect.Target;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Shape;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.SSLHandshakeException;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.SSLSocketFactory;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Against real JVMs, each a process of its own. */
class JmxCollectorTest {
  private static final String LABEL = "collected";
  private static final LoadedRecipe RECIPE = RecipeFile.shipped("jvm");
  private static final Map<String, String> OPEN = Map.of("authenticate", "false", "ssl", "false");
  private static ChildJvm jvm;

  @BeforeAll
  static void start() throws IOException {
    jvm = ChildJvm.labelled(LABEL, OPEN);
  }

  @AfterAll
  static void end() {
    jvm.close();
  }

  @Test
  void every_counter_of_the_recipe_is_told() throws Exception {
    try (JmxCollector collector =
        JmxCollector.of(jvm.target(), RECIPE, Pace.FAST, Clock.systemUTC())) {
      Reading reading = new Derived().of(collector);
      assertThat(RECIPE.recipe().counters().values())
          .filteredOn(counter -> counter.shape() != Shape.QUOTIENT)
          .extracting(CounterDefinition::key)
          // this collector has no cycles beside the program
          .filteredOn(key -> !key.startsWith("concurrent."))
          // and it is read without encryption
          .filteredOn(key -> !key.equals("certificate.left"))
          .isSubsetOf(reading.series().stream().map(SeriesKey::counter).toList());
    }
  }

  @Test
  void what_it_reads_is_what_the_tools_of_the_jdk_say() throws Exception {
    try (JmxCollector collector =
        JmxCollector.of(jvm.target(), RECIPE, Pace.FAST, Clock.systemUTC())) {
      Reading reading = new Derived().of(collector);
      String heap = jvm.tool("GC.heap_info");
      Matcher tenured =
          Pattern.compile("tenured generation\\s+total (\\d+)K, used (\\d+)K").matcher(heap);
      assertThat(tenured.find()).as(heap).isTrue();
      SeriesKey old = SeriesKey.of("memory.pool_used", "pool", "Tenured Gen");
      assertThat(reading.value(old) / 1024)
          .isCloseTo(Double.parseDouble(tenured.group(2)), within(64.0));
      // two megabytes are kept; what is left after a full collection holds them
      assertThat(reading.value(SeriesKey.of("old_generation.floor"))).isGreaterThan(2_000_000);
      Matcher threads =
          Pattern.compile("java.threads.live=(\\d+)").matcher(jvm.tool("PerfCounter.print"));
      assertThat(threads.find()).isTrue();
      // threads that answer calls come and go
      assertThat(reading.value(SeriesKey.of("threads.live")))
          .isCloseTo(Double.parseDouble(threads.group(1)), within(4.0));
    }
  }

  @Test
  void a_second_reading_has_increases_and_covers_the_time_by_the_clock_of_the_jvm()
      throws Exception {
    try (JmxCollector collector =
        JmxCollector.of(jvm.target(), RECIPE, Pace.FAST, Clock.systemUTC())) {
      Derived derived = new Derived();
      derived.of(collector);
      jvm.tool("GC.run");
      Reading reading = derived.of(collector);
      assertThat(reading.value(SeriesKey.of("collections.count"))).isGreaterThanOrEqualTo(1);
      double ran = reading.value(SeriesKey.of("process.run"));
      assertThat(ran).isPositive().isCloseTo(reading.elapsedMillis(), within(1000.0));
    }
  }

  @Test
  void what_was_allocated_around_a_reading_that_was_not_kept_has_no_value_and_is_not_zero()
      throws Exception {
    SeriesKey allocated = SeriesKey.of("memory.allocated");
    try (JmxCollector collector =
        JmxCollector.of(jvm.target(), RECIPE, Pace.FAST, Clock.systemUTC())) {
      Derived derived = new Derived();
      derived.of(collector);
      assertThat(derived.of(collector).value(allocated)).isPositive();
      collector.dropped();
      assertThat(derived.of(collector).value(allocated)).isNaN();
      assertThat(derived.of(collector).value(allocated)).isPositive();
    }
  }

  @Test
  void one_that_does_not_answer_by_itself_is_attached_to() throws Exception {
    try (ChildJvm quiet = ChildJvm.labelled(LABEL, Map.of(), "-Dmine=quiet")) {
      String what = ChildJvm.Sleeper.class.getName() + " " + LABEL;
      assertThat(LocalJvms.all())
          .filteredOn(found -> found.what().startsWith(what))
          .extracting(LocalJvms.Found::process)
          .contains(quiet.process(), jvm.process());
      assertThat(LocalJvms.all())
          .filteredOn(LocalJvms.Found::own)
          .extracting(LocalJvms.Found::process)
          .containsExactly(ProcessHandle.current().pid());
      // two run the same: which one is meant is not guessed
      Target either = new Target("", 0, what, Target.Tls.OFF, "", "", "");
      assertThat(refused(either)).isEqualTo(Reason.NAME_UNKNOWN);
      jvm.close();
      try (JmxCollector collector = JmxCollector.of(either, RECIPE, Pace.FAST, Clock.systemUTC())) {
        Reading reading = new Derived().of(collector);
        // where the kernel is asked too: more than the heap alone, less than the machine has
        assertThat(reading.value(SeriesKey.of("memory.resident"))).isBetween(1e7, 1e9);
      } finally {
        jvm = ChildJvm.labelled(LABEL, OPEN);
      }
    }
  }

  @Test
  void a_password_is_asked_for_and_a_wrong_one_refused(@TempDir Path folder) throws Exception {
    Path passwords = secret(folder.resolve("jmx.password"), "reader planted-secret\n");
    Path access = secret(folder.resolve("jmx.access"), "reader readonly\n");
    Map<String, String> options =
        Map.of(
            "ssl",
            "false",
            "authenticate",
            "true",
            "password.file",
            passwords.toString(),
            "access.file",
            access.toString());
    try (ChildJvm asks = ChildJvm.start(options)) {
      assertThat(refused(asks.target())).isEqualTo(Reason.SIGN_IN);
      Target wrong = asks.target("127.0.0.1", Target.Tls.OFF, "", "reader", "wrong");
      assertThat(refused(wrong)).isEqualTo(Reason.SIGN_IN);
      assertThat(JmxCheck.check(wrong, RECIPE, List.of()).toString())
          .doesNotContain("planted-secret");
      Target right = asks.target("127.0.0.1", Target.Tls.OFF, "", "reader", "planted-secret");
      assertThat(JmxCheck.check(right, RECIPE, List.of()))
          .allMatch(check -> check.outcome() == CheckResult.Outcome.PASS);
      try (JmxCollector collector = JmxCollector.of(right, RECIPE, Pace.FAST, Clock.systemUTC())) {
        // one who may only read sees the threads too: no operation of ours changes anything
        assertThat(new Derived().of(collector).value(SeriesKey.of("threads.live"))).isPositive();
      }
    }
  }

  @Test
  void tls_is_trusted_by_a_certificate_of_its_own(@TempDir Path folder) throws Exception {
    SelfSigned self = SelfSigned.of("localhost", folder);
    Map<String, String> options =
        Map.of("authenticate", "false", "ssl", "true", "registry.ssl", "true");
    try (ChildJvm encrypted =
        ChildJvm.start(
            options,
            "-Djavax.net.ssl.keyStore=" + self.store(),
            "-Djavax.net.ssl.keyStorePassword=" + SelfSigned.PASSWORD)) {
      Target.Tls checked = Target.Tls.CHECKED;
      assertThat(refused(encrypted.target("localhost", checked, "", "", "")))
          .isEqualTo(Reason.TLS_NOT_TRUSTED);
      assertThat(refused(encrypted.target("127.0.0.1", checked, self.pem(), "", "")))
          .isEqualTo(Reason.TLS_OTHER_NAME);
      Target trusted = encrypted.target("localhost", checked, self.pem(), "", "");
      try (JmxCollector collector =
          JmxCollector.of(trusted, RECIPE, Pace.FAST, Clock.systemUTC())) {
        Reading reading = new Derived().of(collector);
        assertThat(reading.value(SeriesKey.of("heap.used"))).isPositive();
        // it was made just now, for 90 days
        assertThat(reading.value(SeriesKey.of("certificate.left")) / 86_400)
            .isCloseTo(90, within(0.1));
        assertThat(reading.value(SeriesKey.of("own.reading_time"))).isPositive();
      }
      // one that is believed whoever it is says nothing to anybody else who goes there
      Target believed = encrypted.target("localhost", Target.Tls.ENCRYPTED, "", "", "");
      try (JmxCollector collector =
          JmxCollector.of(believed, RECIPE, Pace.FAST, Clock.systemUTC())) {
        assertThat(new Derived().of(collector).value(SeriesKey.of("heap.used"))).isPositive();
        assertThatThrownBy(
                () -> {
                  try (Socket socket =
                      SSLSocketFactory.getDefault().createSocket("localhost", believed.port())) {
                    ((SSLSocket) socket).startHandshake();
                  }
                })
            .isInstanceOf(SSLHandshakeException.class);
      }
    }
    // one that speaks no TLS is told apart
    assertThat(refused(jvm.target("127.0.0.1", Target.Tls.CHECKED, self.pem(), "", "")))
        .isEqualTo(Reason.TLS_NOT_OFFERED);
  }

  @Test
  void each_way_of_not_answering_has_its_own_words() throws Exception {
    try (ServerSocket silent = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      int port = silent.getLocalPort();
      assertThat(refused(new Target("127.0.0.1", port, "", Target.Tls.OFF, "", "", "")))
          .isEqualTo(Reason.TIMED_OUT);
      silent.close();
      assertThat(refused(new Target("127.0.0.1", port, "", Target.Tls.OFF, "", "", "")))
          .isEqualTo(Reason.REFUSED);
    }
    assertThat(refused(new Target("nowhere.invalid", 1, "", Target.Tls.OFF, "", "", "")))
        .isEqualTo(Reason.NAME_UNKNOWN);
    assertThat(refused(new Target("", 0, "no.such.Main", Target.Tls.OFF, "", "", "")))
        .isEqualTo(Reason.NAME_UNKNOWN);
  }

  private static Reason refused(Target target) {
    try (JmxCollector collector = JmxCollector.of(target, RECIPE, Pace.FAST, Clock.systemUTC())) {
      return catchThrowableOfType(CollectFailed.class, collector::read).refusal().reason();
    }
  }

  private static Path secret(Path file, String text) throws IOException {
    Files.createFile(
        file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    return Files.writeString(file, text);
  }

  /** What is kept of raw readings, one after the other. */
  private static final class Derived {
    private Optional<LastTotals> last = Optional.empty();

    Reading of(JmxCollector collector) throws CollectFailed {
      Increases.Step step = Increases.derive(last, collector.read(), RECIPE.recipe());
      last = Optional.of(step.last());
      return step.reading();
    }
  }
}
