package jamjar.core.chunk;

/** Bytes that no chunk has been written as: cut off, changed, or of another kind. */
public final class CorruptChunk extends RuntimeException {
  private static final long serialVersionUID = 1L;

  CorruptChunk(String why) {
    super(why);
  }
}
