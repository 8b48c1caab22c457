package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jamjar.server.problems.Problem;
import jamjar.store.accounts.LikesRow;
import java.time.ZoneId;

/**
 * How somebody likes it, whatever browser they are at.
 *
 * @param theme light or dark; empty for as the machine is
 * @param keys whether keys act
 * @param firstView the word of the view that is shown first
 * @param zone IANA name of the zone that times are told in; empty for the browser's
 */
@Schema(name = "Likes")
record Likes(
    @NotNull @Pattern(regexp = "|light|dark", message = "is light or dark, or empty") String theme,
    boolean keys,
    @NotNull @Pattern(regexp = "[a-z]{1,20}", message = "is the word of a view") String firstView,
    @NotNull String zone) {

  static final Likes AT_FIRST = new Likes("", true, "shelf", "");

  static Likes of(LikesRow row) {
    return new Likes(row.theme(), row.keysAct(), row.firstView(), row.zone());
  }

  LikesRow row() {
    if (!zone.isEmpty() && !ZoneId.getAvailableZoneIds().contains(zone)) {
      throw Problem.field("zone", "No zone is called that: Europe/Oslo is one.");
    }
    return new LikesRow(theme, keys, firstView, zone);
  }
}
