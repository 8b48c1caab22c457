package jamjar.store.journal;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** Files in a folder. */
public final class LocalFiles implements JournalFiles {
  private static final FileAttribute<Set<PosixFilePermission>> OWNER_ONLY =
      PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------"));

  private final Path folder;

  /**
   * @param folder made when it is not there, for its owner alone: what was read is nobody else's
   */
  public LocalFiles(Path folder) throws IOException {
    this.folder = Files.createDirectories(folder, OWNER_ONLY);
  }

  @Override
  public List<String> names() throws IOException {
    try (Stream<Path> all = Files.list(folder)) {
      return all.map(path -> path.getFileName().toString()).sorted().toList();
    }
  }

  @Override
  public Part open(String name) throws IOException {
    boolean made = !Files.exists(folder.resolve(name));
    Part part = new Local(folder.resolve(name));
    if (made) {
      syncFolder();
    }
    return part;
  }

  @Override
  public void delete(String name) throws IOException {
    Files.deleteIfExists(folder.resolve(name));
  }

  /** So that a new file is there after a power cut. */
  private void syncFolder() throws IOException {
    boolean interrupted = Thread.interrupted();
    try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
      channel.force(true);
    } finally {
      if (interrupted) {
        Thread.currentThread().interrupt();
      }
    }
  }

  private static final class Local implements Part {
    private final RandomAccessFile writing;
    private final RandomAccessFile reading;

    Local(Path path) throws IOException {
      // not channels: one that a thread uses is closed when the thread is interrupted
      this.writing = new RandomAccessFile(path.toFile(), "rw");
      this.reading = new RandomAccessFile(path.toFile(), "r");
    }

    @Override
    public long length() throws IOException {
      return writing.length();
    }

    @Override
    public void write(long at, byte[] bytes) throws IOException {
      synchronized (writing) {
        writing.seek(at);
        writing.write(bytes);
      }
    }

    @Override
    public int read(long from, byte[] into) throws IOException {
      synchronized (reading) {
        reading.seek(from);
        int read = 0;
        while (read < into.length) {
          int more = reading.read(into, read, into.length - read);
          if (more < 0) {
            break;
          }
          read += more;
        }
        return read;
      }
    }

    @Override
    public void cut(long length) throws IOException {
      synchronized (writing) {
        writing.setLength(length);
      }
    }

    @Override
    public void sync() throws IOException {
      writing.getFD().sync();
    }

    @Override
    public void close() throws IOException {
      reading.close();
      writing.close();
    }
  }
}
