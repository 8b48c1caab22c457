package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.telling.ChannelBody.Hook;
import jamjar.server.telling.ChannelBody.Mail;

/**
 * By what is told: never with what is secret.
 *
 * @param hasSecret whether there is a password, or something that hooks are signed with
 * @param waiting how many messages are not through
 * @param failingSince since when nothing gets through, epoch ms; null where it does
 * @param answer what the other side said last; empty before it was asked
 */
@Schema(name = "Channel")
record ChannelView(
    String name,
    @Schema(types = {"object", "null"}) Mail mail,
    @Schema(types = {"object", "null"}) Hook hook,
    boolean hasSecret,
    int waiting,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long failingSince,
    String answer) {}
