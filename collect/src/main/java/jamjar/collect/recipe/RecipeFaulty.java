package jamjar.collect.recipe;

import java.util.List;
import java.util.stream.Collectors;

/** A recipe file that can't be used, with everything that is wrong in it. */
public final class RecipeFaulty extends RuntimeException {
  private final transient List<Fault> faults;

  RecipeFaulty(List<Fault> faults) {
    super(faults.stream().map(Fault::toString).collect(Collectors.joining("\n")));
    this.faults = List.copyOf(faults);
  }

  public List<Fault> faults() {
    return faults;
  }
}
