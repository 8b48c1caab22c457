package jamjar.server.telling;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import jamjar.core.telling.AlertKey;
import jamjar.core.telling.Person;
import jamjar.core.telling.Plan;
import jamjar.core.telling.Step;
import jamjar.core.telling.Subject;
import jamjar.core.telling.TellRule;
import jamjar.core.telling.Urgency;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.TransitionRow;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Explains of an alert who was told, who was not, and by which rule. */
@Component
class Explained {
  private final Store store;
  private final Plans plans;
  private final Telling telling;
  private final Clock clock;

  Explained(Store store, Plans plans, Telling telling, Clock clock) {
    this.store = store;
    this.plans = plans;
    this.telling = telling;
    this.clock = clock;
  }

  ToldView of(long id) {
    AlertRow alert =
        store.alerts().byId(id).orElseThrow(() -> Problem.unknown("There is no alert " + id + "."));
    List<TransitionRow> transitions = store.alerts().transitions(new long[] {id});
    AlertKey key =
        Heard.key(alert, transitions)
            .orElse(
                new AlertKey(
                    alert.instance(),
                    alert.series(),
                    Condition.valueOf(alert.condition()),
                    alert.since().toEpochMilli()));
    List<MessageView> messages =
        store.telling().of(new String[] {key.words()}).stream().map(MessageView::of).toList();
    Subject subject =
        plans.held().catalogue().subject(alert.instance(), alert.counter(), alert.labels());
    Severity severity = Severity.valueOf(alert.severity().toUpperCase(Locale.ROOT));
    Plan plan = plans.held().plan();
    Optional<TellRule> rule = plan.rule(subject, key.condition(), severity, key.rose());
    boolean open = alert.endedAt() == null;
    String kept =
        alert.afterwards()
            ? "it was judged afterwards, and is told to nobody"
            : open ? telling.kept(key.instance(), key.series(), key.condition()) : "";
    return new ToldView(
        key.words(),
        rule.map(TellRule::name).orElse(""),
        kept,
        rule.map(
                one ->
                    one.steps().stream()
                        .map(step -> step(step, plan, key, alert, subject, kept, messages))
                        .toList())
            .orElse(List.of()),
        messages);
  }

  private ToldView.StepView step(
      Step step,
      Plan plan,
      AlertKey key,
      AlertRow alert,
      Subject subject,
      String kept,
      List<MessageView> messages) {
    long due = key.rose() + step.afterMinutes() * 60_000L;
    String who = plan.name(step, Math.max(due, Math.min(clock.millis(), end(alert)))).orElse("");
    boolean told = messages.stream().anyMatch(message -> message.recipient().equals(who));
    return new ToldView.StepView(
        step.to(),
        who,
        due,
        step.urgency().name().toLowerCase(Locale.ROOT),
        told ? "" : why(step, plan, who, due, alert, subject, kept));
  }

  private static long end(AlertRow alert) {
    return alert.endedAt() == null ? Long.MAX_VALUE : alert.endedAt().toEpochMilli();
  }

  private String why(
      Step step, Plan plan, String who, long due, AlertRow alert, Subject subject, String kept) {
    if (step.urgency() == Urgency.NOBODY) {
      return "the rule tells nobody";
    }
    if (who.isEmpty()) {
      return "nobody has that duty";
    }
    if (alert.afterwards()) {
      return kept;
    }
    Optional<Person> person =
        plan.people().stream().filter(one -> one.name().equals(who)).findFirst();
    if (person.isPresent() && !subject.isIn(person.get().scope())) {
      return "it is not in their scope";
    }
    if (person.isPresent() && person.get().ways().isEmpty()) {
      return "there is no way to tell them";
    }
    boolean known = alert.seenAt() != null && alert.seenAt().toEpochMilli() <= due;
    if (step.afterMinutes() > 0 && known) {
      return alert.seenBy() + " knew of it by then";
    }
    if (end(alert) <= due) {
      return "it was over before";
    }
    if (step.afterMinutes() > 0
        && telling.isLookedAfter(
            alert.instance(), alert.series(), Condition.valueOf(alert.condition()))) {
      return "somebody knows of what it belongs to";
    }
    if (step.urgency() == Urgency.MORNING) {
      return "it waits for the report of the night";
    }
    if (due > clock.millis()) {
      return "it is not due yet";
    }
    if (!kept.isEmpty()) {
      return kept;
    }
    return alert.endedAt() == null
        ? "it is being told, or belongs to what they were told of"
        : "it was muted or known, or the rules were other ones then";
  }
}
