package jamjar.server.live;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.live.Greeting.Told;
import jamjar.server.security.Scope;
import jamjar.server.security.Sight;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** A stream whose client takes nothing for a while. */
class LiveStreamTest {
  private final List<String> sent = new ArrayList<>();
  private final Deque<Runnable> waiting = new ArrayDeque<>();
  private final LiveStream stream =
      new LiveStream(
          new SseEmitter() {
            @Override
            public void send(SseEventBuilder builder) {
              sent.add(
                  builder.build().stream()
                      .map(part -> String.valueOf(part.getData()))
                      .collect(Collectors.joining())
                      .replace("\n", " "));
            }
          },
          Set.of(1),
          () -> Optional.of(new Sight(Scope.ALL, List.of())),
          waiting::add,
          gone -> {});

  @Test
  void a_thousand_instances_do_not_overflow_it_when_it_is_opened() {
    for (int instance = 1; instance <= 1000; instance++) {
      stream.send(state(instance, "starting"));
    }
    taken();
    assertThat(sent).hasSize(1000).noneMatch(event -> event.contains("reload"));
  }

  @Test
  void of_what_takes_each_others_place_the_latest_waits() {
    for (int i = 0; i < 5000; i++) {
      stream.send(state(i % 3, "turn " + i));
    }
    taken();
    assertThat(sent).hasSize(3);
    assertThat(sent.toString()).contains("turn 4999").doesNotContain("turn 4990");
  }

  @Test
  void what_is_too_much_for_it_is_dropped_and_it_is_told_to_reload() {
    for (int i = 0; i < 2000; i++) {
      stream.send(new Told("reading", 1, "1@" + i, "", "reading " + i));
      stream.send(state(7, "at " + i));
    }
    taken();
    assertThat(sent.size()).isLessThanOrEqualTo(502);
    assertThat(sent).filteredOn(event -> event.contains("reload")).hasSize(1);
    assertThat(sent.toString()).contains("at 1999").contains("reading 1999");
  }

  private static Told state(int instance, String what) {
    return new Told("state", instance, "", "state/" + instance, what);
  }

  private void taken() {
    while (!waiting.isEmpty()) {
      waiting.poll().run();
    }
  }
}
