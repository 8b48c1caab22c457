package jamjar.server.telling;

import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Severity;
import jamjar.core.limit.Transition;
import jamjar.core.reading.SeriesKey;
import jamjar.core.telling.AlertKey;
import jamjar.core.telling.Figures;
import jamjar.core.telling.Happened;
import jamjar.core.telling.Told;
import jamjar.core.telling.Way;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.telling.MessageStateRow;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** What was judged, stored and sent, as telling hears of it: the same, live or of the past. */
final class Heard {
  private Heard() {}

  /** What judging changed just now. */
  static List<Happened> of(Judged judged, Catalogue catalogue) {
    List<Happened> all = new ArrayList<>();
    for (int i = 0; i < judged.changes().size(); i++) {
      Docket.Change change = judged.changes().get(i);
      SeriesKey key = judged.keys().get(i);
      for (Transition transition : change.transitions()) {
        long since = change.after().since() == 0 ? transition.at() : change.after().since();
        all.add(
            new Happened.Passed(
                judged.instance(),
                change.key().series(),
                change.key().condition(),
                transition.arrived(),
                transition.to().open(),
                severity(transition.to()),
                change.after().flapping(),
                catalogue.subject(judged.instance(), key.counter(), key.labels()),
                Figures.of(transition, Math.min(since, transition.at()))));
      }
    }
    return all;
  }

  /** None where it stays as it was. */
  private static Severity severity(AlertState state) {
    return switch (state) {
      case WARNING -> Severity.WARNING;
      case CRITICAL -> Severity.CRITICAL;
      default -> Severity.NONE;
    };
  }

  /**
   * An alert of the past.
   *
   * @param transitions in their order
   */
  static List<Happened> of(AlertRow alert, List<TransitionRow> transitions, Catalogue catalogue) {
    List<Happened> all = new ArrayList<>();
    for (TransitionRow one : transitions) {
      AlertState to = state(one.toState());
      all.add(
          new Happened.Passed(
              alert.instance(),
              alert.series(),
              Condition.valueOf(alert.condition()),
              one.arrived().toEpochMilli(),
              to.open(),
              severity(to),
              alert.flapping(),
              catalogue.subject(alert.instance(), alert.counter(), alert.labels()),
              new Figures(
                  one.value(),
                  one.normalLow(),
                  one.normalHigh(),
                  one.number(),
                  one.distance(),
                  alert.since().toEpochMilli())));
    }
    known(alert).ifPresent(all::add);
    return all;
  }

  static AlertState state(String words) {
    return Stream.of(AlertState.values())
        .filter(state -> state.words().equals(words))
        .findFirst()
        .orElse(AlertState.CALM);
  }

  /** That somebody knows of an alert; empty where nobody does. */
  static Optional<Happened> known(AlertRow alert) {
    return alert.seenAt() == null
        ? Optional.empty()
        : Optional.of(
            new Happened.Known(
                alert.instance(),
                alert.series(),
                Condition.valueOf(alert.condition()),
                alert.seenAt().toEpochMilli(),
                alert.seenUntil().toEpochMilli(),
                Severity.valueOf(alert.seenSeverity().toUpperCase(Locale.ROOT)),
                alert.seenBy()));
  }

  /** Its key: the first transition by which it was open; empty where it never was. */
  static Optional<AlertKey> key(AlertRow alert, List<TransitionRow> transitions) {
    return transitions.stream()
        .filter(one -> severity(state(one.toState())) != Severity.NONE)
        .findFirst()
        .map(
            one ->
                new AlertKey(
                    alert.instance(),
                    alert.series(),
                    Condition.valueOf(alert.condition()),
                    one.arrived().toEpochMilli()));
  }

  /** What was told before. */
  static Happened of(MessageStateRow row) {
    return new Happened.WasTold(
        row.at().toEpochMilli(),
        row.matter(),
        Told.Kind.valueOf(row.kind().toUpperCase(Locale.ROOT)),
        row.recipient(),
        Severity.valueOf(row.severity().toUpperCase(Locale.ROOT)),
        row.rule(),
        Stream.concat(
                Stream.of(new Way(row.channel(), row.address())),
                Arrays.stream(row.others())
                    .map(other -> other.split(Composer.BETWEEN, 2))
                    .map(parts -> new Way(parts[0], parts[1])))
            .toList(),
        Arrays.stream(row.alerts()).flatMap(words -> AlertKey.of(words).stream()).toList());
  }
}
