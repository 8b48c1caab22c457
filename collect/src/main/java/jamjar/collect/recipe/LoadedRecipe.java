package jamjar.collect.recipe;

import jamjar.collect.jmx.BeanQuery;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Rule;
import java.util.List;

/**
 * A recipe as its file gives it.
 *
 * @param key name of the file without its ending
 * @param beans where its counters are read, for kinds that are read over JMX
 * @param limits the limits that come with it
 * @param base whether it only serves others to be based on
 */
public record LoadedRecipe(
    String key, Recipe recipe, List<BeanQuery> beans, List<Rule> limits, boolean base) {}
