package jamjar.server.live;

import java.util.Set;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The live stream. */
@RestController
@RequestMapping("/api")
class LiveController {
  private final LiveStreams streams;
  private final Greeting greeting;

  LiveController(LiveStreams streams, Greeting greeting) {
    this.streams = streams;
    this.greeting = greeting;
  }

  /**
   * Server-sent events: {@code state} of every instance, {@code reading} of the named ones, {@code
   * removed}, {@code changed} when alerts, limits or markers are to be fetched again, {@code beat}
   * every two seconds, and {@code reload} to a client that was too slow to be told everything.
   *
   * @param instances numbers of the instances whose readings are wanted
   */
  @GetMapping(path = "/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter live(@RequestParam(defaultValue = "") Set<Integer> instances) {
    return streams.open(instances, greeting.first());
  }
}
