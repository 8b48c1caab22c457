package jamjar.server.alerts;

import jamjar.core.limit.Bundles;
import jamjar.core.limit.Bundles.Bundle;
import jamjar.core.limit.Bundles.Risen;
import jamjar.core.limit.Condition;
import jamjar.server.instances.Uses;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.alerts.AlertRow;
import jamjar.store.instances.InstanceRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Finds out of each alert that rises which others it belongs to: once, and for good. */
@Component
class Bundling {
  private static final Logger LOG = LoggerFactory.getLogger(Bundling.class);

  /** More are looked at the next second. */
  private static final int MOST = 200;

  private final Store store;

  Bundling(Store store) {
    this.store = store;
  }

  @Scheduled(fixedDelay = 1000)
  void look() {
    try {
      bundle();
    } catch (RuntimeException e) {
      if (!StoreAway.is(e)) {
        LOG.warn("event=not-bundled why=\"{}\"", e.getMessage());
      }
    }
  }

  /** What rose until now belongs somewhere after it; of a flood the oldest. */
  synchronized void bundle() {
    List<AlertRow> risen = store.alerts().unbundled(MOST);
    if (risen.isEmpty()) {
      return;
    }
    Map<Integer, InstanceRow> instances =
        store.instances().all().stream().collect(Collectors.toMap(InstanceRow::id, i -> i));
    Map<String, Integer> byName =
        instances.values().stream().collect(Collectors.toMap(InstanceRow::name, InstanceRow::id));
    for (AlertRow row : risen) {
      Risen one = risen(row, instances, byName);
      Instant from = row.since().minusMillis(Bundles.WITHIN);
      Instant to = row.since().plusMillis(Bundles.WITHIN);
      Map<Long, List<Risen>> there = new LinkedHashMap<>();
      for (AlertRow other : store.alerts().bundled(from, to)) {
        List<Risen> all = there.computeIfAbsent(other.bundle(), b -> new ArrayList<>());
        // the first of a bundle may have begun after another one of it
        all.add(other.id() == other.bundle() ? 0 : all.size(), risen(other, instances, byName));
      }
      long bundle =
          Bundles.of(one, there.values().stream().map(Bundle::new).toList())
              .map(Bundle::first)
              .orElse(row.id());
      store.alerts().bundle(row.id(), bundle);
    }
  }

  private static Risen risen(
      AlertRow row, Map<Integer, InstanceRow> instances, Map<String, Integer> byName) {
    InstanceRow instance = instances.get(row.instance());
    long since = row.since().toEpochMilli();
    About about = About.of(row, instance);
    if (instance == null || !about.ofInstance()) {
      int of = instance == null ? row.instance() : 0;
      return new Risen(row.id(), since, of, about.group(), about.site(), Set.of());
    }
    boolean silent = row.condition().equals(Condition.SILENT.name());
    Set<Integer> uses =
        Uses.of(instance, row.labels().values()).stream()
            .map(byName::get)
            .filter(Objects::nonNull)
            .collect(Collectors.toSet());
    return new Risen(
        row.id(), since, row.instance(), instance.groupName(), silent ? instance.site() : "", uses);
  }
}
