package jamjar.store.intake;

import jamjar.core.threads.ThreadDump;
import jamjar.core.watching.Gap;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.markers.MarkerRow;
import jamjar.store.readings.LaidOut;
import jamjar.store.readings.LayoutRow;
import jamjar.store.series.SeriesRow;
import jamjar.store.silences.Silence;
import jamjar.store.telling.MessageRow;
import jamjar.store.telling.SentRow;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What is kept in the journal, one entry each. */
sealed interface Kept {
  /** New series and the numbers that they were given. */
  record Series(List<SeriesRow> rows, Instant at) implements Kept {}

  record Layout(LayoutRow row) implements Kept {}

  record Reading(LaidOut reading) implements Kept {}

  /** Changes that no reading brought: time passed, or a limit was edited. */
  record JudgedAt(Judged judged, Instant at) implements Kept {}

  record Silent(Silence silence) implements Kept {}

  record Answers(int instance, int source, Instant at) implements Kept {}

  /** What an instance says of itself has changed. */
  record Facts(
      int instance,
      Instant at,
      List<String> ended,
      Map<String, String> begun,
      Optional<MarkerRow> marker)
      implements Kept {}

  /**
   * A sample of sessions, packed.
   *
   * @param texts of statements that are new in it, by fingerprint
   */
  record Sampled(int instance, Instant at, byte[] body, Map<Long, String> texts) implements Kept {}

  /**
   * What was counted of statements until a moment, packed.
   *
   * @param texts of statements that are new in it, by fingerprint
   */
  record Counted(int instance, Instant at, byte[] body, Map<Long, String> texts) implements Kept {}

  /**
   * What was read of an engine's log at a moment, packed.
   *
   * @param texts of statements that its lines are about, by fingerprint
   */
  record Logged(int instance, Instant at, byte[] body, Map<Long, String> texts) implements Kept {}

  /** What the threads of a JVM did at a moment. */
  record Dumped(int instance, ThreadDump dump) implements Kept {}

  /** It is watched at this moment. */
  record Beat(Instant at) implements Kept {}

  record NotWatched(Gap gap, Optional<MarkerRow> marker) implements Kept {}

  /** Somebody is to be told. */
  record Message(MessageRow row) implements Kept {}

  /** What became of that. */
  record Sent(SentRow row) implements Kept {}

  /** Up to this moment all is decided that there was to be told. */
  record Decided(Instant until) implements Kept {}
}
