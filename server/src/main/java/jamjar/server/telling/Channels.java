package jamjar.server.telling;

import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Problem;
import jamjar.server.security.Locked;
import jamjar.server.security.SecretBox;
import jamjar.server.telling.ChannelBody.Hook;
import jamjar.server.telling.ChannelBody.Mail;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.telling.ChannelRow;
import java.net.URI;
import java.net.UnknownHostException;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** By what is told: held in memory, so that it is told while the database is away. */
@Component
class Channels implements Locked {
  private static final Logger LOG = LoggerFactory.getLogger(Channels.class);
  private static final String MAIL = "mail";
  private static final String HOOK = "hook";
  private static final Set<String> LOOPBACK = Set.of("127.0.0.1", "::1", "localhost");
  private static final byte[] NO_SECRET = null;

  private final Store store;
  private final SecretBox secrets;
  private final OwnNetwork network;
  private final Changes changes;
  private final LiveStreams live;
  private final JsonMapper json;
  private final Clock clock;
  private volatile Map<String, Channel> held = Map.of();

  Channels(
      Store store,
      SecretBox secrets,
      OwnNetwork network,
      Changes changes,
      LiveStreams live,
      JsonMapper json,
      Clock clock) {
    this.store = store;
    this.secrets = secrets;
    this.network = network;
    this.changes = changes;
    this.live = live;
    this.json = json;
    this.clock = clock;
  }

  Optional<Channel> find(String name) {
    return Optional.ofNullable(held.get(name));
  }

  Map<String, Channel> all() {
    return held;
  }

  void refresh() {
    Map<String, Channel> now = new HashMap<>();
    for (ChannelRow row : store.telling().channels()) {
      now.put(row.name(), channel(row));
    }
    held = Map.copyOf(now);
  }

  @Scheduled(fixedDelay = 5000)
  void look() {
    try {
      refresh();
    } catch (RuntimeException e) {
      if (!StoreAway.is(e)) {
        LOG.warn("event=channels-not-read why=\"{}\"", e.getMessage());
      }
    }
  }

  private Channel channel(ChannelRow row) {
    Mail mail = row.kind().equals(MAIL) ? json.readValue(row.body(), Mail.class) : null;
    Hook hook = row.kind().equals(HOOK) ? json.readValue(row.body(), Hook.class) : null;
    String secret = "";
    if (row.secret() != null) {
      try {
        secret = secrets.open(row.secret(), Channel.place(mail, hook));
        if (hook != null) {
          // its address and what it is signed with
          int end = secret.indexOf('\n');
          hook = hook.at(secret.substring(0, end));
          secret = secret.substring(end + 1);
        }
      } catch (IllegalStateException e) {
        LOG.warn("event=channel-locked channel=\"{}\" why=\"{}\"", row.name(), e.getMessage());
      }
    }
    return new Channel(row.name(), mail, hook, secret);
  }

  /** What is kept of a change: without what is secret. */
  private record Kept(Mail mail, Hook hook, boolean secretChanged) {}

  /**
   * @throws Problem where it can't be used so
   */
  void put(String name, ChannelBody body) {
    Optional<Channel> before = row(name).map(this::channel);
    ChannelBody whole = whole(body, before);
    check(whole);
    byte[] secret = secret(whole, before);
    Kept now = kept(whole.mail(), whole.hook(), body.secret() != null);
    ChannelRow row =
        new ChannelRow(
            name,
            now.mail() != null ? MAIL : HOOK,
            json.writeValueAsString(now.mail() != null ? now.mail() : now.hook()),
            secret,
            clock.instant());
    Kept was = before.map(one -> kept(one.mail(), one.hook(), false)).orElse(null);
    store.inOne(
        () -> {
          store.telling().putChannel(row);
          changes.add(What.CHANNEL, name, was, now);
        });
    refresh();
    live.changed("telling");
  }

  private static Kept kept(Mail mail, Hook hook, boolean secretChanged) {
    return new Kept(mail, hook == null ? null : hook.told(), secretChanged);
  }

