package jamjar.store.journal;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.CRC32C;

/**
 * A journal in segments: files that are named by the position at which they begin, each a row of
 * entries of length, CRC-32C and bytes. It is bounded: where it would grow beyond, the oldest
 * segment goes, and that is told.
 */
public final class FileJournal implements Journal {
  /** Before each entry: its length and its check sum, 4 bytes each. */
  private static final int HEAD = 8;

  /** The longest entry that is taken. */
  static final int LONGEST = 64 << 20;

  private static final long PLENTY = Long.MAX_VALUE;
  private static final String ENDING = ".journal";

  private final JournalFiles files;
  private final long segmentBytes;
  private final long mostBytes;

  /** The segments by the position at which they begin. */
  private final TreeMap<Long, Segment> segments = new TreeMap<>();

  private final List<Loss> losses = new ArrayList<>();
  private final Object syncing = new Object();
  private long end;
  private long synced;

  private static final class Segment {
    private final String name;
    private final JournalFiles.Part part;
    private long length;

    Segment(String name, JournalFiles.Part part, long length) {
      this.name = name;
      this.part = part;
      this.length = length;
    }
  }

  /**
   * Opens it, and cuts what was not written whole.
   *
   * @param segmentBytes about how long a segment is
   * @param mostBytes how long all of them together may be at most
   */
  public FileJournal(JournalFiles files, long segmentBytes, long mostBytes) throws IOException {
    this.files = files;
    this.segmentBytes = segmentBytes;
    this.mostBytes = mostBytes;
    List<String> names =
        files.names().stream().filter(name -> name.endsWith(ENDING)).sorted().toList();
    for (int i = 0; i < names.size(); i++) {
      String name = names.get(i);
      JournalFiles.Part part = files.open(name);
      // what lies beyond the begin of the next one was begun there, and is not kept
      long most = i + 1 < names.size() ? position(names.get(i + 1)) - position(name) : PLENTY;
      segments.put(position(name), new Segment(name, part, Math.min(part.length(), most)));
    }
    if (segments.isEmpty()) {
      add(0);
    }
    Map.Entry<Long, Segment> last = segments.lastEntry();
    Segment segment = last.getValue();
    long whole = whole(segment);
    if (whole < segment.length) {
      losses.add(
          new Loss(
              last.getKey() + whole,
              last.getKey() + segment.length,
              "the end of the journal was not written whole"));
      segment.part.cut(whole);
      segment.length = whole;
    }
    end = last.getKey() + segment.length;
    synced = 0;
  }

  private static long position(String name) {
    return Long.parseLong(name.substring(0, name.length() - ENDING.length()), 16);
  }

  private Segment add(long begin) throws IOException {
    String name = String.format("%016x%s", begin, ENDING);
    JournalFiles.Part part = files.open(name);
    if (part.length() > 0) {
      // begun once, and nothing of it was kept
      part.cut(0);
    }
    Segment segment = new Segment(name, part, 0);
    segments.put(begin, segment);
    return segment;
  }

  /** How much of a segment are whole entries. */
  private static long whole(Segment segment) throws IOException {
    long at = 0;
    byte[] head = new byte[HEAD];
    while (segment.part.read(at, head) == HEAD) {
      ByteBuffer buffer = ByteBuffer.wrap(head);
      int length = buffer.getInt();
      int sum = buffer.getInt();
      if (length < 0 || length > LONGEST || at + HEAD + length > segment.length) {
        return at;
      }
      byte[] bytes = new byte[length];
      if (segment.part.read(at + HEAD, bytes) < length || sum(bytes) != sum) {
        return at;
      }
      at += HEAD + length;
    }
    return at;
  }

  private static int sum(byte[] bytes) {
    CRC32C sum = new CRC32C();
    sum.update(ByteBuffer.allocate(4).putInt(bytes.length).array());
    sum.update(bytes);
    return (int) sum.getValue();
  }

  @Override
  public synchronized long append(byte[] entry) throws IOException {
    if (entry.length > LONGEST) {
      throw new IOException("an entry of " + entry.length + " bytes is longer than is taken");
    }
    Segment last = segments.lastEntry().getValue();
    if (last.length > 0 && last.length + HEAD + entry.length > segmentBytes) {
      last.part.sync();
      last = add(end);
      bound();
    }
    byte[] whole =
        ByteBuffer.allocate(HEAD + entry.length)
            .putInt(entry.length)
            .putInt(sum(entry))
            .put(entry)
            .array();
    try {
      last.part.write(last.length, whole);
    } catch (IOException e) {
      forgetRest(last);
      throw e;
    }
    last.length += whole.length;
    end += whole.length;
    return end;
  }

  /** What was begun of an entry that is not kept; if it stays, the next one is written over it. */
  private static void forgetRest(Segment segment) {
    try {
      segment.part.cut(segment.length);
    } catch (IOException e) {
      // as said
    }
  }

