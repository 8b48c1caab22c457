package jamjar.server.security;

import jamjar.server.settings.Settings;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * By it the programs that ship with the server, run by who started it, are let in: it lies in the
 * data folder for as long as the server runs, to be read by its owner alone.
 */
@Component
class ProgramToken {
  static final String NAME = "program";
  private static final String FILE = "program.token";
  private static final int SHORTEST = 32;
  private final Optional<byte[]> hash;

  ProgramToken(Settings settings) {
    hash = read(settings.data().resolve(FILE)).map(Secrets::hash);
  }

  private static Optional<String> read(Path file) {
    try {
      return Files.exists(file)
          ? Optional.of(Files.readString(file).strip()).filter(text -> text.length() >= SHORTEST)
          : Optional.empty();
    } catch (IOException e) {
      throw new UncheckedIOException("the programs' token in " + file + " can't be read", e);
    }
  }

  boolean is(byte[] hashOfToken) {
    return hash.isPresent() && MessageDigest.isEqual(hash.get(), hashOfToken);
  }
}
