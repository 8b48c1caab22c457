package jamjar.standins.inbox;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import tools.jackson.databind.json.JsonMapper;

/** The pages of an inbox, and where its hooks are taken. */
final class InboxPages implements AutoCloseable {
  private static final JsonMapper JSON = new JsonMapper();
  private static final int SLOW_SECONDS = 15;
  private static final int MOST = 1 << 20;
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("EEE d MMM HH:mm:ss", Locale.ENGLISH)
          .withZone(ZoneId.systemDefault());
  private static final String STYLE =
      "body{font:15px/1.5 sans-serif;max-width:860px;margin:24px auto;padding:0 16px;"
          + "background:#FAF6EF;color:#2A2230}a{color:#6A2C70}li{margin:8px 0}"
          + ".soft{color:#665D6C;font-size:13px}pre{white-space:pre-wrap;background:#FFFDF9;"
          + "border:1px solid #E2D8C6;padding:12px}iframe{width:100%;height:620px;"
          + "border:1px solid #E2D8C6;background:#fff}";

  private final HttpServer server;
  private final ExecutorService threads = Executors.newCachedThreadPool(InboxPages::thread);
  private final Inbox inbox;
  private volatile String mood = "well";

  InboxPages(int port, Inbox inbox) throws IOException {
    this.inbox = inbox;
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 50);
    server.setExecutor(threads);
    server.createContext("/", this::serve);
    server.start();
  }

  private static Thread thread(Runnable task) {
    Thread thread = new Thread(task, "inbox-pages");
    thread.setDaemon(true);
    return thread;
  }

  URI address() {
    return URI.create("http://127.0.0.1:" + server.getAddress().getPort() + "/");
  }

  void becomes(String next) {
    mood = next;
  }

  private void serve(HttpExchange exchange) throws IOException {
    try (exchange) {
      String path = exchange.getRequestURI().getPath();
      if (path.startsWith("/hook/") && exchange.getRequestMethod().equals("POST")) {
        hook(exchange, path.substring("/hook/".length()));
      } else if (path.equals("/")) {
        answer(exchange, 200, "text/html", list());
      } else if (path.equals("/mails.json")) {
        answer(exchange, 200, "application/json", JSON.writeValueAsString(inbox.mails()));
      } else if (path.equals("/hooks.json")) {
        answer(exchange, 200, "application/json", JSON.writeValueAsString(inbox.hooked()));
      } else if (path.startsWith("/mood/") && exchange.getRequestMethod().equals("POST")) {
        mood(path.split("/"));
        answer(exchange, 200, "text/plain", "");
      } else {
        mail(exchange, path.split("/"));
      }
    } catch (IllegalArgumentException e) {
      answer(exchange, 400, "text/plain", e.getMessage());
    }
  }

  private void mood(String[] path) {
    if (path.length == 4 && path[2].equals("mail")) {
      inbox.mail(path[3]);
    } else if (path.length == 4 && path[2].equals("hooks")) {
      inbox.hooks(path[3]);
    } else {
      throw new IllegalArgumentException("/mood/mail/… or /mood/hooks/…");
    }
  }

  private void hook(HttpExchange exchange, String name) throws IOException {
    String body = new String(exchange.getRequestBody().readNBytes(MOST), StandardCharsets.UTF_8);
    String now = mood;
    if (now.equals("refuse")) {
      answer(exchange, 403, "text/plain", "not you");
      return;
    }
    if (now.equals("fail")) {
      answer(exchange, 503, "text/plain", "not now");
      return;
    }
    if (now.equals("slow")) {
      try {
        TimeUnit.SECONDS.sleep(SLOW_SECONDS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
    inbox.take(
        new Hooked(
            inbox.clock().millis(),
            name,
            header(exchange, "Jam-Jar-Key"),
            header(exchange, "Jam-Jar-Time"),
            header(exchange, "Jam-Jar-Signature"),
            body));
    if (!now.equals("lose")) {
      answer(exchange, 200, "text/plain", "taken");
    }
  }

  private static String header(HttpExchange exchange, String name) {
    return Optional.ofNullable(exchange.getRequestHeaders().getFirst(name)).orElse("");
  }

  private String list() {
    StringBuilder page = new StringBuilder("<h1>Inbox</h1>");
    List<Mail> mails = inbox.mails();
    page.append("<h2>Mail</h2>");
    if (mails.isEmpty()) {
      page.append("<p class=soft>Nothing came yet. This page looks again every five seconds.</p>");
    }
    page.append("<ol reversed aria-label=\"Mail\">");
    for (int i = mails.size() - 1; i >= 0; i--) {
      Mail mail = mails.get(i);
      page.append("<li>")
          .append(mail.answerTo().isEmpty() ? "" : "↳ ")
          .append("<a href=\"/mail/")
          .append(mail.number())
          .append("\">")
          .append(escaped(mail.subject()))
          .append("</a><br><span class=soft>")
          .append(TIME.format(Instant.ofEpochMilli(mail.at())))
          .append(", to ")
          .append(escaped(mail.to()))
          .append("</span></li>");
    }
    page.append("</ol><h2>Web hooks</h2><ol reversed aria-label=\"Web hooks\">");
    List<Hooked> hooks = inbox.hooked();
    for (int i = hooks.size() - 1; i >= Math.max(0, hooks.size() - 50); i--) {
      Hooked one = hooks.get(i);
      page.append("<li><span class=soft>")
          .append(TIME.format(Instant.ofEpochMilli(one.at())))
          .append(", ")
          .append(escaped(one.name()))
          .append(one.signature().isEmpty() ? "" : ", signed")
          .append("</span><pre>")
          .append(escaped(one.body()))
          .append("</pre></li>");
    }
    return page("Inbox", "<meta http-equiv=refresh content=5>", page.append("</ol>").toString());
  }

  private void mail(HttpExchange exchange, String[] path) throws IOException {
    Optional<Mail> found =
        path.length >= 3 && path[1].equals("mail") && path[2].matches("[0-9]{1,9}")
            ? inbox.mails().stream()
                .filter(mail -> mail.number() == Integer.parseInt(path[2]))
                .findFirst()
            : Optional.empty();
    if (found.isEmpty()) {
      answer(exchange, 404, "text/plain", "There is no such page.");
      return;
    }
    Mail mail = found.get();
    if (path.length == 3) {
      answer(exchange, 200, "text/html", page(mail));
    } else if (path[3].equals("html")) {
      // whatever came is shown, and does nothing
      exchange
          .getResponseHeaders()
          .add(
              "Content-Security-Policy",
              "default-src 'none'; img-src 'self'; style-src 'unsafe-inline'");
      answer(
          exchange,
          200,
          "text/html",
          "<base target=_top>"
              + mail.html().replaceAll("cid:[^\"]+", "/mail/" + mail.number() + "/picture"));
    } else {
      exchange.getResponseHeaders().add("Content-Type", "image/png");
      exchange.sendResponseHeaders(200, mail.picture().length == 0 ? -1 : mail.picture().length);
      exchange.getResponseBody().write(mail.picture());
    }
  }

  private static String page(Mail mail) {
    String head =
        "<p><a href=\"/\">all mail</a></p><h1>"
            + escaped(mail.subject())
            + "</h1><p class=soft>from "
            + escaped(mail.from())
            + " to "
            + escaped(mail.to())
            + ", "
            + TIME.format(Instant.ofEpochMilli(mail.at()))
            + "</p>";
    String body =
        mail.html().isEmpty()
            ? "<pre>" + escaped(mail.text()) + "</pre>"
            : "<iframe title=\"The mail\" src=\"/mail/" + mail.number() + "/html\"></iframe>";
    return page(mail.subject(), "", head + body);
  }

  private static String page(String title, String head, String body) {
    return "<!doctype html><html lang=en><meta charset=utf-8><title>"
        + escaped(title)
        + "</title>"
        + head
        + "<style>"
        + STYLE
        + "</style><body>"
        + body;
  }

  static String escaped(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }

  private static void answer(HttpExchange exchange, int code, String type, String body)
      throws IOException {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    exchange.getResponseHeaders().add("Content-Type", type + "; charset=utf-8");
    exchange.sendResponseHeaders(code, bytes.length == 0 ? -1 : bytes.length);
    exchange.getResponseBody().write(bytes);
  }

  @Override
  public void close() {
    server.stop(0);
    threads.shutdownNow();
  }
}
