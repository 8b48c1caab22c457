package jamjar.core.telling;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Who is told of what.
 *
 * @param zone in which its hours are
 * @param reportMinute of the day at which the report of the night goes out
 * @param rules in their order; where none fits, nobody is told
 */
public record Plan(
    ZoneId zone,
    int reportMinute,
    Set<LocalDate> holidays,
    List<Person> people,
    List<Duty> duties,
    List<TellRule> rules) {
  /** From this minute of the day on what is over waits for the report. */
  static final int EVENING = 22 * 60;

  public Plan {
    holidays = Set.copyOf(holidays);
    people = List.copyOf(people);
    duties = List.copyOf(duties);
    rules = List.copyOf(rules);
  }

  /** Nobody is told of anything. */
  public static Plan nobody(ZoneId zone) {
    return new Plan(zone, 7 * 60, Set.of(), List.of(), List.of(), List.of());
  }

  /**
   * Somebody, or a channel.
   *
   * @param hours in which they are told at once
   */
  record Recipient(String name, List<Way> ways, Hours hours, List<String> scope, boolean person) {}

  /** The rule that is for an alert. */
  public Optional<TellRule> rule(
      Subject subject, Condition condition, Severity severity, long rose) {
    return rules.stream()
        .filter(rule -> rule.fits().hold(subject, condition, severity))
        .filter(rule -> rule.hours().hold(rose, zone, holidays))
        .findFirst();
  }

  /** Who is meant by a step at a moment; who is on duty is told whatever their hours are. */
  Optional<Recipient> recipient(Step step, long at) {
    if (step.to().startsWith(Step.CHANNEL)) {
      return Optional.of(
          new Recipient(
              step.name(), List.of(new Way(step.name(), "")), Hours.ALWAYS, List.of(), false));
    }
    if (step.to().startsWith(Step.DUTY)) {
      return duties.stream()
          .filter(duty -> duty.name().equals(step.name()))
          .findFirst()
          .flatMap(duty -> duty.on(at, zone))
          .flatMap(name -> person(name, true));
    }
    return step.to().startsWith(Step.PERSON) ? person(step.name(), false) : Optional.empty();
  }

  private Optional<Recipient> person(String name, boolean onDuty) {
    return people.stream()
        .filter(person -> person.name().equals(name))
        .findFirst()
        .map(
            person ->
                new Recipient(
                    person.name(),
                    person.ways(),
                    onDuty ? Hours.ALWAYS : person.hours(),
                    person.scope(),
                    true));
  }

  /** Who a step means at a moment, by name; empty where nobody is. */
  public Optional<String> name(Step step, long at) {
    return recipient(step, at).map(Recipient::name);
  }

  boolean isNow(Recipient recipient, long at) {
    return recipient.hours().hold(at, zone, holidays);
  }

  /** Whether a moment lies between the evening and the report of the night. */
  boolean isNight(long at) {
    ZonedDateTime local = Instant.ofEpochMilli(at).atZone(zone);
    int minute = local.getHour() * 60 + local.getMinute();
    return minute < reportMinute || minute >= EVENING;
  }

  /** The first time after a moment at which the report of the night goes out, epoch ms. */
  public long reportAfter(long at) {
    ZonedDateTime local = Instant.ofEpochMilli(at).atZone(zone);
    LocalDate day = local.toLocalDate();
    while (true) {
      long report =
          day.atTime(reportMinute / 60, reportMinute % 60).atZone(zone).toInstant().toEpochMilli();
      if (report > at) {
        return report;
      }
      day = day.plusDays(1);
    }
  }
}
