package jamjar.store.accounts;

/**
 * How somebody likes it.
 *
 * @param theme light or dark; empty for as the machine is
 * @param keysAct whether keys act
 * @param firstView the word of the view that is shown first
 * @param zone IANA name of the zone that times are told in; empty for the browser's
 */
public record LikesRow(String theme, boolean keysAct, String firstView, String zone) {}
