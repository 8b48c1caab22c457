package jamjar.store.alerts;

import java.time.Instant;

/** What somebody wrote to an alert. */
public record NoteRow(long alert, Instant at, String who, String note) {}
