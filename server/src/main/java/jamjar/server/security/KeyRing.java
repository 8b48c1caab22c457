package jamjar.server.security;

import jamjar.server.problems.Problem;
import jamjar.server.settings.Settings;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** The key of the stored passwords, and those before it for as long as something needs them. */
@Component
public class KeyRing {
  /** So many bytes tell a key from others, and nothing of it. */
  static final int NAME = 4;

  private static final Logger LOG = LoggerFactory.getLogger(KeyRing.class);
  private static final int BYTES = 32;
  private final KeySource source;
  private final Path file;
  private final Path before;
  private volatile List<Key> keys;

  /** A key. */
  record Key(byte[] bytes) {
    byte[] name() {
      return Arrays.copyOf(Secrets.hash(Base64.getEncoder().encodeToString(bytes)), NAME);
    }

    boolean is(Key other) {
      return Arrays.equals(bytes, other.bytes);
    }

    @Override
    public String toString() {
      return "a key";
    }
  }

  KeyRing(Settings settings, KeySource source) throws IOException {
    this.source = source;
    file = settings.data().resolve("secret.key");
    before = file.resolveSibling("secret.key.before");
    List<Key> all = new ArrayList<>();
    all.add(given() ? fromOutside() : inFolder());
    if (!source.oldKey().isEmpty()) {
      all.add(key(source.oldKey(), "jamjar.secrets.old-key"));
    }
    if (!source.oldKeyFile().isEmpty()) {
      all.add(read(Path.of(source.oldKeyFile()), "jamjar.secrets.old-key-file"));
    }
    kept(before).ifPresent(all::add);
    if (given()) {
      // of a time before it was
      kept(file).ifPresent(all::add);
    }
    keys = List.copyOf(all);
  }

  private boolean given() {
    return !source.key().isEmpty() || !source.keyFile().isEmpty();
  }

  /** By which is locked. */
  Key current() {
    return keys.get(0);
  }

  /** All that may have locked something, the current one first. */
  List<Key> all() {
    return keys;
  }

  List<Key> named(byte[] name) {
    return keys.stream().filter(key -> Arrays.equals(key.name(), name)).toList();
  }

  /** Where the key comes from, in words. */
  public String whence() {
    if (!given()) {
      return file.toString();
    }
    return source.keyFile().isEmpty() ? "JAMJAR_SECRETS_KEY" : source.keyFile();
  }

  /** Whether something may be locked still with a key before the current one. */
  public boolean isChanging() {
    return keys.size() > 1;
  }

  /**
   * Another key from now on: a fresh one in the data folder, or the one that is in the file by now.
   * The one until now opens still.
   *
   * @throws Problem where there is no other
   */
  public synchronized void change() {
    try {
      Key next = given() ? anotherFromOutside() : freshInFolder();
      keys = Stream.concat(Stream.of(next), keys.stream()).toList();
    } catch (IOException e) {
      throw Problem.field("key", "The new key can't be written: " + e.getMessage());
    }
  }

  private Key anotherFromOutside() {
    if (source.keyFile().isEmpty()) {
      throw Problem.field(
          "key",
          "The key comes from jamjar.secrets.key, which stays while the server runs: start it with"
              + " another one there, and this one as jamjar.secrets.old-key.");
    }
    Key next;
    try {
      next = fromOutside();
    } catch (CannotStart e) {
      throw Problem.field("key", e.getMessage());
    }
    if (next.is(current())) {
      throw Problem.field(
          "key",
          "Put another key into " + source.keyFile() + " first: it holds the one until now.");
    }
    return next;
  }

  private Key freshInFolder() throws IOException {
    // at no moment is one of the two nowhere
    write(before, current().bytes());
    Key next = fresh();
    write(file, next.bytes());
    return next;
  }

  /** Nothing is locked with the keys before the current one any more. */
  public synchronized void forgetBefore() {
    try {
      keys = List.of(current());
      Files.deleteIfExists(before);
      if (given()) {
        Files.deleteIfExists(file);
      }
    } catch (IOException e) {
      LOG.warn("event=old-key-stays why=\"{}\"", e.getMessage());
    }
  }

  private Key fromOutside() {
    return source.keyFile().isEmpty()
        ? key(source.key(), "jamjar.secrets.key")
        : read(Path.of(source.keyFile()), "jamjar.secrets.key-file");
  }

  private static Key read(Path file, String of) {
    try {
      byte[] held = Files.readAllBytes(file);
      return held.length == BYTES ? new Key(held) : key(new String(held).strip(), of);
    } catch (IOException e) {
      throw new CannotStart(of + " can't be read: " + e.getMessage());
    }
  }

  private static Key key(String text, String of) {
    try {
      byte[] bytes = Base64.getDecoder().decode(text);
      if (bytes.length == BYTES) {
        return new Key(bytes);
      }
    } catch (IllegalArgumentException e) {
      // told below, without what was there
    }
    throw new CannotStart(of + " is to hold 32 bytes in Base64: head -c 32 /dev/urandom | base64");
  }

  /** None where there is none, or not a whole one. */
  private static Optional<Key> kept(Path file) throws IOException {
    return Files.exists(file) && Files.size(file) == BYTES
        ? Optional.of(new Key(Files.readAllBytes(file)))
        : Optional.empty();
  }

  private Key inFolder() throws IOException {
    Optional<Key> kept = kept(file);
    if (kept.isPresent()) {
      return kept.get();
    }
    if (Files.exists(file)) {
      // half written, as on a disk that was full: passwords can be entered again, readings go on
      Path aside = file.resolveSibling("secret.key.unusable");
      Files.move(file, aside, StandardCopyOption.REPLACE_EXISTING);
      LOG.warn(
          "event=key-unusable bytes={} why=\"the key of the passwords is not whole; it was put aside"
              + " as {}, and every password must be entered again\"",
          Files.size(aside),
          aside.getFileName());
    }
    Key fresh = fresh();
    write(file, fresh.bytes());
    return fresh;
  }

  private static Key fresh() {
    byte[] bytes = new byte[BYTES];
    new SecureRandom().nextBytes(bytes);
    return new Key(bytes);
  }

  private static void write(Path file, byte[] bytes) throws IOException {
    Path folder = file.toAbsolutePath().getParent();
    Files.createDirectories(folder);
    Path next =
        Files.createTempFile(
            folder,
            "secret",
            ".tmp",
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    Files.write(next, bytes);
    try (FileChannel channel = FileChannel.open(next, StandardOpenOption.WRITE)) {
      channel.force(true);
    }
    Files.move(next, file, StandardCopyOption.ATOMIC_MOVE);
  }
}
