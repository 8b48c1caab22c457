package jamjar.server.alerts;

import jamjar.core.counter.CounterDefinition;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.instances.Uses;
import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.NoteRow;
import jamjar.store.alerts.WhatToDoRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.limits.RuleRow;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** Finds what an alert is read with. */
@Service
class AlertStories {
  private static final Duration SIX_WEEKS = Duration.ofDays(42);
  private static final int MOST_BEFORE = 200;

  private final Store store;
  private final Scopes scopes;
  private final AlertViews views;
  private final Recipes recipes;
  private final Changes changes;
  private final LiveStreams live;
  private final Clock clock;

  AlertStories(
      Store store,
      Scopes scopes,
      AlertViews views,
      Recipes recipes,
      Changes changes,
      LiveStreams live,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.views = views;
    this.recipes = recipes;
    this.changes = changes;
    this.live = live;
    this.clock = clock;
  }

  AlertStory of(long id) {
    AlertRow row =
        store.alerts().byId(id).orElseThrow(() -> Problem.unknown("There is no alert " + id + "."));
    List<InstanceRow> all = scopes.instances();
    Sight sight = scopes.sight();
    Optional<InstanceRow> instance =
        all.stream().filter(one -> one.id() == row.instance()).findFirst();
    About about = About.of(row, instance.orElse(null));
    Optional<CounterDefinition> counter = recipes.ofInstance(row.instance()).counter(row.counter());
    return new AlertStory(
        views.of(
            store.alerts().ofBundle(row.bundle() == null ? id : row.bundle()).stream()
                .filter(other -> other.id() != id && About.isSeen(other, sight))
                .toList()),
        about.ofInstance() && instance.isPresent() ? usedBy(instance.get(), all) : List.of(),
        about.ofInstance()
            ? instance.map(one -> uses(one, row, sight)).orElse(List.of())
            : List.<String>of(),
        whatToDo(row, about, instance),
        counter.map(CounterDefinition::meaning).orElse(""),
        counter.map(CounterDefinition::trouble).orElse(false),
        counter.map(CounterDefinition::suggests).orElse(""),
        counter.map(CounterDefinition::readWith).orElse(List.of()).stream()
            .flatMap(key -> recipes.ofInstance(row.instance()).counter(key).stream())
            .map(other -> new AlertStory.Other(other.key(), other.title()))
            .toList(),
        before(row));
  }

  private static List<String> usedBy(InstanceRow instance, List<InstanceRow> all) {
    return all.stream()
        .filter(other -> Uses.of(other, List.of()).contains(instance.name()))
        .map(InstanceRow::name)
        .toList();
  }

  private static List<String> uses(InstanceRow instance, AlertRow row, Sight sight) {
    return Uses.of(instance, row.labels().values()).stream()
        .filter(name -> !sight.hides(name))
        .sorted()
        .toList();
  }

  private List<WhatToDo> whatToDo(AlertRow row, About about, Optional<InstanceRow> instance) {
    String group =
        about.group().isEmpty() ? instance.map(InstanceRow::groupName).orElse("") : about.group();
    return Stream.of(
            store.whatToDo().of("limit", Integer.toString(row.rule())),
            store.whatToDo().of("instance", Integer.toString(row.instance())),
            store.whatToDo().of("group", group))
        .flatMap(Optional::stream)
        .map(WhatToDo::of)
        .toList();
  }

  private List<AlertStory.Before> before(AlertRow row) {
    List<AlertRow> rows =
        store
            .alerts()
            .before(
                row.instance(),
                row.series(),
                row.condition(),
                clock.instant().minus(SIX_WEEKS),
                row.since(),
                MOST_BEFORE);
    long[] ids = rows.stream().mapToLong(AlertRow::id).toArray();
    Map<Long, NoteRow> notes =
        store.alerts().notes(ids).stream()
            .collect(Collectors.toMap(NoteRow::alert, note -> note, (first, later) -> later));
    return rows.stream().map(one -> before(one, Optional.ofNullable(notes.get(one.id())))).toList();
  }

  private static AlertStory.Before before(AlertRow row, Optional<NoteRow> note) {
    boolean seen = note.isEmpty() && row.seenAt() != null;
    return new AlertStory.Before(
        row.id(),
        row.since().toEpochMilli(),
        row.endedAt() == null ? null : row.endedAt().toEpochMilli(),
        row.severity(),
        note.map(NoteRow::note).orElse(seen ? row.seenNote() : ""),
        note.map(NoteRow::who).orElse(seen ? row.seenBy() : ""),
        note.map(n -> (Long) n.at().toEpochMilli())
            .orElse(seen ? (Long) row.seenAt().toEpochMilli() : null));
  }

  /** Of a limit what that is for; of one that is gone nothing that anybody's scope holds. */
  private Scopes.About about(WhatToDo told) {
    if (!told.reach().equals("limit")) {
      return new Scopes.About(told.reach(), told.of());
    }
    Optional<RuleRow> limit =
        told.of().matches("[0-9]{1,9}")
            ? store.rules().byId(Integer.parseInt(told.of()))
            : Optional.empty();
    return limit
        .map(row -> new Scopes.About(row.reach(), row.reachOf()))
        .orElse(new Scopes.About("instance", ""));
  }

  List<WhatToDo> all() {
    Sight sight = scopes.sight();
    return store.whatToDo().all().stream()
        .map(WhatToDo::of)
        .filter(
            told -> {
              Scopes.About about = about(told);
              return sight.sees(about.level(), about.of());
            })
        .toList();
  }

  WhatToDo put(WhatToDo told) {
    WhatToDo kept = new WhatToDo(told.reach(), told.of(), told.words().strip());
    Scopes.About about = about(kept);
    scopes.requireOwn(about.level(), about.of());
    Optional<WhatToDo> before = store.whatToDo().of(kept.reach(), kept.of()).map(WhatToDo::of);
    boolean gone = kept.words().isEmpty();
    store.inOne(
        () -> {
          if (gone) {
            store.whatToDo().remove(kept.reach(), kept.of());
          } else {
            store.whatToDo().put(new WhatToDoRow(kept.reach(), kept.of(), kept.words()));
          }
          changes.add(
              What.WHAT_TO_DO,
              kept.reach() + " " + kept.of(),
              before.orElse(null),
              gone ? null : kept);
        });
    live.changed("alerts");
    return kept;
  }
}
