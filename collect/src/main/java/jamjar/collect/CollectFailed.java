package jamjar.collect;

/** A reading could not be taken. */
public final class CollectFailed extends Exception {
  private final transient Refusal refusal;

  public CollectFailed(Refusal refusal, Throwable cause) {
    super(refusal.sentence(), cause);
    this.refusal = refusal;
  }

  public Refusal refusal() {
    return refusal;
  }
}
