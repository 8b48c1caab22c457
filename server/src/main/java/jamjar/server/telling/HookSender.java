package jamjar.server.telling;

import jamjar.collect.Target;
import jamjar.collect.tls.Trust;
import jamjar.core.failure.Causes;
import jamjar.server.telling.ChannelBody.Hook;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Duration;
import java.util.HexFormat;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.apache.hc.client5.http.classic.methods.HttpPost;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.client5.http.ssl.DefaultClientTlsStrategy;
import org.apache.hc.core5.http.ClassicHttpResponse;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpEntity;
import org.apache.hc.core5.http.io.entity.StringEntity;
import org.apache.hc.core5.util.Timeout;
import org.springframework.stereotype.Component;

/** Posts to a web hook, once and to where it leads: no redirect is followed. */
@Component
class HookSender {
  private static final Timeout CONNECT = Timeout.ofSeconds(10);
  private static final Timeout ANSWER = Timeout.ofSeconds(20);

  /** So much of an answer is read. */
  private static final int MOST = 2_000;

  private final OwnNetwork network;

  HookSender(OwnNetwork network) {
    this.network = network;
  }

  Outcome send(Channel channel, Letter letter, Duration most) {
    Hook hook = channel.hook();
    String body = Template.filled(hook.template(), letter);
    HttpPost post = new HttpPost(hook.uri());
    post.setEntity(new StringEntity(body, ContentType.APPLICATION_JSON));
    post.setHeader("Jam-Jar-Key", MailSender.id(letter.key()));
    if (!channel.secret().isEmpty()) {
      String time = Long.toString(letter.at());
      post.setHeader("Jam-Jar-Time", time);
      post.setHeader("Jam-Jar-Signature", "sha256=" + signature(channel.secret(), time, body));
    }
    AtomicBoolean late = new AtomicBoolean();
    try (CloseableHttpClient client = client(hook);
        Deadline deadline =
            new Deadline(
                most,
                () -> {
                  late.set(true);
                  post.cancel();
                })) {
      return client.execute(post, HookSender::outcome);
    } catch (OwnNetwork.Refused e) {
      return new Outcome(Outcome.State.REFUSED, e.getMessage());
    } catch (IOException | RuntimeException e) {
      return late.get() ? Deadline.passed(most) : new Outcome(Outcome.State.AGAIN, Causes.words(e));
    }
  }

  private CloseableHttpClient client(Hook hook) throws IOException {
    return HttpClients.custom()
        .setConnectionManager(
            PoolingHttpClientConnectionManagerBuilder.create()
                .setDnsResolver(network)
                .setTlsSocketStrategy(
                    new DefaultClientTlsStrategy(Trust.context(Target.Tls.CHECKED, hook.ca())))
                .setDefaultConnectionConfig(
                    ConnectionConfig.custom()
                        .setConnectTimeout(CONNECT)
                        .setSocketTimeout(ANSWER)
                        .build())
                .build())
        .setDefaultRequestConfig(RequestConfig.custom().setResponseTimeout(ANSWER).build())
        .disableRedirectHandling()
        .disableAutomaticRetries()
        .disableCookieManagement()
        .disableAuthCaching()
        .disableContentCompression()
        .setUserAgent("Jam Jar")
        .evictIdleConnections(org.apache.hc.core5.util.TimeValue.of(1, TimeUnit.SECONDS))
        .build();
  }

  private static Outcome outcome(ClassicHttpResponse response) throws IOException {
    int code = response.getCode();
    String said = said(response.getEntity());
    String answer = code + (said.isBlank() ? "" : " " + said);
    if (code >= 200 && code < 300) {
      return new Outcome(Outcome.State.SENT, answer);
    }
    boolean later = code >= 500 || code == 408 || code == 425 || code == 429;
    return new Outcome(later ? Outcome.State.AGAIN : Outcome.State.REFUSED, answer);
  }

  private static String said(HttpEntity entity) throws IOException {
    if (entity == null) {
      return "";
    }
    // closing it would read the rest, however long that is
    InputStream in = entity.getContent();
    return in == null ? "" : new String(in.readNBytes(MOST), StandardCharsets.UTF_8);
  }

  /** HMAC-SHA-256 of the time, a point and the body, in hex. */
  static String signature(String secret, String time, String body) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
      byte[] of = (time + "." + body).getBytes(StandardCharsets.UTF_8);
      return HexFormat.of().formatHex(mac.doFinal(of));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java has HMAC-SHA-256", e);
    }
  }
}
