package jamjar.server.telling;

import jakarta.activation.DataHandler;
import jakarta.mail.Address;
import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import jamjar.collect.Target;
import jamjar.collect.tls.Trust;
import jamjar.core.failure.Causes;
import jamjar.server.telling.ChannelBody.Mail;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Date;
import java.util.Properties;
import javax.net.SocketFactory;
import org.eclipse.angus.mail.smtp.SMTPAddressFailedException;
import org.eclipse.angus.mail.smtp.SMTPSendFailedException;
import org.eclipse.angus.mail.smtp.SMTPSenderFailedException;
import org.springframework.web.util.HtmlUtils;

/** Sends by SMTP, to one recipient at a time: what is refused of one holds up no other. */
final class MailSender {
  private static final String CHART = "chart@jamjar";
  private static final String MILLIS = "15000";

  private MailSender() {}

  static Outcome send(Channel channel, Letter letter, Duration most) {
    Mail mail = channel.mail();
    Cut cut = new Cut();
    try (Deadline deadline = new Deadline(most, cut::now)) {
      Session session = Session.getInstance(properties(mail, channel, cut));
      MimeMessage message = message(session, mail, letter);
      Transport transport = session.getTransport("smtp");
      try {
        transport.connect(
            mail.host(),
            mail.port(),
            mail.user().isEmpty() ? null : mail.user(),
            mail.user().isEmpty() ? null : channel.secret());
        transport.sendMessage(message, message.getAllRecipients());
      } finally {
        close(transport);
      }
      return new Outcome(Outcome.State.SENT, "taken by " + mail.host());
    } catch (MessagingException | IOException e) {
      return cut.was ? Deadline.passed(most) : failed(e);
    }
  }

  /** What is refused for good is told so; all else may get through later. */
  private static Outcome failed(Exception e) {
    if (e instanceof AuthenticationFailedException) {
      return new Outcome(Outcome.State.AGAIN, "sign-in failed: " + e.getMessage());
    }
    int code = code(e);
    Outcome.State state =
        e instanceof SendFailedException && code >= 500
            ? Outcome.State.REFUSED
            : Outcome.State.AGAIN;
    return new Outcome(state, words(e));
  }

  /** What the other side said last. */
  private static String words(Exception e) {
    Exception last = e;
    while (last instanceof MessagingException messaging && messaging.getNextException() != null) {
      last = messaging.getNextException();
    }
    String said = last.getMessage();
    return said == null || said.isBlank() ? Causes.words(e) : said;
  }

  private static int code(Exception e) {
    for (Exception one = e; one != null; ) {
      if (one instanceof SMTPAddressFailedException failed) {
        return failed.getReturnCode();
      }
      if (one instanceof SMTPSenderFailedException failed) {
        return failed.getReturnCode();
      }
      if (one instanceof SMTPSendFailedException failed && failed.getNextException() == null) {
        return failed.getReturnCode();
      }
      one = one instanceof MessagingException messaging ? messaging.getNextException() : null;
    }
    return 0;
  }

  private static void close(Transport transport) {
    try {
      transport.close();
    } catch (MessagingException e) {
      // it was taken, or was not: how it says good-bye changes nothing
    }
  }

  private static Properties properties(Mail mail, Channel channel, Cut cut) throws IOException {
    Properties all = new Properties();
    all.put("mail.smtp.connectiontimeout", MILLIS);
    all.put("mail.smtp.timeout", MILLIS);
    all.put("mail.smtp.writetimeout", MILLIS);
    all.put("mail.smtp.quitwait", "false");
    all.put("mail.smtp.localhost", "jamjar");
    all.put("mail.smtp.auth", Boolean.toString(!channel.mail().user().isEmpty()));
    all.put("mail.smtp.socketFactory", cut.through(SocketFactory.getDefault()));
    if (!mail.tls().equals("off")) {
      SocketFactory tls = Trust.context(Target.Tls.CHECKED, mail.ca()).getSocketFactory();
      all.put("mail.smtp.ssl.checkserveridentity", "true");
      if (mail.tls().equals("tls")) {
        all.put("mail.smtp.ssl.enable", "true");
        all.put("mail.smtp.ssl.socketFactory", cut.through(tls));
      } else {
        all.put("mail.smtp.starttls.enable", "true");
        all.put("mail.smtp.starttls.required", "true");
        all.put("mail.smtp.ssl.socketFactory", tls);
      }
    }
    return all;
  }

