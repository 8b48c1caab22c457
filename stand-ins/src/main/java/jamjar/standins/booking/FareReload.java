package jamjar.standins.booking;

import jamjar.standins.DemoFolder;
import jamjar.standins.servers.Mischief.Kind;
import jamjar.standins.servers.Story;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.function.BooleanSupplier;

/**
 * The fare reload on booking-db-a: each night, and once soon after the demo was opened first, it
 * holds its lock for four minutes, so that something real is seen to go wrong. What the booking
 * servers ask of it comes back late meanwhile, and their pools run short.
 */
public final class FareReload implements Runnable {
  private static final Duration HOLDS = Duration.ofMinutes(4);
  private static final Duration AFTER_OPENING = Duration.ofMinutes(2);
  private static final LocalTime AT_NIGHT = LocalTime.of(2, 10);
  private static final Duration LOOKS_EVERY = Duration.ofSeconds(1);

  private final DemoFolder folder;
  private final List<String> askers;
  private final BooleanSupplier may;
  private final Clock clock;
  private final PrintStream out;
  private final Instant began;

  /**
   * @param askers the servers whose first pool waits for what is locked
   * @param may whether the first one may be: how the engine is as usual is known by then
   */
  public FareReload(
      DemoFolder folder, List<String> askers, BooleanSupplier may, Clock clock, PrintStream out) {
    this.folder = folder;
    this.askers = List.copyOf(askers);
    this.may = may;
    this.clock = clock;
    this.out = out;
    this.began = clock.instant();
  }

  /** The next one at night, after a moment. */
  static Instant next(Instant after) {
    ZonedDateTime here = after.atZone(Story.ZONE);
    ZonedDateTime tonight = here.toLocalDate().atTime(AT_NIGHT).atZone(Story.ZONE);
    return (tonight.toInstant().isAfter(after)
            ? tonight
            : here.toLocalDate().plusDays(1).atTime(AT_NIGHT).atZone(Story.ZONE))
        .toInstant();
  }

  @Override
  public void run() {
    Instant night = next(clock.instant());
    try {
      while (true) {
        Thread.sleep(LOOKS_EVERY.toMillis());
        Instant now = clock.instant();
        boolean first = !Files.exists(folder.reloaded()) && soon(now);
        boolean due = !now.isBefore(night);
        if (first || due) {
          // one that slept through the night does not make up for it
          boolean late = now.isAfter(night.plus(HOLDS));
          night = due ? next(now) : night;
          if (first || !late) {
            hold();
          }
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private boolean soon(Instant now) {
    return now.isAfter(began.plus(AFTER_OPENING)) && may.getAsBoolean();
  }

  private void hold() throws InterruptedException {
    try {
      Files.writeString(folder.reloaded(), clock.instant().toString());
      askers.forEach(name -> folder.mischief().begin(name, Kind.HOLD_UP, HOLDS));
      new Misbehaviour(folder, out).holdLock(HOLDS);
      out.println("the fare reload let go");
    } catch (SQLException | IOException e) {
      // the engine may be stopped just then
      out.println("the fare reload could not run: " + e.getMessage());
    } finally {
      askers.forEach(name -> folder.mischief().end(name, Kind.HOLD_UP));
    }
  }
}
