package jamjar.collect.recipe;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Rule;
import java.util.List;
import java.util.Map;

/**
 * A recipe as its file gives it.
 *
 * @param key name of the file without its ending
 * @param beans where its counters are read, for kinds that are read over JMX
 * @param limits the limits that come with it
 * @param left the counters that it leaves out of what it is based on
 * @param depths how deep each counter is, those that are left out among them
 * @param base whether it only serves others to be based on
 */
public record LoadedRecipe(
    String key,
    Recipe recipe,
    List<BeanQuery> beans,
    List<Rule> limits,
    List<CounterDefinition> left,
    Map<String, Depth> depths,
    boolean base) {}
