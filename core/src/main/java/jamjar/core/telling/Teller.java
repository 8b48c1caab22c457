package jamjar.core.telling;

import jamjar.core.limit.Bundles;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import jamjar.core.telling.Happened.Known;
import jamjar.core.telling.Happened.Passed;
import jamjar.core.telling.Happened.WasTold;
import jamjar.core.telling.Matter.ToldOf;
import jamjar.core.telling.Plan.Recipient;
import jamjar.core.telling.Told.Kind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.function.LongConsumer;

/**
 * Decides who is told of what, and when: a function of what happened, of the plan and of what is
 * muted, whatever the order in which it is heard within two seconds. So a trial over the past
 * decides as it was decided then.
 *
 * <p>It decides at each five seconds of UTC. What begins together is gathered for twenty seconds
 * and told at once; told again is what got worse, and that it is over. Not safe for threads.
 */
public final class Teller {
  /** Between two decisions, ms. */
  public static final long STEP = 5_000;

  /** So late something may be heard of and still count for its moment, ms. */
  public static final long LATE = 2_000;

  /** So long is waited for what belongs to it, ms. */
  static final long GATHER = 20_000;

  /** So long where something is silent: all its site may be, ms. */
  static final long GATHER_SILENCE = 75_000;

  /** What comes again within this time is not told again, ms. */
  static final long AGAIN = 3_600_000;

  private record Series(int instance, int series, Condition condition) {}

  private final Muted muted;
  private final PriorityQueue<Happened> coming =
      new PriorityQueue<>(
          Comparator.comparingLong(Happened::at)
              .thenComparing(Teller::rank)
              .thenComparing(Teller::of, AlertKey.ORDER));
  private final Map<Series, Line> open = new HashMap<>();
  private final Map<Series, Long> lastTold = new HashMap<>();
  private final List<Matter> matters = new ArrayList<>();
  private final Bursts bursts = new Bursts();
  private final NightReport report = new NightReport();
  private Plan plan;
  private long decided;

  /** What is muted, and when. */
  @FunctionalInterface
  public interface Muted {
    boolean is(Subject subject, long at);
  }

  /**
   * @param from up to when all is decided, epoch ms: before it nothing is decided anew
   */
  public Teller(Plan plan, Muted muted, long from) {
    this.plan = plan;
    this.muted = muted;
    this.decided = Math.floorDiv(from, STEP) * STEP;
    report.dueAfter(plan, decided);
  }

  /** Of what it is, so that the order of what arrives at once is always the same. */
  private static AlertKey of(Happened one) {
    if (one instanceof Passed passed) {
      return new AlertKey(passed.instance(), passed.series(), passed.condition(), passed.at());
    }
    if (one instanceof Known known) {
      return new AlertKey(known.instance(), known.series(), known.condition(), known.at());
    }
    return ((WasTold) one)
        .alerts().stream().findFirst().orElse(new AlertKey(0, 0, Condition.ABOVE, one.at()));
  }

  private static int rank(Happened one) {
    return one instanceof Passed ? 0 : one instanceof Known ? 1 : 2;
  }

  /** From the next decision on. */
  public void plan(Plan next) {
    boolean otherHours =
        next.reportMinute() != plan.reportMinute() || !next.zone().equals(plan.zone());
    plan = next;
    if (otherHours) {
      report.dueAfter(plan, decided);
    }
  }

  public void hear(Happened happened) {
    coming.add(happened);
  }

  /** Up to when all is decided, epoch ms. */
  public long decided() {
    return decided;
  }

  /**
   * Takes up what happened before now, without deciding anything of it.
   *
   * @param until epoch ms
   */
  public void recall(long until) {
    long to = Math.floorDiv(until, STEP) * STEP;
    report.dueAfter(plan, first(to) - STEP);
    pass(to, at -> report.take(plan, at));
    report.take(plan, to);
  }

  /** The step of what is heard first, not after a moment. */
  private long first(long to) {
    return coming.isEmpty() ? to : Math.min(to, Math.floorDiv(coming.peek().at(), STEP) * STEP);
  }