  /** With the address that is stored, where it is given as it was told. */
  private static ChannelBody whole(ChannelBody body, Optional<Channel> before) {
    Hook hook = body.hook();
    Hook was = before.map(Channel::hook).orElse(null);
    return hook != null && was != null && hook.url().equals(was.told().url())
        ? new ChannelBody(body.mail(), hook.at(was.url()), body.secret())
        : body;
  }

  private Optional<ChannelRow> row(String name) {
    return store.telling().channels().stream().filter(one -> one.name().equals(name)).findFirst();
  }

  private byte[] secret(ChannelBody body, Optional<Channel> before) {
    String place = Channel.place(body.mail(), body.hook());
    String given = body.secret();
    if (given == null) {
      given = before.map(Channel::secret).orElse("");
      boolean elsewhere =
          before.map(was -> !place.equals(Channel.place(was.mail(), was.hook()))).orElse(false);
      if (!given.isEmpty() && elsewhere) {
        throw Problem.field(
            "secret", "It was typed for another place: type it again for this one.");
      }
    }
    String all = body.hook() == null ? given : body.hook().url() + "\n" + given;
    return all.isEmpty() ? NO_SECRET : secrets.lock(all, place);
  }

  private void check(ChannelBody body) {
    if ((body.mail() == null) == (body.hook() == null)) {
      throw Problem.field("kind", "A channel is mail or a web hook.");
    }
    if (body.mail() != null) {
      Addresses.check("mail.from", body.mail().from());
      boolean bare = body.mail().tls().equals("off") && !body.mail().user().isEmpty();
      if (bare && !LOOPBACK.contains(body.mail().host())) {
        throw Problem.field("mail.tls", "A password is sent to another machine encrypted only.");
      }
      return;
    }
    Template.check(body.hook().template());
    URI uri;
    try {
      uri = body.hook().uri();
    } catch (IllegalArgumentException e) {
      throw Problem.field("hook.url", "That is no address of a hook.");
    }
    if (body.hook().url().endsWith(Hook.HIDDEN) || body.hook().url().contains("\n")) {
      throw Problem.field("hook.url", "The address is not whole: type all of it.");
    }
    boolean http = "https".equals(uri.getScheme()) || "http".equals(uri.getScheme());
    if (!http || uri.getHost() == null || uri.getUserInfo() != null) {
      throw Problem.field(
          "hook.url", "A hook begins with https:// or http:// and names a host, and nobody.");
    }
    try {
      network.check(uri.getHost().replaceAll("^\\[|]$", ""));
    } catch (OwnNetwork.Refused e) {
      throw Problem.field("hook.url", e.getMessage() + ".");
    } catch (UnknownHostException e) {
      // it may be there later; then it is looked at again
      LOG.info("event=hook-not-found host={}", uri.getHost());
    }
  }

  /**
   * @throws Problem where somebody is told by it
   */
  void remove(String name, PlanBody plan) {
    Channel was =
        row(name)
            .map(this::channel)
            .orElseThrow(() -> Problem.unknown("There is no channel called " + name + "."));
    if (uses(plan, name)) {
      throw Problem.field("name", "The plan tells by it: change that first.");
    }
    store.inOne(
        () -> {
          store.telling().removeChannel(name);
          changes.add(What.CHANNEL, name, kept(was.mail(), was.hook(), false), null);
        });
    refresh();
    live.changed("telling");
  }

  private static boolean uses(PlanBody plan, String name) {
    return plan.people().stream()
            .flatMap(one -> one.ways().stream())
            .anyMatch(way -> way.channel().equals(name))
        || plan.rules().stream()
            .flatMap(one -> one.steps().stream())
            .anyMatch(step -> step.to().equals("channel:" + name))
        || plan.heartbeats().stream().anyMatch(one -> one.channel().equals(name));
  }

  @Override
  public int renewAll() {
    List<ChannelRow> rows = store.telling().channels();
    int renewed = 0;
    for (ChannelRow row : rows) {
      if (row.secret() != null && !secrets.isAsNow(row.secret())) {
        Channel channel = channel(row);
        byte[] now = secrets.renewed(row.secret(), Channel.place(channel.mail(), channel.hook()));
        renewed += store.telling().renewSecret(row.name(), row.secret(), now);
      }
    }
    return renewed;
  }
}
