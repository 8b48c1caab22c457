package jamjar.store.journal;

import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.TreeMap;

/** Files in memory that fail now and then, and what is left of them after a kill or a power cut. */
final class FailingFiles implements JournalFiles {
  private final SplittableRandom random;
  private final TreeMap<String, Content> files = new TreeMap<>();
  private double failing;
  private boolean undeletable;

  private static final class Content {
    private byte[] bytes = {};
    private int synced;
  }

  FailingFiles(SplittableRandom random) {
    this.random = random;
  }

  /**
   * @param share of the calls that fail from now on
   */
  void failing(double share) {
    failing = share;
  }

  /** Whether no file can be deleted from now on. */
  void undeletable(boolean now) {
    undeletable = now;
  }

  /** The machine loses its power: of what was not synced a part is left, or rubbish. */
  void powerCut() {
    for (Content content : files.values()) {
      int left = content.synced + random.nextInt(content.bytes.length - content.synced + 1);
      content.bytes = Arrays.copyOf(content.bytes, left);
      if (left > content.synced && random.nextInt(4) == 0) {
        content.bytes[content.synced + random.nextInt(left - content.synced)] ^= 0x55;
      }
      content.synced = content.bytes.length;
    }
  }

  /** Changes a byte of a file. */
  void damage(String name, int at) {
    files.get(name).bytes[at] ^= 1;
  }

  int length(String name) {
    return files.get(name).bytes.length;
  }

  private void mayFail() throws IOException {
    if (random.nextDouble() < failing) {
      throw new IOException("the disk fails");
    }
  }

  @Override
  public List<String> names() throws IOException {
    mayFail();
    return List.copyOf(files.keySet());
  }

  @Override
  public void delete(String name) throws IOException {
    mayFail();
    if (undeletable) {
      throw new IOException(name + ": Operation not permitted");
    }
    files.remove(name);
  }

  @Override
  public Part open(String name) throws IOException {
    mayFail();
    Content content = files.computeIfAbsent(name, n -> new Content());
    return new Part() {
      @Override
      public long length() {
        return content.bytes.length;
      }

      @Override
      public void write(long at, byte[] bytes) throws IOException {
        // what fails has written some of it, be it all
        boolean fails = random.nextDouble() < failing;
        int n = fails ? random.nextInt(bytes.length + 1) : bytes.length;
        if (content.bytes.length < at + n) {
          content.bytes = Arrays.copyOf(content.bytes, (int) at + n);
        }
        System.arraycopy(bytes, 0, content.bytes, (int) at, n);
        if (fails) {
          throw new IOException("No space left on device");
        }
      }

      @Override
      public int read(long from, byte[] into) throws IOException {
        mayFail();
        int n = (int) Math.max(0, Math.min(into.length, content.bytes.length - from));
        System.arraycopy(content.bytes, (int) from, into, 0, n);
        return n;
      }

      @Override
      public void cut(long length) throws IOException {
        mayFail();
        content.bytes = Arrays.copyOf(content.bytes, (int) length);
        content.synced = Math.min(content.synced, (int) length);
      }

      @Override
      public void sync() throws IOException {
        mayFail();
        content.synced = content.bytes.length;
      }

      @Override
      public void close() {
        // nothing is held
      }
    };
  }
}
