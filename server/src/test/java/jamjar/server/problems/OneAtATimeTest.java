package jamjar.server.problems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class OneAtATimeTest {
  private final OneAtATime one = new OneAtATime("Others just read.");

  @Test
  void the_next_begins_when_the_one_before_has_ended_be_it_by_a_failure() {
    assertThatThrownBy(
            () ->
                one.answer(
                    () -> {
                      throw new IllegalStateException("no more");
                    }))
        .hasMessage("no more");
    CountDownLatch begun = new CountDownLatch(1);
    CountDownLatch ends = new CountDownLatch(1);
    AtomicInteger there = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    CompletableFuture<Integer> first =
        CompletableFuture.supplyAsync(
            () ->
                one.answer(
                    () -> {
                      most.accumulateAndGet(there.incrementAndGet(), Math::max);
                      begun.countDown();
                      await(ends);
                      return there.decrementAndGet();
                    }));
    await(begun);
    CompletableFuture<Integer> second =
        CompletableFuture.supplyAsync(
            () ->
                one.answer(
                    () -> {
                      most.accumulateAndGet(there.incrementAndGet(), Math::max);
                      return there.decrementAndGet();
                    }));
    ends.countDown();
    assertThat(first.join()).isZero();
    assertThat(second.join()).isZero();
    assertThat(most).hasValue(1);
  }

  private static void await(CountDownLatch latch) {
    try {
      latch.await();
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }
}
