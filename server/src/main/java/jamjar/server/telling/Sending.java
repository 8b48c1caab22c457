package jamjar.server.telling;

import jamjar.store.telling.MessageRow;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Sends a letter by a channel, once. */
@Component
class Sending {
  private final Channels channels;
  private final HookSender hooks;
  private final Composer composer;

  Sending(Channels channels, HookSender hooks, Composer composer) {
    this.channels = channels;
    this.hooks = hooks;
    this.composer = composer;
  }

  /** One attempt, whatever comes of it. */
  Outcome attempt(String channel, Letter letter) {
    Optional<Channel> by = channels.find(channel);
    if (by.isEmpty()) {
      return new Outcome(Outcome.State.REFUSED, "there is no channel called " + channel);
    }
    try {
      return by.get().mail() != null
          ? MailSender.send(by.get(), letter, Deadline.MOST)
          : hooks.send(by.get(), letter, Deadline.MOST);
    } catch (RuntimeException | LinkageError e) {
      return new Outcome(Outcome.State.AGAIN, e.toString());
    }
  }

  /** As above. */
  Outcome attempt(MessageRow row) {
    List<String> alerts = List.of(row.alerts());
    return attempt(
        row.channel(),
        new Letter(
            row.key(),
            row.kind(),
            row.severity(),
            row.matter(),
            row.recipient(),
            row.address(),
            alerts,
            row.subject(),
            row.body(),
            row.thread(),
            composer.link(alerts, row.kind()),
            row.picture(),
            row.at().toEpochMilli()));
  }
}
