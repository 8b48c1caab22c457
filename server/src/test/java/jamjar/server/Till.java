package jamjar.server;

/** A process that somebody started by hand: it does nothing until its input ends. */
final class Till {
  private Till() {}

  public static void main(String[] args) throws Exception {
    System.in.transferTo(java.io.OutputStream.nullOutputStream());
  }
}
