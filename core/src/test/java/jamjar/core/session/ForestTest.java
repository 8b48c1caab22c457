package jamjar.core.session;

import static jamjar.core.session.Made.rests;
import static jamjar.core.session.Made.sample;
import static jamjar.core.session.Made.waits;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ForestTest {
  private static Sample.Lock lock(int pid, boolean granted, String mode, String object) {
    return new Sample.Lock(pid, granted, "relation", mode, object);
  }

  @Test
  void counts_each_waiter_once_under_each_root() {
    // 1 holds up 2 and 3; 3 holds up 4; 5 waits for 1 and for 6
    Forest forest =
        Forest.of(
            sample(
                List.of(
                    rests(1, 60_000),
                    waits(2, 4_000, 1),
                    waits(3, 3_000, 1),
                    waits(4, 2_000, 3),
                    waits(5, 1_000, 1, 6),
                    rests(6, 9_000))));
    assertThat(forest.roots()).extracting(Forest.Root::pid).containsExactly(1, 6);
    Forest.Root first = forest.roots().get(0);
    assertThat(first.waiters()).isEqualTo(4);
    assertThat(first.onlyBecause()).isEqualTo(3);
    assertThat(first.longestMs()).isEqualTo(4_000);
    assertThat(first.totalMs()).isEqualTo(10_000);
    assertThat(first.depth()).isEqualTo(2);
    assertThat(first.below()).extracting(node -> node.session().pid()).containsExactly(2, 3, 5);
    assertThat(first.below()).extracting(Forest.Node::frees).containsExactly(0, 1, 0);
    assertThat(first.below().get(1).below())
        .extracting(node -> node.session().pid())
        .containsExactly(4);
    Forest.Root second = forest.roots().get(1);
    assertThat(second.waiters()).isEqualTo(1);
    assertThat(second.onlyBecause()).isZero();
    assertThat(forest.cycles()).isEmpty();
  }

  @Test
  void shows_a_second_time_only_as_a_reference() {
    // 4 waits for 2 and for 3, and 5 for 4
    Forest.Root root =
        Forest.of(
                sample(
                    List.of(
                        rests(1, 60_000),
                        waits(2, 4_000, 1),
                        waits(3, 3_000, 1),
                        waits(4, 2_000, 2, 3),
                        waits(5, 1_000, 4))))
            .roots()
            .get(0);
    assertThat(root.waiters()).isEqualTo(4);
    assertThat(root.totalMs()).isEqualTo(10_000);
    Forest.Node once = root.below().get(0).below().get(0);
    Forest.Node again = root.below().get(1).below().get(0);
    assertThat(once.session().pid()).isEqualTo(again.session().pid()).isEqualTo(4);
    assertThat(once.reference()).isFalse();
    assertThat(once.below()).hasSize(1);
    assertThat(again.reference()).isTrue();
    assertThat(again.below()).isEmpty();
  }

  @Test
  void names_who_is_ahead_in_the_queue_and_how_many_it_would_free() {
    List<Session> sessions = new ArrayList<>();
    sessions.add(Made.busy(1, "report", 5, 600_000));
    sessions.add(waits(2, 30_000, 1));
    List<Sample.Lock> locks = new ArrayList<>();
    locks.add(lock(1, true, "AccessShareLock", "relation berth"));
    locks.add(lock(2, false, "AccessExclusiveLock", "relation berth"));
    for (int pid = 3; pid < 43; pid++) {
      sessions.add(waits(pid, 20_000, 2));
      locks.add(lock(pid, false, "AccessShareLock", "relation berth"));
    }
    Forest forest = Forest.of(sample(sessions, locks.toArray(Sample.Lock[]::new)));
    assertThat(forest.roots())
        .singleElement()
        .satisfies(r -> assertThat(r.waiters()).isEqualTo(41));
    assertThat(forest.queues())
        .singleElement()
        .satisfies(
            queue -> {
              assertThat(queue.session().pid()).isEqualTo(2);
              assertThat(queue.frees()).isEqualTo(40);
            });
    Forest.Node ahead = forest.roots().get(0).below().get(0);
    assertThat(ahead.ahead()).isFalse();
    assertThat(ahead.below()).allSatisfy(node -> assertThat(node.ahead()).isTrue());
    assertThat(ahead.wanted()).hasValueSatisfying(l -> assertThat(l.granted()).isFalse());
  }

  @Test
  void a_long_queue_stands_below_who_has_what_it_wants() {
    List<Session> sessions = new ArrayList<>(List.of(rests(1, 60_000)));
    List<Sample.Lock> locks = new ArrayList<>();
    locks.add(lock(1, true, "AccessExclusiveLock", "berth"));
    List<Integer> before = new ArrayList<>(List.of(1));
    for (int pid = 2; pid < 1_202; pid++) {
      // each waits for all before it
      sessions.add(waits(pid, 50_000 - pid, before.toArray(Integer[]::new)));
      locks.add(lock(pid, false, "AccessExclusiveLock", "berth"));
      before.add(pid);
    }
    Forest forest = Forest.of(sample(sessions, locks.toArray(Sample.Lock[]::new)));
    Forest.Root root = forest.roots().get(0);
    assertThat(root.waiters()).isEqualTo(1_200);
    assertThat(root.onlyBecause()).isEqualTo(1_200);
    assertThat(root.below()).hasSize(1_200);
    assertThat(root.depth()).isEqualTo(1);
  }

  @Test
  void of_many_roots_with_many_waiters_not_every_line_is_told_but_all_are_counted() {
    List<Session> sessions = new ArrayList<>();
    List<Integer> readers = new ArrayList<>();
    for (int pid = 1; pid <= 60; pid++) {
      sessions.add(rests(pid, 60_000));
      readers.add(pid);
    }
    sessions.add(waits(100, 30_000, readers.toArray(Integer[]::new)));
    for (int pid = 101; pid <= 600; pid++) {
      sessions.add(waits(pid, 20_000, 100));
    }
    Forest forest = Forest.of(sample(sessions));
    assertThat(forest.roots()).hasSize(60);
    assertThat(forest.roots()).allSatisfy(root -> assertThat(root.waiters()).isEqualTo(501));
    assertThat(forest.roots()).allSatisfy(root -> assertThat(root.onlyBecause()).isZero());
    long lines =
        forest.roots().stream()
            .flatMap(root -> root.below().stream())
            .mapToLong(node -> 1 + node.below().size())
            .sum();
    assertThat(lines).isBetween(2_000L, 2_600L);
  }

  @Test
  void keeps_the_waiters_of_one_that_is_gone() {
    Forest.Root root = Forest.of(sample(List.of(waits(2, 500, 77)))).roots().get(0);
    assertThat(root.pid()).isEqualTo(77);
    assertThat(root.session()).isEmpty();
    assertThat(root.waiters()).isEqualTo(1);
  }

  @Test
  void finds_each_circle_once() {
    Forest forest =
        Forest.of(
            sample(List.of(waits(5, 10, 3), waits(3, 10, 8), waits(8, 10, 5), waits(9, 10, 8))));
    assertThat(forest.roots()).isEmpty();
    assertThat(forest.cycles()).containsExactly(List.of(3, 8, 5));
  }
}
