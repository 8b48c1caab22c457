package jamjar.server.alerts;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.store.alerts.WhatToDoRow;

/**
 * What a person is to do when a limit is passed, or something of an instance or a group.
 *
 * @param reach limit, instance or group
 * @param of the number of the limit or the instance, or the name of the group
 * @param words a text, or a link; empty takes it away
 */
public record WhatToDo(
    @NotBlank @Pattern(regexp = "limit|instance|group", message = "is limit, instance or group")
        String reach,
    @NotBlank @Size(max = 80) String of,
    @NotNull @Size(max = 2000) String words) {

  static WhatToDo of(WhatToDoRow row) {
    return new WhatToDo(row.reach(), row.reachOf(), row.words());
  }
}
