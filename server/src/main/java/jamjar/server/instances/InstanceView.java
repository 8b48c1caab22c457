package jamjar.server.instances;

import java.util.List;
import java.util.Map;

/** An instance as told to a person: never with its secret. */
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
    String recipe,
    int interval,
    String zone,
    InstanceState state,
    Map<String, String> facts) {}
