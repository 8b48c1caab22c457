package jamjar.store.facts;

import jamjar.store.markers.MarkerMapper;
import jamjar.store.markers.MarkerRow;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.ibatis.session.SqlSession;

/** What instances say of themselves, as changes. What is said at once is kept at once. */
public final class FactStore {
  private final FactMapper mapper;

  public FactStore(SqlSession session) {
    this.mapper = session.getMapper(FactMapper.class);
  }

  /** What held for a time that is over. */
  public void add(FactRow row) {
    mapper.add(row);
  }

  /** What holds now. */
  public List<FactRow> now(int instance) {
    return mapper.now(instance);
  }

  /** What holds now of one name, of all instances. */
  public List<FactRow> named(String name) {
    return mapper.named(name);
  }

  /** What tells addresses now, of all instances: facts that are one, and texts that hold some. */
  public List<FactRow> addresses() {
    return mapper.addresses();
  }

  /** All that ever held, by name, the newest first. */
  public List<FactRow> all(int instance) {
    return mapper.all(instance);
  }

  /** All that ever held of one name, in order. */
  public List<FactRow> of(int instance, String name) {
    return mapper.of(instance, name);
  }

  /**
   * Writes a change, within somebody's transaction.
   *
   * @param ended the names of what does not hold any more, be it as something else does
   * @param begun what holds from now on, by name
   * @param marker tells of it on the rail; empty for nothing to tell
   */
  public static void write(
      SqlSession batch,
      int instance,
      Instant at,
      List<String> ended,
      Map<String, String> begun,
      Optional<MarkerRow> marker) {
    FactMapper facts = batch.getMapper(FactMapper.class);
    ended.forEach(name -> facts.end(instance, name, at));
    begun.forEach((name, value) -> facts.begin(instance, name, value, at));
    marker.ifPresent(row -> batch.getMapper(MarkerMapper.class).add(row));
  }
}
