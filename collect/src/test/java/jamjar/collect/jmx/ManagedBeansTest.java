package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.Target.Tls;
import jamjar.collect.jmx.BeanAttribute.Inside;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A real JVM is looked around in. */
class ManagedBeansTest {
  private static ChildJvm jvm;

  @BeforeAll
  static void start() throws Exception {
    jvm =
        ChildJvm.start(
            Map.of("authenticate", "false", "ssl", "false"), "-Dvault.password=planted-secret");
  }

  @AfterAll
  static void end() {
    jvm.close();
  }

  @Test
  void all_beans_are_listed_with_what_can_be_read_of_them() throws Exception {
    try (ManagedBeans beans = ManagedBeans.of(jvm.target())) {
      ManagedBeans.All all = beans.all();
      assertThat(all.unasked()).isZero();
      assertThat(all.beans()).extracting(bean -> bean.name().split(":")[0]).isSorted();
      assertThat(all.beans())
          .filteredOn(bean -> bean.name().equals("java.lang:type=Memory"))
          .singleElement()
          .satisfies(bean -> assertThat(bean.attributes()).contains("HeapMemoryUsage", "Verbose"));
    }
  }

  @Test
  void numbers_are_found_inside_and_other_values_are_told_as_text() throws Exception {
    try (ManagedBeans beans = ManagedBeans.of(jvm.target())) {
      List<BeanAttribute> memory = answered(beans, "java.lang:type=Memory");
      BeanAttribute heap = named(memory, "HeapMemoryUsage");
      assertThat(heap.numbers())
          .extracting(Inside::path)
          .containsExactly(
              "HeapMemoryUsage.committed",
              "HeapMemoryUsage.init",
              "HeapMemoryUsage.max",
              "HeapMemoryUsage.used");
      // it was started with -Xmx64m, of which one survivor space does not count
      assertThat(heap.numbers().get(2).value() / (1 << 20)).isCloseTo(62, within(2.5));
      Inside verbose = named(memory, "Verbose").numbers().get(0);
      assertThat(verbose.flag()).isTrue();
      assertThat(verbose.value()).isZero();
      assertThat(named(memory, "ObjectName").numbers()).isEmpty();
      BeanAttribute names = named(answered(beans, "java.lang:type=Runtime"), "SpecName");
      assertThat(names.value()).isEqualTo("Java Virtual Machine Specification");
    }
  }

  @Test
  void one_that_can_not_be_read_leaves_the_others_alone_and_passwords_are_left_out()
      throws Exception {
    try (ManagedBeans beans = ManagedBeans.of(jvm.target())) {
      BeanAttribute threshold =
          named(answered(beans, "java.lang:name=Eden Space,type=MemoryPool"), "UsageThreshold");
      assertThat(threshold.value()).isEmpty();
      assertThat(threshold.why()).contains("not supported");
      BeanAttribute arguments = named(answered(beans, "java.lang:type=Runtime"), "InputArguments");
      assertThat(arguments.value()).contains("vault.password").doesNotContain("planted-secret");
    }
  }

  @Test
  void what_is_not_there_and_what_does_not_answer_are_told_apart() throws Exception {
    try (ManagedBeans beans = ManagedBeans.of(jvm.target())) {
      assertThatThrownBy(() -> beans.attributes("sails:type=None"))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessage("There is no such managed bean: sails:type=None");
      assertThatThrownBy(() -> beans.attributes("sails:type=*"))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessage("'sails:type=*' is not the name of a managed bean.");
    }
    Target nobody = new Target("127.0.0.1", ChildJvm.freePort(), "", Tls.OFF, "", "", "");
    CollectFailed failed =
        Assertions.catchThrowableOfType(CollectFailed.class, () -> ManagedBeans.of(nobody));
    assertThat(failed.refusal().reason()).isEqualTo(Reason.REFUSED);
  }

  /** One that did not answer soon on a busy machine is asked again, as a person would. */
  private static List<BeanAttribute> answered(ManagedBeans beans, String name) throws Exception {
    long until = System.nanoTime() + 60_000_000_000L;
    List<BeanAttribute> all = beans.attributes(name);
    while (all.stream().anyMatch(ManagedBeansTest::isLate) && System.nanoTime() < until) {
      Thread.sleep(50);
      all = beans.attributes(name);
    }
    return all;
  }

  private static boolean isLate(BeanAttribute attribute) {
    return attribute.why().contains("answer");
  }

  private static BeanAttribute named(List<BeanAttribute> attributes, String name) {
    return attributes.stream().filter(a -> a.name().equals(name)).findFirst().orElseThrow();
  }
}
