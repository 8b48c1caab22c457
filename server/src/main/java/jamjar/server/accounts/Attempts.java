package jamjar.server.accounts;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Slows down who tries passwords: for each account and address, and for each address whatever the
 * account, the first few fail at once, and each after them takes twice as long as the one before.
 * An account by itself is never held back, or any stranger could keep its owner out. Of IPv6 an
 * address is the half of it that a network is given: the other half is its owner's to choose.
 */
final class Attempts {
  private static final int FREE_OF_ACCOUNT = 3;
  private static final int FREE_OF_ADDRESS = 12;
  private static final Duration LONGEST = Duration.ofMinutes(5);
  private static final Duration FORGOTTEN = Duration.ofHours(1);

  /** Who has more addresses than this needs no slowing of one of them. */
  private static final int MOST = 20_000;

  private record Failed(int times, Instant last) {}

  private final Map<String, Failed> failed = latest();

  /** Who came in from where: what others do at the same address does not hold these back. */
  private final Map<String, Instant> known = latest();

  private static final int MOST_TOLD = 200;
  private static final int IPV6 = 16;
  private final Clock clock;
  private Instant hour = Instant.MIN;
  private int told;

  Attempts(Clock clock) {
    this.clock = clock;
  }

  /**
   * How long this one has to wait before its next attempt is looked at; none for at once. To ask is
   * to attempt: until it is told that it succeeded, it counts as failed, so that many at the same
   * time gain nothing.
   */
  synchronized Optional<Duration> attempt(String account, String from) {
    Instant now = clock.instant();
    String address = network(from);
    String pair = pair(account, address);
    Instant ofPair = from(pair, FREE_OF_ACCOUNT, now);
    Instant ofAddress = known.containsKey(pair) ? Instant.MIN : from(address, FREE_OF_ADDRESS, now);
    Instant later = ofPair.isAfter(ofAddress) ? ofPair : ofAddress;
    if (later.isAfter(now)) {
      return Optional.of(Duration.between(now, later));
    }
    fail(pair, now);
    fail(address, now);
    return Optional.empty();
  }

  /** It was the right one. */
  synchronized void succeeded(String account, String from) {
    String address = network(from);
    failed.remove(pair(account, address));
    known.put(pair(account, address), clock.instant());
    failed.computeIfPresent(
        address, (key, old) -> old.times() > 1 ? new Failed(old.times() - 1, old.last()) : null);
  }

  /** Whether one that failed is to be kept for good: so many of an hour are. */
  synchronized boolean isTold() {
    Instant hour = clock.instant().truncatedTo(ChronoUnit.HOURS);
    told = hour.equals(this.hour) ? told + 1 : 1;
    this.hour = hour;
    return told <= MOST_TOLD;
  }

  private static String network(String address) {
    // an address, never a name: nothing is looked up
    if (!address.contains(":")) {
      return address;
    }
    try {
      byte[] bytes = InetAddress.getByName(address).getAddress();
      return bytes.length == IPV6 ? HexFormat.of().formatHex(bytes, 0, IPV6 / 2) : address;
    } catch (UnknownHostException e) {
      return address;
    }
  }

  private static <T> Map<String, T> latest() {
    return new LinkedHashMap<>(16, 0.75f, true) {
      private static final long serialVersionUID = 1L;

      @Override
      protected boolean removeEldestEntry(Map.Entry<String, T> eldest) {
        return size() > MOST;
      }
    };
  }

  /** However the name is written: as it is looked up. */
  private static String pair(String account, String address) {
    return address + " " + account.strip().toLowerCase(Locale.ROOT);
  }

  private Instant from(String key, int free, Instant now) {
    Failed old = failed.get(key);
    if (old == null || old.last().plus(FORGOTTEN).isBefore(now)) {
      failed.remove(key);
      return Instant.MIN;
    }
    int over = old.times() - free;
    if (over < 0) {
      return Instant.MIN;
    }
    long seconds = Math.min(LONGEST.toSeconds(), 1L << Math.min(over, 20));
    return old.last().plusSeconds(seconds);
  }

  private void fail(String key, Instant now) {
    Failed old = failed.get(key);
    failed.put(key, new Failed(old == null ? 1 : old.times() + 1, now));
  }
}
