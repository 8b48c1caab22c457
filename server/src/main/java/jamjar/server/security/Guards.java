package jamjar.server.security;

import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** All guards, by the kind of what they guard. */
@Component
public class Guards {
  private final Map<String, Guard> all;

  Guards(List<Guard> all) {
    this.all = all.stream().collect(Collectors.toMap(Guard::of, Function.identity()));
  }

  boolean know(String kind) {
    return all.containsKey(kind);
  }

  /** Whether who asks may know of one of a kind that is guarded. */
  public boolean see(String kind, long id) {
    return all.get(kind).sees().test(id);
  }
}
