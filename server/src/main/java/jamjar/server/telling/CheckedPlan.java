package jamjar.server.telling;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import jamjar.core.telling.Duty;
import jamjar.core.telling.Fits;
import jamjar.core.telling.Hours;
import jamjar.core.telling.Person;
import jamjar.core.telling.Plan;
import jamjar.core.telling.Step;
import jamjar.core.telling.TellRule;
import jamjar.core.telling.Urgency;
import jamjar.core.telling.Way;
import jamjar.server.problems.Problem;
import jamjar.server.telling.PlanBody.DutyBody;
import jamjar.server.telling.PlanBody.HoursBody;
import jamjar.server.telling.PlanBody.PersonBody;
import jamjar.server.telling.PlanBody.RuleBody;
import jamjar.server.telling.PlanBody.StepBody;
import jamjar.server.telling.PlanBody.WayBody;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/** A plan as it was set, and as it is decided by. */
final class CheckedPlan {
  private CheckedPlan() {}

  /**
   * @param channels the names of those that there are
   * @throws Problem where it names what is not there
   */
  static void check(PlanBody body, Set<String> channels) {
    zone(body.zone());
    Set<String> people = unique("people", body.people(), PersonBody::name);
    Set<String> duties = unique("duties", body.duties(), DutyBody::name);
    unique("rules", body.rules(), RuleBody::name);
    for (PersonBody person : body.people()) {
      if (channels.contains(person.name())) {
        throw Problem.field(
            "people", "A channel is called " + person.name() + ": whom would that mean?");
      }
      person.ways().forEach(way -> channel("people", way, channels));
    }
    for (DutyBody duty : body.duties()) {
      day(duty.from());
      duty.people().forEach(name -> there("duties", "person", name, people));
      duty.swaps().forEach(swap -> there("duties", "person", swap.person(), people));
    }
    if (body.rules().isEmpty() || !body.rules().get(body.rules().size() - 1).isForAll()) {
      throw Problem.field(
          "rules", "The last rule is for all else, at any time: or something is told to nobody.");
    }
    for (RuleBody rule : body.rules()) {
      for (StepBody step : rule.steps()) {
        String name = step.to().substring(step.to().indexOf(':') + 1);
        switch (step.to().substring(0, step.to().indexOf(':'))) {
          case "person" -> there("rules", "person", name, people);
          case "duty" -> there("rules", "duty", name, duties);
          default -> there("rules", "channel", name, channels);
        }
      }
    }
    body.heartbeats()
        .forEach(one -> channel("heartbeats", new WayBody(one.channel(), one.address()), channels));
  }

  private static void channel(String field, WayBody way, Set<String> channels) {
    there(field, "channel", way.channel(), channels);
    if (!way.address().isEmpty()) {
      Addresses.check(field, way.address());
    }
  }

  private static void there(String field, String what, String name, Set<String> all) {
    if (!all.contains(name)) {
      throw Problem.field(field, "There is no " + what + " called " + name + ".");
    }
  }

  private static <T> Set<String> unique(String field, List<T> all, Function<T, String> name) {
    Set<String> names = new HashSet<>();
    for (T one : all) {
      if (!names.add(name.apply(one))) {
        throw Problem.field(field, "Two are called " + name.apply(one) + ".");
      }
    }
    return names;
  }

  private static ZoneId zone(String name) {
    try {
      return ZoneId.of(name);
    } catch (DateTimeException e) {
      throw Problem.field("zone", "No zone is called that: Europe/Oslo is one.");
    }
  }

  private static LocalDate day(String text) {
    try {
      return LocalDate.parse(text);
    } catch (DateTimeException e) {
      throw Problem.field("duties", "There is no day " + text + ".");
    }
  }

  /**
   * @param scopes of the accounts, by name
   */
  static Plan plan(PlanBody body, Map<String, List<String>> scopes, Set<LocalDate> holidays) {
    return new Plan(
        zone(body.zone()),
        body.reportMinute(),
        holidays,
        body.people().stream()
            .map(
                one ->
                    new Person(
                        one.name(),
                        one.ways().stream()
                            .map(way -> new Way(way.channel(), way.address()))
                            .toList(),
                        hours(one.hours()),
                        scopes.getOrDefault(one.name(), List.of())))
            .toList(),
        body.duties().stream()
            .map(
                one ->
                    new Duty(
                        one.name(),
                        one.people(),
                        day(one.from()),
                        one.days(),
                        one.minute(),
                        one.swaps().stream()
                            .map(swap -> new Duty.Swap(swap.from(), swap.to(), swap.person()))
                            .toList()))
            .toList(),
        body.rules().stream().map(CheckedPlan::rule).toList());
  }

  private static TellRule rule(RuleBody one) {
    return new TellRule(
        one.name(),
        new Fits(
            one.sites(),
            one.groups(),
            one.instances(),
            one.tags(),
            one.counters(),
            one.conditions().stream().map(c -> Condition.valueOf(upper(c))).toList(),
            one.severities().stream().map(s -> Severity.valueOf(upper(s))).toList()),
        hours(one.hours()),
        one.steps().stream()
            .map(
                step ->
                    new Step(
                        step.to(), step.afterMinutes(), Urgency.valueOf(upper(step.urgency()))))
            .toList());
  }

  private static Hours hours(HoursBody body) {
    return new Hours(
        body.days().stream().map(DayOfWeek::of).collect(Collectors.toSet()),
        body.from(),
        body.to(),
        Hours.Holidays.valueOf(upper(body.holidays())));
  }

  private static String upper(String word) {
    return word.toUpperCase(Locale.ROOT);
  }
}
