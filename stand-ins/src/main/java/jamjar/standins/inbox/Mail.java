package jamjar.standins.inbox;

import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Properties;

/**
 * A mail that came.
 *
 * @param number counts from 1
 * @param at when it came, epoch ms
 * @param answerTo the Message-ID of the one that it is an answer to; empty for none
 * @param text as plain text
 * @param html empty for none
 * @param picture a PNG; empty for none
 */
public record Mail(
    int number,
    long at,
    String id,
    String answerTo,
    String from,
    String to,
    String subject,
    String text,
    String html,
    byte[] picture) {

  /**
   * @param to whom it was given to
   */
  static Mail of(int number, long at, String to, byte[] raw)
      throws MessagingException, IOException {
    MimeMessage message =
        new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(raw));
    Found found = new Found();
    found.look(message);
    return new Mail(
        number,
        at,
        header(message, "Message-ID"),
        header(message, "In-Reply-To"),
        header(message, "From"),
        to,
        message.getSubject() == null ? "" : message.getSubject(),
        found.text,
        found.html,
        found.picture);
  }

  private static String header(MimeMessage message, String name) throws MessagingException {
    String[] all = message.getHeader(name);
    return all == null ? "" : all[0];
  }

  /** What was found of its parts. */
  private static final class Found {
    private String text = "";
    private String html = "";
    private byte[] picture = {};

    void look(Part part) throws MessagingException, IOException {
      if (part.isMimeType("multipart/*")) {
        Multipart all = (Multipart) part.getContent();
        for (int i = 0; i < all.getCount(); i++) {
          BodyPart one = all.getBodyPart(i);
          look(one);
        }
      } else if (part.isMimeType("text/plain")) {
        text = (String) part.getContent();
      } else if (part.isMimeType("text/html")) {
        html = (String) part.getContent();
      } else if (part.isMimeType("image/png")) {
        picture = part.getInputStream().readAllBytes();
      }
    }
  }
}
