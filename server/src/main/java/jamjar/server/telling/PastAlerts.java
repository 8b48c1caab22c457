package jamjar.server.telling;

import static java.util.stream.Collectors.groupingBy;

import jamjar.core.telling.Happened;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.TransitionRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Alerts of the past, as they were heard of then. */
final class PastAlerts {
  private static final Instant FOR_EVER = Instant.parse("9999-01-01T00:00:00Z");
  private static final int AT_ONCE = 1_000;
  private final Store store;
  private final Catalogue catalogue;
  private final List<String> keys = new ArrayList<>();

  PastAlerts(Store store, Catalogue catalogue) {
    this.store = store;
    this.catalogue = catalogue;
  }

  /** Of all alerts that were open then, or since. */
  List<Happened> since(Instant from) {
    return of(store.alerts().touching(from, FOR_EVER, null, Integer.MAX_VALUE));
  }

  /** The keys of all that were asked for. */
  String[] keys() {
    return keys.toArray(String[]::new);
  }

  /** Of all alerts that began in a time. */
  List<Happened> begunIn(Instant from, Instant to) {
    return of(
        store.alerts().touching(from, to, null, Integer.MAX_VALUE).stream()
            .filter(row -> !row.since().isBefore(from))
            .toList());
  }

  private List<Happened> of(List<AlertRow> rows) {
    List<Happened> all = new ArrayList<>();
    for (int i = 0; i < rows.size(); i += AT_ONCE) {
      List<AlertRow> some = rows.subList(i, Math.min(rows.size(), i + AT_ONCE));
      Map<Long, List<TransitionRow>> transitions =
          store.alerts().transitions(some.stream().mapToLong(AlertRow::id).toArray()).stream()
              .collect(groupingBy(TransitionRow::alert));
      some.stream()
          // judged over what was kept, and told to nobody
          .filter(row -> !row.afterwards())
          .forEach(row -> add(row, transitions.getOrDefault(row.id(), List.of()), all));
    }
    return all;
  }

  private void add(AlertRow row, List<TransitionRow> transitions, List<Happened> all) {
    all.addAll(Heard.of(row, transitions, catalogue));
    Heard.key(row, transitions).ifPresent(key -> keys.add(key.words()));
  }
}
