package jamjar.server.limits;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Threshold;
import jamjar.server.numbers.Numbers;
import java.util.Locale;

/**
 * What is in force for one series under one condition, with its origin.
 *
 * @param series 0 for the whole instance
 * @param rule number of the nearest limit
 * @param warning null when there is none
 * @param warningFrom kind, group or instance; empty when there is none
 * @param clear of the lowest of the two numbers
 * @param clearSeconds how long it must stay beyond clear
 * @param every seconds between two judgings
 * @param against the minute of the day at which it is due, or the value that will be reached; null
 *     for none
 */
public record LimitInForce(
    int series,
    int rule,
    String condition,
    @Schema(types = {"number", "null"}) Double warning,
    String warningFrom,
    @Schema(types = {"number", "null"}) Double critical,
    String criticalFrom,
    LimitView.Hold hold,
    LimitView.Hold criticalHold,
    double clear,
    int clearSeconds,
    int every,
    @Schema(types = {"number", "null"}) Double against) {

  public static LimitInForce of(int series, InForce inForce) {
    Threshold warning = inForce.limit().warning();
    Threshold critical = inForce.limit().critical();
    Threshold lowest = warning.present() ? warning : critical;
    return new LimitInForce(
        series,
        inForce.rule().id(),
        inForce.limit().condition().name().toLowerCase(Locale.ROOT),
        warning.present() ? warning.number() : null,
        from(inForce.warningFrom()),
        critical.present() ? critical.number() : null,
        from(inForce.criticalFrom()),
        new LimitView.Hold(lowest.m(), lowest.n()),
        new LimitView.Hold(critical.m(), critical.n()),
        lowest.clear(),
        (int) (inForce.limit().clearMillis() / 1000),
        (int) (inForce.limit().stepMillis() / 1000),
        Numbers.known(inForce.limit().against()));
  }

  private static String from(Rule rule) {
    return rule == null ? "" : rule.scope().reach().name().toLowerCase(Locale.ROOT);
  }
}
