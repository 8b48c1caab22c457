package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.server.security.Actor;
import jamjar.store.Store;
import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** By what is told: mail servers and web hooks. */
@RestController
@RequestMapping(path = "/api/channels", produces = "application/json")
class ChannelController {
  private final Store store;
  private final Channels channels;
  private final Plans plans;
  private final Outbox outbox;
  private final Sending sending;
  private final Links links;
  private final Changes changes;
  private final Clock clock;

  ChannelController(
      Store store,
      Channels channels,
      Plans plans,
      Outbox outbox,
      Sending sending,
      Links links,
      Changes changes,
      Clock clock) {
    this.store = store;
    this.channels = channels;
    this.plans = plans;
    this.outbox = outbox;
    this.sending = sending;
    this.links = links;
    this.changes = changes;
    this.clock = clock;
  }

  @GetMapping
  List<ChannelView> all() {
    return channels.all().values().stream()
        .sorted(Comparator.comparing(Channel::name))
        .map(this::view)
        .toList();
  }

  private ChannelView view(Channel one) {
    Outbox.Health health = outbox.health(one.name());
    return new ChannelView(
        one.name(),
        one.mail(),
        one.hook() == null ? null : one.hook().told(),
        !one.secret().isEmpty(),
        health.waiting(),
        health.failingSince().map(at -> at.toEpochMilli()).orElse(null),
        health.answer());
  }

  @PutMapping("/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void put(@PathVariable String name, @Valid @RequestBody ChannelBody body) {
    if (!name.matches(PlanBody.NAME)) {
      throw Problem.field("name", "A channel's name " + PlanBody.NAME_RULE + ".");
    }
    channels.put(name, body);
  }

  @DeleteMapping("/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String name) {
    channels.remove(name, plans.body());
  }

  /**
   * Where a trial goes.
   *
   * @param address empty where the channel leads to one place only
   */
  @Schema(name = "ChannelTrialBody")
  record TrialBody(@NotNull @Size(max = 200) String address) {}

  /**
   * What came of a trial.
   *
   * @param outcome sent, again or refused
   */
  @Schema(name = "ChannelTrial")
  record TrialView(@Pattern(regexp = "sent|again|refused") String outcome, String answer) {}

  /** Sends a trial at once, and tells what the other side said. */
  @PostMapping("/{name}/trial")
  TrialView trial(@PathVariable String name, @Valid @RequestBody TrialBody body) {
    Channel channel =
        channels
            .find(name)
            .orElseThrow(() -> Problem.unknown("There is no channel called " + name + "."));
    if (channel.mail() != null) {
      Addresses.check("address", body.address());
    }
    long now = clock.millis();
    Outcome outcome =
        sending.attempt(
            name,
            new Letter(
                "trial-" + now + "/" + name,
                "trial",
                "none",
                "trial",
                Actor.who(),
                body.address(),
                List.of(),
                "Trial: Jam Jar tells by this channel",
                "A trial, sent by " + Actor.who() + ". Nothing is wrong.",
                "",
                links.messages(),
                null,
                now));
    store.inOne(
        () ->
            changes.add(
                What.CHANNEL,
                name,
                null,
                new TrialView(outcome.state().name().toLowerCase(java.util.Locale.ROOT), "")));
    return new TrialView(
        outcome.state().name().toLowerCase(java.util.Locale.ROOT), outcome.answer());
  }
}
