package jamjar.server.instances;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.Map;

/**
 * An instance as told to a person: never with its secret.
 *
 * @param credential the name of the stored credential that it uses; null for one of its own
 * @param uses the instances that it uses, by name: NAME, or THROUGH=NAME for a pool that leads
 *     there
 */
public record InstanceView(
    int id,
    String name,
    String kind,
    String group,
    String site,
    String machine,
    List<String> tags,
    InstanceBody.Endpoint endpoint,
    String user,
    @Schema(types = {"string", "null"}) String credential,
    String recipe,
    int interval,
    String zone,
    List<String> uses,
    InstanceState state,
    Map<String, String> facts) {}
