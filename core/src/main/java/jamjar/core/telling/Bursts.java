package jamjar.core.telling;

import jamjar.core.telling.Plan.Recipient;
import jamjar.core.telling.Told.Kind;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** How much each recipient was sent of late: what is too much at once waits for a digest. */
final class Bursts {
  /** Within this time a recipient gets so many messages by themselves, ms. */
  static final long WINDOW = 300_000;

  static final int MOST = 4;

  private final Map<String, Window> windows = new HashMap<>();

  private static final class Window {
    private final Deque<Long> sent = new ArrayDeque<>();
    private final Map<AlertKey, Told.Item> held = new LinkedHashMap<>();
    private Recipient recipient;
    private String rule = "";
    private long digested = Long.MIN_VALUE / 2;
  }

  private Window window(String recipient) {
    return windows.computeIfAbsent(recipient, name -> new Window());
  }

  /** That somebody was sent one by itself. */
  void sent(String recipient, long at) {
    window(recipient).sent.add(at);
  }

  /** That somebody was sent a digest. */
  void digested(String recipient, long at) {
    window(recipient).digested = at;
  }

  /** Whether somebody may be sent one by itself just now. */
  boolean isRoom(String recipient, long at) {
    Window window = window(recipient);
    window.sent.removeIf(sent -> sent <= at - WINDOW);
    return window.sent.size() < MOST;
  }

  /** Keeps what is too much for their digest. */
  void hold(Recipient recipient, String rule, List<Told.Item> items) {
    Window window = window(recipient.name());
    window.recipient = recipient;
    window.rule = rule;
    items.forEach(item -> window.held.put(item.key(), item));
  }

  boolean isHolding() {
    return windows.values().stream().anyMatch(one -> !one.held.isEmpty());
  }

  /** The digests that are due, which are no longer held then. */
  List<Told> digests(long at) {
    List<Told> told = new ArrayList<>();
    for (Window window : windows.values()) {
      if (!window.held.isEmpty() && at - window.digested >= WINDOW) {
        window.digested = at;
        told.add(
            Told.ofMany(
                Kind.DIGEST, window.recipient, window.rule, at, List.copyOf(window.held.values())));
        window.held.clear();
      }
    }
    return told;
  }
}
