package jamjar.store.intake;

import jamjar.store.journal.JournalFiles;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;

/** Files that take all but do not reach the disk while they are told so. */
final class UnsyncedFiles implements JournalFiles {
  private final JournalFiles files;
  private final AtomicInteger refused = new AtomicInteger();
  private volatile boolean refusing;

  UnsyncedFiles(JournalFiles files) {
    this.files = files;
  }

  void refusing(boolean now) {
    refusing = now;
  }

  /** How often they did not reach it. */
  int refused() {
    return refused.get();
  }

  @Override
  public List<String> names() throws IOException {
    return files.names();
  }

  @Override
  public void delete(String name) throws IOException {
    files.delete(name);
  }

  @Override
  public Part open(String name) throws IOException {
    Part part = files.open(name);
    return new Part() {
      @Override
      public long length() throws IOException {
        return part.length();
      }

      @Override
      public void write(long at, byte[] bytes) throws IOException {
        part.write(at, bytes);
      }

      @Override
      public int read(long from, byte[] into) throws IOException {
        return part.read(from, into);
      }

      @Override
      public void cut(long length) throws IOException {
        part.cut(length);
      }

      @Override
      public void sync() throws IOException {
        if (refusing) {
          refused.incrementAndGet();
          throw new IOException("the disk does not answer");
        }
        part.sync();
      }

      @Override
      public void close() throws IOException {
        part.close();
      }
    };
  }
}
