package jamjar.store.threads;

import jamjar.core.threads.ThreadDump;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import tools.jackson.databind.json.JsonMapper;

/** What the threads of JVMs did, where something was the cause to look. */
public final class DumpStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private final SqlSessionFactory writer;
  private final SqlSessionFactory asking;

  /**
   * @param asking for what persons ask
   */
  public DumpStore(SqlSessionFactory writer, SqlSessionFactory asking) {
    this.writer = writer;
    this.asking = asking;
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(DumpMapper.class);
  }

  /** Writes one, within a transaction; one of that moment that is there is left. */
  public static void write(SqlSession batch, int instance, ThreadDump dump) {
    int blocked =
        (int) dump.threads().stream().filter(one -> one.state().equals("BLOCKED")).count();
    batch
        .getMapper(DumpMapper.class)
        .put(
            new DumpRow(instance, dump.at(), dump.why(), dump.threads().size(), blocked),
            JSON.writeValueAsString(dump));
  }

  /** As above. */
  public void put(int instance, ThreadDump dump) {
    try (SqlSession session = writer.openSession(true)) {
      write(session, instance, dump);
    }
  }

  /** Those of a window, the newest first, both ends inclusive. */
  public List<DumpRow> between(int instance, Instant from, Instant to, int most) {
    try (SqlSession session = asking.openSession(true)) {
      return session.getMapper(DumpMapper.class).between(instance, from, to, most);
    }
  }

  /** The one of a moment. */
  public Optional<ThreadDump> at(int instance, Instant at) {
    try (SqlSession session = asking.openSession(true)) {
      return session
          .getMapper(DumpMapper.class)
          .body(instance, at)
          .map(body -> JSON.readValue(body, ThreadDump.class));
    }
  }

  /** Drops those that are older. */
  public int age(Instant before) {
    try (SqlSession session = writer.openSession(true)) {
      return session.getMapper(DumpMapper.class).age(before);
    }
  }
}
