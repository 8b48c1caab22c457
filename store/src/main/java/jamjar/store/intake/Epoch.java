package jamjar.store.intake;

import jamjar.store.intake.JournalMapper.Brought;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Tells whether a journal and a database belong together: both carry the same epoch. A database
 * that was restored from elsewhere, or is another one, begins a new one with an empty journal; what
 * the old one held stays beside it.
 */
final class Epoch {
  private static final Logger LOG = LoggerFactory.getLogger(Epoch.class);

  private final Path folder;
  private final Path file;

  /**
   * @param folder the journal's
   */
  Epoch(Path folder) {
    this.folder = folder;
    this.file = folder.resolve("epoch");
  }

  /** Whether the journal goes on in this database. */
  boolean is(Optional<Brought> brought, long end) throws IOException {
    return Files.exists(file)
        && brought
            .filter(b -> b.epoch().equals(read()))
            // beyond the end: a power cut took what was brought already
            .filter(b -> b.position() <= end)
            .isPresent();
  }

  private String read() {
    try {
      return Files.readString(file).trim();
    } catch (IOException e) {
      throw new NotKept("the journal's epoch can't be read: " + e, e);
    }
  }

  /**
   * Moves the journal out of the way, for a new one.
   *
   * @return what is to be told of it
   */
  String putAside() throws IOException {
    Path aside = folder.resolveSibling(folder.getFileName() + "-" + UUID.randomUUID());
    Files.move(folder, aside);
    LOG.warn("event=journal-of-another-database aside={}", aside);
    return "the database is another one than the journal's, which was put aside as "
        + aside.getFileName();
  }

  /** Begins a new one, here first. */
  String begin() throws IOException {
    // the folder is there: a journal was looked for in it
    Files.createDirectories(folder);
    String epoch = UUID.randomUUID().toString();
    Path whole = folder.resolve("epoch.new");
    Files.write(whole, epoch.getBytes(StandardCharsets.US_ASCII));
    Files.move(whole, file, StandardCopyOption.REPLACE_EXISTING);
    return epoch;
  }
}