  private static MimeMessage message(Session session, Mail mail, Letter letter)
      throws MessagingException {
    String id = id(letter.key());
    MimeMessage message =
        new MimeMessage(session) {
          @Override
          protected void updateMessageID() throws MessagingException {
            // the same whenever it is sent again: who has it already knows it
            setHeader("Message-ID", id);
          }
        };
    message.setFrom(new InternetAddress(mail.from(), true));
    message.setRecipients(
        Message.RecipientType.TO, new Address[] {new InternetAddress(letter.address(), true)});
    message.setSubject(Addresses.head(letter.subject()), "UTF-8");
    message.setSentDate(new Date(letter.at()));
    message.setHeader("Auto-Submitted", "auto-generated");
    if (!letter.thread().isEmpty()) {
      message.setHeader("In-Reply-To", id(letter.thread()));
      message.setHeader("References", id(letter.thread()));
    }
    boolean urgent = letter.severity().equals("critical") && !letter.kind().equals("over");
    message.setHeader("Importance", urgent ? "high" : "normal");
    MimeMultipart either = new MimeMultipart("alternative");
    MimeBodyPart plain = new MimeBodyPart();
    plain.setText(letter.body() + link(letter), "UTF-8");
    either.addBodyPart(plain);
    either.addBodyPart(html(letter));
    message.setContent(either);
    message.saveChanges();
    return message;
  }

  private static String link(Letter letter) {
    return letter.link().isEmpty() ? "" : "\n\n" + letter.link() + "\n";
  }

  private static MimeBodyPart html(Letter letter) throws MessagingException {
    StringBuilder text = new StringBuilder("<html><body style=\"font-family:sans-serif\">");
    for (String paragraph : letter.body().split("\n\n")) {
      text.append("<p>").append(escaped(paragraph).replace("\n", "<br>")).append("</p>");
    }
    if (letter.picture() != null) {
      text.append("<p><img src=\"cid:" + CHART + "\" width=\"600\" alt=\"")
          .append(escaped("Chart: " + letter.subject()))
          .append("\"></p>");
    }
    if (!letter.link().isEmpty()) {
      String to = escaped(letter.link());
      text.append("<p><a href=\"").append(to).append("\">Open that moment in Jam Jar</a></p>");
    }
    text.append("</body></html>");
    MimeBodyPart html = new MimeBodyPart();
    html.setText(text.toString(), "UTF-8", "html");
    if (letter.picture() == null) {
      return html;
    }
    MimeMultipart related = new MimeMultipart("related");
    related.addBodyPart(html);
    MimeBodyPart image = new MimeBodyPart();
    image.setDataHandler(new DataHandler(new ByteArrayDataSource(letter.picture(), "image/png")));
    image.setContentID("<" + CHART + ">");
    image.setDisposition(MimeBodyPart.INLINE);
    image.setFileName("chart.png");
    related.addBodyPart(image);
    MimeBodyPart whole = new MimeBodyPart();
    whole.setContent(related);
    return whole;
  }

  private static String escaped(String text) {
    return HtmlUtils.htmlEscape(text, StandardCharsets.UTF_8.name());
  }

  /** As heads of mails want it: signs that stand for themselves, whatever somebody is called. */
  static String id(String key) {
    StringBuilder id = new StringBuilder("<");
    for (char c : key.toCharArray()) {
      boolean plain = c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z';
      id.append(plain || c == '-' ? String.valueOf(c) : c == '/' ? "." : "_" + (int) c + "_");
    }
    return id + "@jamjar>";
  }

  /** Ends the connection, in the middle of whatever it does. */
  private static final class Cut {
    private volatile Socket socket;
    private volatile boolean was;

    void now() {
      was = true;
      Socket open = socket;
      if (open != null) {
        try {
          open.close();
        } catch (IOException e) {
          // it is no use any more either way
        }
      }
    }

    SocketFactory through(SocketFactory other) {
      return new SocketFactory() {
        private Socket seen(Socket made) throws IOException {
          socket = made;
          if (was) {
            made.close();
          }
          return made;
        }

        @Override
        public Socket createSocket() throws IOException {
          return seen(other.createSocket());
        }

        @Override
        public Socket createSocket(String host, int port) throws IOException {
          return seen(other.createSocket(host, port));
        }

        @Override
        public Socket createSocket(String host, int port, java.net.InetAddress local, int localPort)
            throws IOException {
          return seen(other.createSocket(host, port, local, localPort));
        }

        @Override
        public Socket createSocket(java.net.InetAddress host, int port) throws IOException {
          return seen(other.createSocket(host, port));
        }

        @Override
        public Socket createSocket(
            java.net.InetAddress host, int port, java.net.InetAddress local, int localPort)
            throws IOException {
          return seen(other.createSocket(host, port, local, localPort));
        }
      };
    }
  }
}
