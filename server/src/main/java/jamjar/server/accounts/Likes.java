package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.store.accounts.LikesRow;

/**
 * How somebody likes it, whatever browser they are at.
 *
 * @param theme light or dark; empty for as the machine is
 * @param keys whether keys act
 * @param firstView the word of the view that is shown first
 * @param zone IANA name of the zone that times are told in; empty for the browser's
 */
@Schema(name = "Likes")
record Likes(String theme, boolean keys, String firstView, String zone) {

  static final Likes AT_FIRST = new Likes("", true, "shelf", "");

  static Likes of(LikesRow row) {
    return new Likes(row.theme(), row.keysAct(), row.firstView(), row.zone());
  }
}