  /** Looks at each step up to one without deciding, and has it followed. */
  private void pass(long to, LongConsumer then) {
    if (!coming.isEmpty()) {
      for (long at = first(to); at <= to; at = after(at, to)) {
        take(at);
        look(at, null);
        then.accept(at);
      }
    }
    decided = to;
  }

  /**
   * Decides all that is due by now, step by step.
   *
   * @param now epoch ms
   */
  public List<Told> until(long now) {
    List<Told> told = new ArrayList<>();
    long to = Math.floorDiv(now - LATE, STEP) * STEP;
    while (decided < to) {
      long at = after(decided, to);
      take(at);
      look(at, told);
      told.addAll(report.take(plan, at));
      told.addAll(bursts.digests(at));
      decided = at;
    }
    return told;
  }

  /**
   * As above, but what was due meanwhile is decided as of now: nobody is to be told in the morning
   * what they were to be told in the night, by whom was on duty then. The report of the night comes
   * late rather than never.
   */
  public List<Told> goOn(long now) {
    pass(Math.floorDiv(now - LATE - STEP, STEP) * STEP, at -> {});
    matters.forEach(matter -> matter.changed = decided);
    return until(now);
  }

  /** The next step at which there may be something to decide. */
  private long after(long at, long to) {
    if (!matters.isEmpty() || bursts.isHolding()) {
      return at + STEP;
    }
    long next = to;
    if (!coming.isEmpty()) {
      next = Math.min(next, ceil(coming.peek().at()));
    }
    if (report.due() > at) {
      next = Math.min(next, ceil(report.due()));
    }
    return Math.max(at + STEP, next);
  }

  private static long ceil(long at) {
    return -Math.floorDiv(-at, STEP) * STEP;
  }

  private void take(long at) {
    while (!coming.isEmpty() && coming.peek().at() <= at) {
      Happened next = coming.poll();
      if (next instanceof Passed passed) {
        take(passed);
      } else if (next instanceof Known known) {
        Line line = open.get(new Series(known.instance(), known.series(), known.condition()));
        if (line != null) {
          line.known(known);
          changed(line.key, known.at());
        }
      } else if (next instanceof WasTold was) {
        take(was);
      }
    }
  }

  private void take(Passed passed) {
    Series series = new Series(passed.instance(), passed.series(), passed.condition());
    Line line = open.get(series);
    if (line != null) {
      line.follow(passed);
      changed(line.key, passed.at());
      if (!line.isOpen()) {
        open.remove(series);
      }
      return;
    }
    if (!passed.open() || passed.severity() == Severity.NONE) {
      // of what was open before it was heard of, only how it goes on
      return;
    }
    line = new Line(passed);
    if (passed.flapping() && lastTold.containsKey(series)) {
      line.againUntil = lastTold.get(series) + AGAIN;
    }
    open.put(series, line);
    Line risen = line;
    matters.stream()
        .filter(matter -> matter.takes(risen))
        .findFirst()
        .ifPresentOrElse(
            matter -> {
              matter.lines.add(risen);
              matter.changed = passed.at();
            },
            () -> matters.add(new Matter(risen)));
  }

  private void changed(AlertKey key, long at) {
    matters.stream()
        .filter(matter -> matter.lines.stream().anyMatch(line -> line.key.equals(key)))
        .forEach(matter -> matter.changed = at);
  }

  /** What was told before this process began, as it was. */
  private void take(WasTold was) {
    boolean ofMany = was.kind() == Kind.DIGEST || was.kind() == Kind.REPORT;
    for (Matter matter : matters) {
      List<AlertKey> of =
          matter.lines.stream().map(line -> line.key).filter(was.alerts()::contains).toList();
      ToldOf before = matter.told.get(was.recipient());
      if (of.isEmpty()) {
        continue;
      }
      if (was.kind() == Kind.REPORT) {
        if (before != null) {
          before.over |= matter.isOver(before);
        }
        continue;
      }
      if (!ofMany) {
        matter.id = was.matter();
      }
      ToldOf told =
          matter.told.computeIfAbsent(
              was.recipient(),
              name -> new ToldOf(was.severity(), was.rule(), was.ways(), again(name).isPresent()));
      told.startAnew();
      told.alerts.addAll(of);
      told.severity = max(told.severity, was.severity());
      told.over = was.kind() == Kind.OVER || ofMany && told.over || matter.isOver(told);
      of.forEach(key -> lastTold.put(series(key), was.at()));
    }
    if (was.kind() == Kind.REPORT) {
      report.sent(was.recipient());
    } else if (was.kind() == Kind.DIGEST) {
      bursts.digested(was.recipient(), was.at());
    } else {
      bursts.sent(was.recipient(), was.at());
    }
  }

