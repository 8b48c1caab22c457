package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The page itself is asked for each time, what it is made of once. */
class PageFilesTest {
  private static final Pattern FILE = Pattern.compile("\"(/assets/[^\"]+\\.(?:js|css))\"");
  private static RunningServer server;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static HttpResponse<byte[]> get(String path, String encoding) throws Exception {
    return HttpClient.newHttpClient()
        .send(
            HttpRequest.newBuilder(server.uri(path)).header("Accept-Encoding", encoding).build(),
            BodyHandlers.ofByteArray());
  }

  private static String cached(HttpResponse<?> answer) {
    return answer.headers().firstValue("Cache-Control").orElse("");
  }

  @Test
  void files_are_there_compressed_and_never_asked_for_again_and_the_page_each_time()
      throws Exception {
    HttpResponse<byte[]> page = get("/now", "identity");
    assertThat(cached(page)).isEqualTo("no-cache");
    List<String> files =
        FILE.matcher(new String(page.body())).results().map(found -> found.group(1)).toList();
    assertThat(files).hasSizeGreaterThan(2);
    for (String file : files) {
      HttpResponse<byte[]> plain = get(file, "identity");
      HttpResponse<byte[]> packed = get(file, "gzip, deflate, br");
      assertThat(plain.headers().firstValue("Content-Encoding")).isEmpty();
      assertThat(packed.headers().firstValue("Content-Encoding")).hasValue("gzip");
      // laid down, not made as it is asked for: its length is known
      assertThat(packed.headers().firstValueAsLong("Content-Length"))
          .hasValue(packed.body().length);
      assertThat(new GZIPInputStream(new ByteArrayInputStream(packed.body())).readAllBytes())
          .isEqualTo(plain.body());
      assertThat(packed.headers().firstValue("Content-Type"))
          .isEqualTo(plain.headers().firstValue("Content-Type"));
      assertThat(cached(packed)).contains("max-age=31536000", "immutable", "private");
    }
    HttpResponse<byte[]> gone = get("/assets/of-an-earlier-version.js", "gzip");
    assertThat(gone.statusCode()).isEqualTo(404);
    assertThat(cached(gone)).doesNotContain("immutable");
  }
}
