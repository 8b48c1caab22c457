package jamjar.collect;

/**
 * How a person reads over there, by hand, what a collector read.
 *
 * @param how what it is and where it is to be run, in words
 * @param text a query, a command, or a bean and its attribute
 */
public record ByHand(String how, String text) {}
