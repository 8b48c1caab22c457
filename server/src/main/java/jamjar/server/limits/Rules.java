package jamjar.server.limits;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Scope;
import jamjar.store.limits.RuleRow;
import java.time.Instant;
import java.util.Locale;
import java.util.TreeMap;

/** Rules as stored, as judged by, and as told to a person. */
final class Rules {

  private Rules() {}

  /** As judged by: one whose time off is over is on again. */
  static Rule rule(RuleRow row, Instant now) {
    boolean over = row.offUntil() != null && !now.isBefore(row.offUntil());
    return new Rule(
        row.id(),
        row.counter(),
        row.labels(),
        new Scope(Scope.Reach.valueOf(row.reach()), row.reachOf()),
        Condition.valueOf(row.condition()),
        row.warning(),
        row.critical(),
        hold(row.holdM(), row.holdN()),
        hold(row.criticalM(), row.criticalN()),
        row.clear(),
        row.criticalClear(),
        row.clearS(),
        row.against(),
        over ? null : row.isOn());
  }

  static RuleRow shipped(Rule rule, Instant now) {
    return new RuleRow(
        0,
        rule.counter(),
        new TreeMap<>(rule.labels()),
        rule.scope().reach().name(),
        rule.scope().of(),
        rule.condition().name(),
        rule.warning(),
        rule.critical(),
        rule.hold() == null ? null : rule.hold().m(),
        rule.hold() == null ? null : rule.hold().n(),
        rule.criticalHold() == null ? null : rule.criticalHold().m(),
        rule.criticalHold() == null ? null : rule.criticalHold().n(),
        rule.clear(),
        rule.criticalClear(),
        rule.clearSeconds(),
        rule.against(),
        rule.on(),
        "",
        null,
        true,
        now);
  }

  static RuleRow row(int id, LimitView.Body body, Instant now) {
    return new RuleRow(
        id,
        body.counter(),
        new TreeMap<>(body.labels()),
        body.scope().level().toUpperCase(Locale.ROOT),
        body.scope().of(),
        body.condition().toUpperCase(Locale.ROOT),
        body.warning(),
        body.critical(),
        body.hold() == null ? null : body.hold().m(),
        body.hold() == null ? null : body.hold().n(),
        body.criticalHold() == null ? null : body.criticalHold().m(),
        body.criticalHold() == null ? null : body.criticalHold().n(),
        body.clear().number(),
        body.criticalClear(),
        body.clear().seconds(),
        body.against(),
        body.on(),
        body.offReason().strip(),
        body.offUntil() == null ? null : Instant.ofEpochMilli(body.offUntil()),
        false,
        now);
  }

  /** As it was told to a person. */
  static RuleRow row(LimitView told, Instant now) {
    return new RuleRow(
        told.id(),
        told.counter(),
        new TreeMap<>(told.labels()),
        told.scope().level().toUpperCase(Locale.ROOT),
        told.scope().of(),
        told.condition().toUpperCase(Locale.ROOT),
        told.warning(),
        told.critical(),
        told.hold() == null ? null : told.hold().m(),
        told.hold() == null ? null : told.hold().n(),
        told.criticalHold() == null ? null : told.criticalHold().m(),
        told.criticalHold() == null ? null : told.criticalHold().n(),
        told.clear().number(),
        told.criticalClear(),
        told.clear().seconds(),
        told.against(),
        told.on(),
        told.offReason(),
        told.offUntil() == null ? null : Instant.ofEpochMilli(told.offUntil()),
        told.shipped(),
        now);
  }

  static LimitView view(RuleRow row) {
    return new LimitView(
        row.id(),
        row.counter(),
        row.labels(),
        new LimitView.Reach(row.reach().toLowerCase(Locale.ROOT), row.reachOf()),
        row.condition().toLowerCase(Locale.ROOT),
        row.warning(),
        row.critical(),
        told(row.holdM(), row.holdN()),
        told(row.criticalM(), row.criticalN()),
        new LimitView.Clear(row.clear(), row.clearS()),
        row.criticalClear(),
        row.against(),
        row.isOn(),
        row.offReason(),
        row.offUntil() == null ? null : row.offUntil().toEpochMilli(),
        row.shipped());
  }

  private static Rule.Hold hold(Integer m, Integer n) {
    return m == null || n == null ? null : new Rule.Hold(m, n);
  }

  private static LimitView.Hold told(Integer m, Integer n) {
    return m == null || n == null ? null : new LimitView.Hold(m, n);
  }
}
