package jamjar.store.journal;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** The files that a journal lies in: a folder of one machine, or one of a test that fails. */
public interface JournalFiles {

  /** Those in a folder. */
  @FunctionalInterface
  interface In {
    JournalFiles of(Path folder) throws IOException;
  }

  /** The names of those that are there, in their order. */
  List<String> names() throws IOException;

  /** Opens one for reading and writing, and makes it when it is not there. */
  Part open(String name) throws IOException;

  void delete(String name) throws IOException;

  /** One file. */
  interface Part extends AutoCloseable {
    long length() throws IOException;

    /** Writes at a place; what was written of it when it fails is not known. */
    void write(long at, byte[] bytes) throws IOException;

    /**
     * Reads from a place on, while another thread may write.
     *
     * @return how many bytes there were, less than wanted only at its end
     */
    int read(long from, byte[] into) throws IOException;

    void cut(long length) throws IOException;

    /** Returns when all that was written stands on the disk. */
    void sync() throws IOException;

    @Override
    void close() throws IOException;
  }
}