  private static Series series(AlertKey key) {
    return new Series(key.instance(), key.series(), key.condition());
  }

  private static Severity max(Severity a, Severity b) {
    return a.compareTo(b) >= 0 ? a : b;
  }

  /** What is due of a matter for one recipient. */
  private static final class Due {
    private final Recipient recipient;
    private final String rule;
    private final List<Line> lines = new ArrayList<>();
    private long ready = Long.MAX_VALUE;

    Due(Recipient recipient, String rule) {
      this.recipient = recipient;
      this.rule = rule;
    }

    /** It is due then, and what belongs to it is waited for. */
    void ready(long dueAt, long gather) {
      ready = Math.min(ready, dueAt + gather);
    }
  }

  /**
   * Looks at what is open.
   *
   * @param told where what is due goes; null to tell nothing
   */
  private void look(long at, List<Told> told) {
    for (Matter matter : matters) {
      if (!matter.isLookedAt(at)) {
        continue;
      }
      Map<String, Due> due = new LinkedHashMap<>();
      for (Line line : matter.lines) {
        if (line.isOpen()) {
          due(matter, line, at, due);
        }
      }
      if (told != null) {
        due.values().forEach(one -> tell(matter, one, at, told));
        over(matter, at, told);
      }
    }
    matters.removeIf(matter -> isDone(matter, at));
  }

  private static boolean isDone(Matter matter, long at) {
    return !matter.isOpen()
        && at - matter.since() > Bundles.WITHIN
        && matter.told.values().stream().allMatch(one -> one.over);
  }

  private void due(Matter matter, Line line, long at, Map<String, Due> due) {
    if (muted.is(line.subject, at) || line.isAgain(at)) {
      line.quiet = at;
      return;
    }
    if (line.isKnown(at) || isOfSilentSite(line)) {
      return;
    }
    TellRule rule =
        plan.rule(line.subject, line.key.condition(), line.severity, line.severitySince)
            .orElse(null);
    if (rule == null) {
      return;
    }
    for (Step step : rule.steps()) {
      long dueAt = line.counts() + step.afterMinutes() * 60_000L;
      boolean next = step.afterMinutes() > 0;
      if (dueAt > at
          || step.urgency() == Urgency.NOBODY
          || next && matter.isLookedAfter(line, at)) {
        continue;
      }
      plan.recipient(step, at)
          .filter(one -> line.subject.isIn(one.scope()))
          .ifPresent(
              one -> {
                if (step.urgency() == Urgency.MORNING || !plan.isNow(one, at)) {
                  morning(matter, line, one, rule.name());
                } else if (!one.ways().isEmpty()) {
                  Due of = due.computeIfAbsent(one.name(), name -> new Due(one, rule.name()));
                  of.lines.add(line);
                  of.ready(dueAt, step.afterMinutes() == 0 ? gather(line) : 0);
                }
              });
    }
  }

  /** That its site is unreachable is told, and its own silence is no news. */
  private boolean isOfSilentSite(Line line) {
    return line.isSilence()
        && !line.subject.site().isEmpty()
        && open.values().stream()
            .anyMatch(
                other ->
                    other.subject.ofMany()
                        && other.subject.group().isEmpty()
                        && other.subject.site().equals(line.subject.site()));
  }

  private void morning(Matter matter, Line line, Recipient recipient, String rule) {
    ToldOf already = matter.told.get(recipient.name());
    if (already == null || !already.alerts.contains(line.key)) {
      report.add(recipient, rule, List.of(line));
    }
  }

