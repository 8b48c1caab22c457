package jamjar.server.settings;

import java.io.IOException;
import java.nio.file.Files;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** The disk where Jam Jar's own database lies. */
@Component
public class Disk {
  private final Settings settings;

  Disk(Settings settings) {
    this.settings = settings;
  }

  /**
   * How much is free on it, in bytes; that of a database elsewhere can't be looked at from here.
   */
  public Optional<Long> free() {
    try {
      return settings.database().url().isEmpty()
          ? Optional.of(Files.getFileStore(settings.data()).getUsableSpace())
          : Optional.empty();
    } catch (IOException e) {
      return Optional.empty();
    }
  }
}
