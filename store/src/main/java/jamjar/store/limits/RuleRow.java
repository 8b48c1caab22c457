package jamjar.store.limits;

import java.time.Instant;
import java.util.SortedMap;

/**
 * A rule as stored; see {@link jamjar.core.limit.Rule} for what its numbers mean and what null
 * stands for.
 *
 * @param id 0 before it is stored
 * @param offReason why it was switched off
 * @param offUntil when it is on again by itself; null for never
 * @param shipped whether it came with Jam Jar and was not changed since
 */
public record RuleRow(
    int id,
    String counter,
    SortedMap<String, String> labels,
    String reach,
    String reachOf,
    String condition,
    Double warning,
    Double critical,
    Integer holdM,
    Integer holdN,
    Integer criticalM,
    Integer criticalN,
    Double clear,
    Double criticalClear,
    Integer clearS,
    Double against,
    Boolean isOn,
    String offReason,
    Instant offUntil,
    boolean shipped,
    Instant changedAt) {}
