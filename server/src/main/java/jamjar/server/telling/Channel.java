package jamjar.server.telling;

import jamjar.server.telling.ChannelBody.Hook;
import jamjar.server.telling.ChannelBody.Mail;

/**
 * By what is told, ready for use.
 *
 * @param mail null where it is a hook
 * @param hook null where it is mail
 * @param secret the password, or what hooks are signed with; empty for none
 */
record Channel(String name, Mail mail, Hook hook, String secret) {
  /** Where the secret goes, and nowhere else. */
  static String place(Mail mail, Hook hook) {
    return mail != null
        ? "mail " + mail.host() + ":" + mail.port() + " " + mail.tls()
        : "hook " + hook.place();
  }

  @Override
  public String toString() {
    return name;
  }
}
