package jamjar.collect.recipe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.limit.Rule;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class RecipeFileTest {
  static Stream<String> recipes() {
    return Stream.of("postgresql", "jvm", "tomcat", "stand-in", "jamjar");
  }

  @ParameterizedTest
  @MethodSource("recipes")
  void every_counter_of_a_shipped_recipe_says_what_it_means_what_to_do_and_what_matters(
      String key) {
    assertThat(RecipeFile.shipped(key).recipe().counters().values())
        .isNotEmpty()
        .allSatisfy(
            counter -> {
              assertThat(counter.meaning()).as(counter.key()).endsWith(".");
              assertThat(counter.suggests()).as(counter.key()).endsWith(".");
              assertThat(counter.matters()).as(counter.key()).isPositive();
            });
  }

  @Test
  void the_recipe_of_postgresql_has_at_least_sixty_counters() {
    assertThat(RecipeFile.shipped("postgresql").recipe().counters())
        .hasSizeGreaterThanOrEqualTo(60);
  }

  @ParameterizedTest
  @ValueSource(strings = {"postgresql", "jvm", "stand-in"})
  void every_counter_to_read_another_with_exists(String key) {
    var counters = RecipeFile.shipped(key).recipe().counters();
    assertThat(counters.values())
        .flatExtracting(CounterDefinition::readWith)
        .allSatisfy(other -> assertThat(counters).containsKey(other));
  }

  @Test
  void a_make_offers_what_its_beans_tell_of_what_it_is_based_on() {
    LoadedRecipe tomcat = RecipeFile.shipped("tomcat");
    assertThat(tomcat.recipe().kind()).isEqualTo("appserver");
    assertThat(tomcat.recipe().counters())
        .containsKeys("heap.used", "requests.busy_share", "pool.in_use_share", "web.active")
        // no queues there, and no time waited for connections
        .doesNotContainKeys("queue.pending", "pool.wait_time", "pool.mean_wait");
    assertThat(tomcat.limits())
        .allSatisfy(rule -> assertThat(rule.scope().of()).isEqualTo("appserver"))
        .extracting(Rule::counter)
        .contains("pool.waiting", "old_generation.floor_share")
        .doesNotContain("queue.oldest");
  }

  @Test
  void how_deep_it_digs_is_chosen_and_what_others_are_made_of_stays() {
    String text = "kind: postgresql\nname: Ours\nbasedOn: [postgresql]\ndepth: essential\n";
    LoadedRecipe ours = RecipeFile.read("ours", "ours.yaml", text, RecipeFile::shipped);
    LoadedRecipe all = RecipeFile.shipped("postgresql");
    assertThat(ours.recipe().counters())
        // shown first, with a limit, and the parts of one that has a limit
        .containsKeys("sessions.waiting_lock", "deadlocks", "blocks.hit_ratio", "blocks.read")
        .doesNotContainKeys("temporary.files", "tables.vacuums");
    assertThat(ours.limits()).hasSameSizeAs(all.limits());
    assertThat(ours.recipe().counters().size() + ours.left().size())
        .isEqualTo(all.recipe().counters().size());
    LoadedRecipe useful =
        RecipeFile.read(
            "ours", "ours.yaml", text.replace("essential", "useful"), RecipeFile::shipped);
    assertThat(useful.recipe().counters())
        .containsKey("temporary.files")
        .doesNotContainKey("tables.vacuums");
    assertThat(useful.depths()).containsEntry("tables.vacuums", Depth.DEEP);
  }

  @Test
  void what_is_left_out_takes_what_is_made_of_it_its_limits_and_its_reads_with_it() {
    String text = "kind: appserver\nname: Ours\nbasedOn: [tomcat]\nwithout: [pool.in_use]\n";
    LoadedRecipe ours = RecipeFile.read("ours", "ours.yaml", text, RecipeFile::shipped);
    assertThat(ours.left())
        .extracting(CounterDefinition::key)
        .containsExactly("pool.in_use", "pool.in_use_share");
    assertThat(ours.recipe().counters())
        .containsKey("pool.max")
        .doesNotContainKeys("pool.in_use", "pool.in_use_share");
    assertThat(ours.limits()).extracting(Rule::counter).doesNotContain("pool.in_use_share");
    assertThat(ours.beans())
        .flatExtracting(BeanQuery::reads)
        .extracting(AttributeRead::counter)
        .contains("pool.max")
        .doesNotContain("pool.in_use");
    // one that is based on it may define it anew
    String again =
        """
        kind: appserver
        name: Again
        basedOn: [ours]
        beans:
          - group: pools
            name: 'again:pool=*'
            labels: {pool: pool}
            read: [{counter: pool.in_use, attribute: Lent}]
        counters:
          - {key: pool.in_use, title: Lent, group: pools, shape: level, subject: pool, worse: up, meaning: Lent ones.}
        """;
    LoadedRecipe anew = RecipeFile.read("again", "again.yaml", again, base -> ours);
    assertThat(anew.recipe().counters()).containsKey("pool.in_use");
    assertThat(anew.left()).extracting(CounterDefinition::key).containsExactly("pool.in_use_share");
  }

  @Test
  void a_quotient_of_counters_that_are_read_apart_is_refused() {
    assertThatThrownBy(
            () ->
                read(
                    """
                    kind: x
                    name: X
                    paces: {fast: 10}
                    groups: {a: fast, b: fast}
                    counters:
                      - {key: one, title: One, group: a, shape: level, worse: up, meaning: One.}
                      - {key: two, title: Two, group: b, shape: level, worse: up, meaning: Two.}
                      - {key: q, title: Q, group: a, shape: quotient, worse: up, meaning: Q.,
                         numerator: one, denominators: [two]}
                    """))
        .hasMessage("own.yaml, line 8, counters[2].group: 'two' is read by another query");
  }

  @Test
  void what_is_good_at_zero_only_gets_worse_upwards() {
    String text =
        """
        kind: x
        name: X
        paces: {fast: 10}
        groups: {a: fast}
        counters:
          - {key: one, title: One, group: a, shape: level, worse: %s, trouble: true, meaning: One.}
        """;
    assertThat(read(text.formatted("up")).recipe().counters().get("one").trouble()).isTrue();
    assertThatThrownBy(() -> read(text.formatted("down")))
        .hasMessage(
            "own.yaml, line 6, counters[0].trouble: what is good at zero only gets worse when it"
                + " goes up");
    assertThat(RecipeFile.shipped("postgresql").recipe().counters().values())
        .filteredOn(CounterDefinition::trouble)
        .extracting(CounterDefinition::key)
        .contains("deadlocks", "sessions.waiting_lock")
        .doesNotContain("sessions.active");
  }

  @Test
  void all_faults_are_told_at_once_each_with_line_and_field() {
    RecipeFaulty faulty =
        catchThrowableOfType(
            RecipeFaulty.class,
            () ->
                read(
                    """
                    kind: appserver
                    name: Mine
                    basedOn: [jvm, nowhere]
                    paces: {fast: ten}
                    groups: {a: slow}
                    limits:
                      - {counter: one, condition: over, warning: 5}
                      - {counter: two, condition: above, warning: 5, hold: [4, 3]}
                    beans:
                      - group: a
                        name: 'no colon'
                        read: [{counter: one, attribute: A, scal: 3}, {counter: none, attribute: B}]
                    counters:
                      - key: one
                        title: One
                        group: a
                        shape: levle
                        worse: up
                    """));
    assertThat(faulty.faults())
        .extracting(fault -> fault.line() + " " + fault.field())
        .containsExactlyInAnyOrder(
            "3 basedOn[1]",
            "4 paces.fast",
            "5 groups.a",
            "7 limits[0].condition",
            "8 limits[1].counter",
            "8 limits[1].hold",
            "11 beans[0].name",
            "12 beans[0].read[0].scal",
            "12 beans[0].read[1].counter",
            "17 counters[0].shape",
            "14 counters[0].meaning");
    assertThat(faulty)
        .hasMessageContaining(
            "own.yaml, line 17, counters[0].shape: 'levle' is none of level, total, quotient")
        .hasMessageContaining("there is no recipe 'nowhere'");
  }

  @Test
  void the_instances_own_interval_rules_and_a_recipe_need_not_have_a_slow_pace() {
    LoadedRecipe mine =
        read(
            """
            kind: jvm
            name: Mine
            paces: {fast: 10, slow: 300}
            groups: {a: fast, b: slow}
            beans:
              - {group: a, name: 'a:b=c', read: [{counter: one, attribute: A}]}
              - {group: b, name: 'a:b=c', read: [{counter: two, attribute: B}]}
            counters:
              - {key: one, title: One, group: a, shape: level, worse: up, meaning: One.}
              - {key: two, title: Two, group: b, shape: level, worse: up, meaning: Two.}
            """);
    Schedule schedule = new Schedule(mine.recipe(), 2);
    assertThat(schedule.millis(mine.recipe().counters().get("one"))).isEqualTo(2_000);
    assertThat(schedule.millis(mine.recipe().counters().get("two"))).isEqualTo(300_000);
    assertThat(schedule.paces()).containsExactly(Pace.FAST, Pace.SLOW);
    Recipe fast = Recipe.without("postgresql");
    assertThat(new Schedule(fast, 5).seconds(Pace.SLOW)).isPositive();
    assertThat(new Schedule(fast, 5).paces()).isEmpty();
    assertThatThrownBy(() -> read("kind: jvm\nname: Mine\npaces: {now and then: 5}\n"))
        .hasMessageContaining("'now and then' is no pace: there are [fast, slow, minute]");
  }

  @Test
  void only_what_is_counted_of_statements_is_of_the_pace_by_the_minute() {
    Recipe shipped = RecipeFile.shipped("postgresql").recipe();
    Schedule schedule = new Schedule(shipped, 10);
    assertThat(schedule.millis(shipped.counters().get("statement.mean_time"))).isEqualTo(60_000);
    assertThat(Pace.MINUTE.isRead()).isFalse();
    assertThatThrownBy(
            () ->
                read("kind: jvm\nname: Mine\npaces: {fast: 5, minute: 60}\ngroups: {a: minute}\n"))
        .hasMessageContaining("group 'statement', and no other, is of the pace 'minute'");
    assertThatThrownBy(() -> read("kind: jvm\nname: Mine\npaces: {minute: 30}\n"))
        .hasMessageContaining("paces.minute: is 60 seconds: so it is counted");
  }

  @Test
  void what_would_only_fail_when_it_is_read_is_told_when_it_is_loaded() {
    assertThatThrownBy(
            () ->
                read(
                    """
                    kind: jvm
                    name: Mine
                    paces: {fast: 0}
                    groups: {a: fast}
                    beans:
                      - {group: a, name: 'a:b=c', special: floor, read: [{counter: one, attribute: A}]}
                    counters:
                      - {key: one, title: One, group: a, shape: level, worse: up, meaning: One.}
                    """))
        .hasMessageContaining("line 3, paces.fast: is at least 1 second")
        .hasMessageContaining("line 6, beans[0].read: 'floor' fills 3 counters");
    // written before it told its age
    assertThat(BeanQuery.fills(BeanQuery.FLOOR, 2)).isTrue();
    assertThat(BeanQuery.fills(BeanQuery.THREADS, 2)).isFalse();
  }

  @Test
  void a_fault_in_a_file_is_told_once_and_what_it_was_before_is_used_on(@TempDir Path folder)
      throws Exception {
    Path own = folder.resolve("own.yaml");
    Files.writeString(own, "kind: appserver\nname: Mine\nbasedOn: [appserver]\n");
    Files.writeString(
        folder.resolve("young.yaml"), "kind: appserver\nname: Young\nbasedOn: [own]\n");
    RecipeBook before = RecipeBook.read(folder, Optional.empty());
    assertThat(before.faults()).isEmpty();
    Files.writeString(own, "kind: appserver\nnam: Mine\nbasedOn: [appserver]\n");
    RecipeBook after = RecipeBook.read(folder, Optional.of(before));
    assertThat(after.faults())
        .extracting(Fault::toString)
        .doesNotHaveDuplicates()
        .anyMatch(fault -> fault.startsWith("own.yaml, line 2, nam: unknown"));
    assertThat(after.find("own").orElseThrow().recipe().name()).isEqualTo("Mine");
    assertThat(after.find("young").orElseThrow().recipe().counters()).containsKey("heap.used");
  }

  @Test
  void what_is_not_yaml_is_told_with_its_line() {
    assertThatThrownBy(() -> read("kind: a\nname: [b\n"))
        .hasMessageStartingWith("own.yaml, line 3: not YAML");
  }

  private static LoadedRecipe read(String text) {
    return RecipeFile.read(
        "own",
        "own.yaml",
        text,
        base -> {
          if (base.equals("nowhere")) {
            throw new IllegalArgumentException("there is no recipe 'nowhere'");
          }
          return RecipeFile.shipped(base);
        });
  }
}