  private void tell(Matter matter, Due due, long at, List<Told> told) {
    Severity severity =
        due.lines.stream().map(line -> line.severity).max(Comparator.naturalOrder()).orElseThrow();
    ToldOf before = matter.told.get(due.recipient.name());
    if (before != null && (before.over || severity.compareTo(before.severity) <= 0)) {
      if (!before.over) {
        // it belongs to what is told already
        due.lines.forEach(line -> before.alerts.add(line.key));
        return;
      }
      if (due.lines.stream().allMatch(line -> before.alerts.contains(line.key))) {
        return;
      }
    }
    if (before == null && at < due.ready) {
      return;
    }
    Kind kind = before == null || before.over ? Kind.RISE : Kind.WORSE;
    ToldOf now =
        matter.told.computeIfAbsent(
            due.recipient.name(),
            name -> new ToldOf(severity, due.rule, List.of(), due.recipient.person()));
    now.startAnew();
    now.severity = severity;
    now.rule = due.rule;
    now.ways = due.recipient.ways();
    now.person = due.recipient.person();
    due.lines.forEach(
        line -> {
          now.alerts.add(line.key);
          lastTold.put(series(line.key), at);
        });
    send(kind, matter.id, due.recipient, due.rule, at, severity, Line.items(due.lines), told);
  }

  /** How long is waited for what belongs to an alert that has just risen. */
  private static long gather(Line line) {
    return line.isSilence() && !line.subject.site().isEmpty() ? GATHER_SILENCE : GATHER;
  }

  private void over(Matter matter, long at, List<Told> told) {
    for (Map.Entry<String, ToldOf> one : matter.told.entrySet()) {
      ToldOf of = one.getValue();
      if (of.over || !matter.isOver(of)) {
        continue;
      }
      of.over = true;
      List<Line> lines =
          matter.lines.stream().filter(line -> of.alerts.contains(line.key)).toList();
      Recipient recipient =
          again(one.getKey())
              .orElseGet(
                  () -> new Recipient(one.getKey(), of.ways, Hours.ALWAYS, List.of(), of.person));
      if (recipient.ways().isEmpty()) {
        continue;
      }
      if (recipient.person() && plan.isNight(at)) {
        // nobody is woken by that
        report.add(recipient, of.rule, lines);
      } else {
        send(Kind.OVER, matter.id, recipient, of.rule, at, of.severity, Line.items(lines), told);
      }
    }
  }

  /** As they are in the plan now; empty where they are not any more. */
  private Optional<Recipient> again(String name) {
    return plan.people().stream()
        .filter(person -> person.name().equals(name))
        .findFirst()
        .flatMap(person -> plan.recipient(new Step(Step.PERSON + name, 0, Urgency.WAKE), 0));
  }

  private void send(
      Kind kind,
      String matter,
      Recipient recipient,
      String rule,
      long at,
      Severity severity,
      List<Told.Item> items,
      List<Told> told) {
    if (!bursts.isRoom(recipient.name(), at)) {
      bursts.hold(recipient, rule, items);
      return;
    }
    bursts.sent(recipient.name(), at);
    told.add(new Told(kind, matter, recipient.name(), recipient.ways(), rule, at, severity, items));
  }

  /**
   * What waits for the report of the night, by recipient.
   *
   * @return of each what it will tell, as it stands now
   */
  public List<Told> waiting() {
    return report.at(report.due());
  }

  /** Whether somebody knows of what an alert that is open belongs to, so that no next is told. */
  public boolean isLookedAfter(int instance, int series, Condition condition, long at) {
    Line line = open.get(new Series(instance, series, condition));
    return line != null
        && matters.stream()
            .filter(matter -> matter.lines.contains(line))
            .anyMatch(matter -> matter.isLookedAfter(line, at));
  }

  /** Why an alert that is open is not told just now; empty where nothing keeps it. */
  public String kept(int instance, int series, Condition condition, long at) {
    Line line = open.get(new Series(instance, series, condition));
    if (line == null) {
      return "";
    }
    if (muted.is(line.subject, at)) {
      return "maintenance";
    }
    if (line.isKnown(at)) {
      return "somebody knows of it";
    }
    if (line.isAgain(at)) {
      return "it comes and goes, and was told within the hour";
    }
    return isOfSilentSite(line) ? "its site is unreachable, which is told" : "";
  }
}
