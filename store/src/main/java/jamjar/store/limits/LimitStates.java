package jamjar.store.limits;

import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import java.util.HashMap;
import java.util.Map;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.SqlSession;

/** Where limits stand, so that one half way through its hold goes on after a restart. */
public final class LimitStates {
  private final StateMapper mapper;

  public LimitStates(SqlSession session) {
    this.mapper = session.getMapper(StateMapper.class);
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(StateMapper.class);
  }

  public Map<Docket.Key, LimitState> ofInstance(int instance) {
    Map<Docket.Key, LimitState> states = new HashMap<>();
    mapper.ofInstance(instance).forEach(row -> states.put(row.key(), row.toState()));
    return states;
  }

  /** Keeps the state after a change, within somebody's transaction. */
  public static void keep(SqlSession batch, int instance, Docket.Change change) {
    StateMapper mapper = batch.getMapper(StateMapper.class);
    Docket.Key key = change.key();
    if (change.after().idle()) {
      mapper.forget(instance, key.series(), key.condition().name());
    } else {
      mapper.keep(StateRow.of(instance, key, change.after()));
    }
  }
}
