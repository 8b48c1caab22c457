package jamjar.core.telling;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import java.util.List;

/** Which alerts a rule is for: of each list any, of an empty one all. */
public record Fits(
    List<String> sites,
    List<String> groups,
    List<String> instances,
    List<String> tags,
    List<String> counters,
    List<Condition> conditions,
    List<Severity> severities) {
  public static final Fits ALL =
      new Fits(List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());

  public Fits {
    sites = List.copyOf(sites);
    groups = List.copyOf(groups);
    instances = List.copyOf(instances);
    tags = List.copyOf(tags);
    counters = List.copyOf(counters);
    conditions = List.copyOf(conditions);
    severities = List.copyOf(severities);
  }

  public boolean hold(Subject subject, Condition condition, Severity severity) {
    return any(sites, subject.site())
        && any(groups, subject.group())
        && any(instances, subject.name())
        && (tags.isEmpty() || tags.stream().anyMatch(subject.tags()::contains))
        && any(counters, subject.counter())
        && any(conditions, condition)
        && any(severities, severity);
  }

  private static <T> boolean any(List<T> wanted, T is) {
    return wanted.isEmpty() || wanted.contains(is);
  }
}
