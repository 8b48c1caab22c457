package jamjar.store.cluster;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import org.junit.jupiter.api.Test;

class PrivateClusterTest {

  /** What asks where it is may be told to stop while it asks: that moves nothing. */
  @Test
  void whoever_is_interrupted_while_asking_neither_moves_it_nor_takes_it_for_stopped() {
    PrivateCluster cluster = TemporaryCluster.start(Map.of()).cluster();
    try {
      int port = cluster.port();
      Thread.currentThread().interrupt();
      assertThatThrownBy(cluster::running).isInstanceOf(ClusterFailed.class);
      assertThat(Thread.interrupted()).isTrue();
      assertThat(cluster.port()).isEqualTo(port);
      assertThat(cluster.running()).isTrue();
    } finally {
      cluster.remove();
    }
    assertThat(cluster.running()).isFalse();
  }

  @Test
  void a_cluster_that_died_with_the_machine_is_stopped_and_can_be_taken_away() {
    PrivateCluster cluster = TemporaryCluster.start(Map.of()).cluster();
    ProcessHandle server = ProcessHandle.of(cluster.process()).orElseThrow();
    assertThat(server.destroyForcibly()).isTrue();
    server.onExit().join();
    cluster.stop();
    assertThat(cluster.running()).isFalse();
    cluster.remove();
  }
}
