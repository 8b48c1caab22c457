package jamjar.store.facts;

import jamjar.store.markers.MarkerMapper;
import jamjar.store.markers.MarkerRow;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** What instances say of themselves, as changes. What is said at once is kept at once. */
public final class FactStore {
  private final SqlSessionFactory factory;
  private final FactMapper mapper;

  public FactStore(SqlSessionFactory factory, SqlSession session) {
    this.factory = factory;
    this.mapper = session.getMapper(FactMapper.class);
  }

  /** What holds now. */
  public List<FactRow> now(int instance) {
    return mapper.now(instance);
  }

  /** All that ever held, by name, the newest first. */
  public List<FactRow> all(int instance) {
    return mapper.all(instance);
  }

  /**
   * Keeps a change, in one transaction.
   *
   * @param ended the names of what does not hold any more, be it as something else does
   * @param begun what holds from now on, by name
   * @param marker tells of it on the rail; empty for nothing to tell
   */
  public void change(
      int instance,
      Instant at,
      List<String> ended,
      Map<String, String> begun,
      Optional<MarkerRow> marker) {
    try (SqlSession batch = factory.openSession(ExecutorType.BATCH, false)) {
      write(batch, instance, at, ended, begun, marker);
      batch.commit();
    }
  }

  /** As above, within somebody's transaction. */
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