  private void bound() {
    long all = segments.values().stream().mapToLong(segment -> segment.length).sum();
    while (all > mostBytes && segments.size() > 1) {
      Map.Entry<Long, Segment> oldest = segments.firstEntry();
      all -= oldest.getValue().length;
      long from = oldest.getKey();
      try {
        remove(from);
      } catch (IOException e) {
        // it stays, and goes when the next segment begins
        return;
      }
      losses.add(new Loss(from, segments.firstKey(), "the journal was full"));
    }
  }

  private void remove(long begin) throws IOException {
    Segment segment = segments.get(begin);
    files.delete(segment.name);
    segments.remove(begin);
    try {
      segment.part.close();
    } catch (IOException e) {
      // nothing of it is wanted any more
    }
  }

  @Override
  public void sync() throws IOException {
    synchronized (syncing) {
      long upTo;
      JournalFiles.Part part;
      synchronized (this) {
        if (synced == end) {
          return;
        }
        upTo = end;
        // those before were synced when they ended
        part = segments.lastEntry().getValue().part;
      }
      part.sync();
      synchronized (this) {
        synced = Math.max(synced, upTo);
      }
    }
  }

  @Override
  public Batch read(long from, int mostBytes) throws IOException {
    Segment segment;
    long begin;
    long length;
    Long following;
    synchronized (this) {
      long at = Math.max(from, segments.firstKey());
      Map.Entry<Long, Segment> within = segments.floorEntry(at);
      Long next = segments.higherKey(at);
      if (at >= within.getKey() + within.getValue().length && next != null) {
        within = segments.ceilingEntry(next);
        if (at < next) {
          losses.add(new Loss(at, next, "the journal is not whole"));
        }
      }
      begin = within.getKey();
      segment = within.getValue();
      length = segment.length;
      following = segments.higherKey(begin);
    }
    // what follows waits for nobody who writes, nor they for it
    long at = Math.max(from, begin);
    List<Entry> found = new ArrayList<>();
    byte[] bytes = new byte[(int) Math.max(0, Math.min(mostBytes, begin + length - at))];
    int read = segment.part.read(at - begin, bytes);
    ByteBuffer buffer = ByteBuffer.wrap(bytes, 0, read);
    while (at < begin + length) {
      buffer = longEnough(buffer, segment, at - begin, length);
      Entry entry = buffer == null ? null : entry(buffer, at);
      if (entry == null) {
        lost(at, begin + length, "the journal can't be read: a check sum in it is wrong");
        at = begin + length;
        break;
      }
      found.add(entry);
      at = entry.next();
      if (!holdsOne(buffer)) {
        break;
      }
    }
    return new Batch(found, at == begin + length && following != null ? following : at);
  }

  private synchronized void lost(long from, long to, String why) {
    losses.add(new Loss(from, to, why));
  }

  private static boolean holdsOne(ByteBuffer buffer) {
    return buffer.remaining() >= HEAD
        && buffer.remaining() - HEAD >= buffer.getInt(buffer.position());
  }

  /** A buffer that holds the entry at a place, or null where its length can't be right. */
  private static ByteBuffer longEnough(ByteBuffer buffer, Segment segment, long at, long length)
      throws IOException {
    ByteBuffer head = buffer;
    if (buffer.remaining() < HEAD) {
      byte[] bytes = new byte[HEAD];
      head = ByteBuffer.wrap(bytes, 0, segment.part.read(at, bytes));
    }
    if (head.remaining() < HEAD) {
      return null;
    }
    int entry = head.getInt(head.position());
    if (entry < 0 || entry > LONGEST || at + HEAD + entry > length) {
      return null;
    }
    if (buffer.remaining() >= HEAD + entry) {
      return buffer;
    }
    byte[] whole = new byte[HEAD + entry];
    return segment.part.read(at, whole) == whole.length ? ByteBuffer.wrap(whole) : null;
  }

  private static Entry entry(ByteBuffer buffer, long at) {
    byte[] bytes = new byte[buffer.getInt()];
    int sum = buffer.getInt();
    buffer.get(bytes);
    return sum(bytes) == sum ? new Entry(at, at + HEAD + bytes.length, bytes) : null;
  }

  @Override
  public synchronized void forget(long upTo) throws IOException {
    while (segments.size() > 1) {
      long begin = segments.firstKey();
      if (begin + segments.get(begin).length > upTo || segments.higherKey(begin) > upTo) {
        return;
      }
      remove(begin);
    }
  }

  @Override
  public synchronized long first() {
    return segments.firstKey();
  }

  @Override
  public synchronized long end() {
    return end;
  }

  @Override
  public synchronized List<Loss> losses() {
    List<Loss> told = List.copyOf(losses);
    losses.clear();
    return told;
  }

  @Override
  public void close() throws IOException {
    try {
      sync();
    } finally {
      synchronized (this) {
        for (Segment segment : segments.values()) {
          segment.part.close();
        }
      }
    }
  }
}
