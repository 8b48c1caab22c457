package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.collect.SelfSigned;
import jamjar.collect.Target;
import jamjar.collect.Target.Tls;
import jamjar.core.reading.RawValue;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

/** How long an engine's certificate is still valid is a counter like others. */
class CertificateTest {
  private static final TlsEngine ENGINE = new TlsEngine();

  @Test
  void what_is_left_is_told_by_our_clock_and_a_new_one_is_seen_within_the_hour() throws Exception {
    Moved clock = new Moved();
    Target target = ENGINE.target("localhost", Tls.CHECKED, ENGINE.certificate());
    CertificateQuery query = new CertificateQuery(target, clock);
    assertThat(days(query)).isCloseTo(90, within(0.1));
    ENGINE.renew(SelfSigned.of("localhost", ENGINE.folder(), "-10d", 5));
    clock.ahead = Duration.ofMinutes(59);
    assertThat(days(query)).isCloseTo(90 - 59 / 1440.0, within(0.1));
    clock.ahead = Duration.ofMinutes(61);
    // the engine takes it up a moment after it was told to
    long end = System.nanoTime() + 20_000_000_000L;
    while (days(query) > 0 && System.nanoTime() < end) {
      clock.ahead = clock.ahead.plusHours(1);
    }
    assertThat(days(query)).isBetween(-40.0, -5.0);
  }

  @Test
  void without_encryption_there_is_none() {
    Target target = ENGINE.target("localhost", Tls.OFF, "");
    Sink sink = new Sink();
    new CertificateQuery(target, Clock.systemUTC()).read(null, null, sink);
    assertThat(sink.values()).isEmpty();
  }

  private static double days(CertificateQuery query) {
    Sink sink = new Sink();
    query.read(null, null, sink);
    return ((RawValue.Level) sink.values().get(0)).value() / 86_400;
  }

  private static final class Moved extends Clock {
    private Duration ahead = Duration.ZERO;

    @Override
    public Instant instant() {
      return Instant.now().plus(ahead);
    }

    @Override
    public ZoneId getZone() {
      return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
      throw new UnsupportedOperationException();
    }
  }
}
