package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.core.telling.AlertKey;
import jamjar.core.telling.Duty;
import jamjar.core.telling.Told;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.security.Guards;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.server.telling.PlanBody.DutyBody;
import jamjar.server.telling.PlanBody.HeartbeatBody;
import jamjar.server.telling.PlanBody.SwapBody;
import jamjar.store.Store;
import jamjar.store.telling.MessageStateRow;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Who is told of what, and what became of it. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class TellingController {
  private static final int MOST = 1000;

  private final Store store;
  private final Scopes scopes;
  private final Plans plans;
  private final Trials trials;
  private final Telling telling;
  private final Explained explained;
  private final Heartbeats heartbeats;
  private final Guards guards;
  private final Clock clock;

  TellingController(
      Store store,
      Scopes scopes,
      Plans plans,
      Trials trials,
      Telling telling,
      Explained explained,
      Heartbeats heartbeats,
      Guards guards,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.plans = plans;
    this.trials = trials;
    this.telling = telling;
    this.explained = explained;
    this.heartbeats = heartbeats;
    this.guards = guards;
    this.clock = clock;
  }

  /** The plan as it is set; what it is before anybody sets anything has version 0. */
  @GetMapping("/telling")
  PlanBody plan() {
    return plans.body();
  }

  @PutMapping("/telling")
  PlanBody put(@Valid @RequestBody PlanBody body) {
    return plans.put(body);
  }

  /**
   * A plan that is tried.
   *
   * @param weeks of the past
   */
  @Schema(name = "TellingTrialBody")
  record TrialBody(@NotNull @Valid PlanBody plan, @Min(1) @Max(6) int weeks) {}

  /** What a plan would have sent, without saving it. */
  @PostMapping("/telling/trial")
  TrialView trial(@Valid @RequestBody TrialBody body) {
    return trials.of(body.plan(), body.weeks());
  }

  /**
   * Who has a duty now.
   *
   * @param person empty for nobody
   * @param until when that ends, epoch ms, as far as a day ahead; null for later
   */
  @Schema(name = "OnDuty")
  record OnDuty(
      String duty,
      String person,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long until) {}

  @GetMapping("/telling/duty")
  List<OnDuty> onDuty() {
    ZoneId zone = plans.held().plan().zone();
    long now = clock.millis();
    return plans.held().plan().duties().stream().map(duty -> onDuty(duty, zone, now)).toList();
  }

  private static OnDuty onDuty(Duty duty, ZoneId zone, long now) {
    String person = duty.on(now, zone).orElse("");
    long minute = 60_000;
    for (long at = now - now % minute + minute; at < now + 14L * 24 * 60 * minute; at += minute) {
      if (!duty.on(at, zone).orElse("").equals(person)) {
        return new OnDuty(duty.name(), person, at);
      }
    }
    return new OnDuty(duty.name(), person, null);
  }

  /** Somebody else has a duty for a while: tonight's swap. */
  @PostMapping("/telling/duty/{duty}/swap")
  PlanBody swap(@PathVariable String duty, @Valid @RequestBody SwapBody body) {
    if (Times.of("to", body.to()).compareTo(Times.of("from", body.from())) <= 0) {
      throw Problem.field("to", "It ends after it begins.");
    }
    PlanBody now = plans.body();
    if (now.duties().stream().noneMatch(one -> one.name().equals(duty))) {
      throw Problem.unknown("There is no duty called " + duty + ".");
    }
    List<DutyBody> duties =
        now.duties().stream()
            .map(one -> one.name().equals(duty) ? swapped(one, body) : one)
            .toList();
    return plans.put(
        new PlanBody(
            now.version(),
            now.zone(),
            now.reportMinute(),
            now.people(),
            duties,
            now.rules(),
            now.heartbeats()));
  }

  /** Those that are over go. */
  private DutyBody swapped(DutyBody duty, SwapBody swap) {
    List<SwapBody> swaps =
        new ArrayList<>(duty.swaps().stream().filter(one -> one.to() > clock.millis()).toList());
    swaps.add(swap);
    return new DutyBody(duty.name(), duty.people(), duty.from(), duty.days(), duty.minute(), swaps);
  }

  /** Messages, the newest first, of what is in the scope of who asks. */
  @GetMapping("/messages")
  List<MessageView> messages(@RequestParam long from, @RequestParam long to) {
    Times.requireWindow(from, to);
    Sight sight = scopes.sight();
    return store
        .telling()
        .between(Instant.ofEpochMilli(from), Instant.ofEpochMilli(to), MOST)
        .stream()
        .filter(row -> isSeen(row, sight))
        .map(MessageView::of)
        .toList();
  }

  private static boolean isSeen(MessageStateRow row, Sight sight) {
    return sight.scope().isAll()
        || Arrays.stream(row.alerts())
            .allMatch(
                words -> AlertKey.of(words).filter(key -> sight.holds(key.instance())).isPresent());
  }

  /** The picture of a message. */
  @GetMapping(path = "/messages/picture", produces = MediaType.IMAGE_PNG_VALUE)
  ResponseEntity<byte[]> picture(@RequestParam @Size(max = 500) String key) {
    Sight sight = scopes.sight();
    String[] alert = {key.substring(0, Math.max(0, key.indexOf('/')))};
    boolean seen =
        sight.scope().isAll()
            || AlertKey.of(alert[0]).filter(one -> sight.holds(one.instance())).isPresent();
    return store
        .telling()
        .picture(key)
        .filter(picture -> seen)
        .map(picture -> ResponseEntity.ok().contentType(MediaType.IMAGE_PNG).body(picture))
        .orElseThrow(() -> Problem.unknown("There is no picture of that."));
  }

  /**
   * What somebody will be told with the report of the night.
   *
   * @param alerts their keys
   * @param lines in words, the worst first
   */
  @Schema(name = "MessageWaiting")
  record Morning(String recipient, long dueAt, List<String> alerts, List<String> lines) {}

  /** What waits for the report of the night: to be read at hand-over. */
  @GetMapping("/messages/waiting")
  List<Morning> waiting() {
    Words words = trials.words(plans.held().plan().zone());
    return telling.waiting().stream().map(told -> morning(told, words)).toList();
  }

  private Morning morning(Told told, Words words) {
    return new Morning(
        told.recipient(),
        told.at(),
        told.items().stream().map(item -> item.key().words()).toList(),
        told.items().stream().map(item -> words.sentence(item, clock.millis())).toList());
  }

  /** Who was told of an alert, who was not, and by which rule. */
  @GetMapping("/alerts/{alert}/told")
  ToldView told(@PathVariable long alert) {
    return explained.of(alert);
  }

  /** The number of an alert. */
  @Schema(name = "AlertFound")
  record Found(long id) {}

  /**
   * The alert of a link.
   *
   * @param rose its key
   */
  @GetMapping("/told/{rose}")
  Found found(
      @PathVariable @Pattern(regexp = "[0-9a-z-]{1,100}", message = "is a key") String rose) {
    return AlertKey.of(rose)
        .flatMap(
            key ->
                store
                    .alerts()
                    .risen(
                        key.instance(),
                        key.series(),
                        key.condition().name(),
                        Instant.ofEpochMilli(key.rose())))
        .filter(id -> guards.see("alert", id))
        .map(Found::new)
        .orElseThrow(() -> Problem.unknown("There is no such alert, or not any more."));
  }

  /**
   * A heartbeat, and what came of the last one.
   *
   * @param at epoch ms; null before the first
   */
  @Schema(name = "HeartbeatState")
  record HeartbeatView(
      String channel,
      String address,
      int everyMinutes,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long at,
      String answer) {}

  @GetMapping("/telling/heartbeats")
  List<HeartbeatView> heartbeats() {
    return plans.held().body().heartbeats().stream().map(this::view).toList();
  }

  private HeartbeatView view(HeartbeatBody one) {
    var last = heartbeats.last(one);
    return new HeartbeatView(
        one.channel(),
        one.address(),
        one.everyMinutes(),
        last.map(l -> l.at().toEpochMilli()).orElse(null),
        last.flatMap(Heartbeats.Last::outcome).map(Outcome::answer).orElse(""));
  }
}
