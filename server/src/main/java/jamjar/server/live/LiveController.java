package jamjar.server.live;

import jakarta.servlet.http.HttpServletRequest;
import jamjar.server.security.Stays;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The live stream. */
@RestController
@RequestMapping("/api")
class LiveController {
  private final LiveStreams streams;
  private final Greeting greeting;
  private final Stays stays;

  LiveController(LiveStreams streams, Greeting greeting, Stays stays) {
    this.streams = streams;
    this.greeting = greeting;
    this.stays = stays;
  }

  /**
   * Server-sent events: {@code stream} with its {@code id} first, {@code state} of every instance,
   * {@code reading} of the named ones, {@code removed}, {@code changed} when alerts, limits or
   * markers are to be fetched again, {@code beat} every two seconds, and {@code reload} to a client
   * that was too slow to be told everything.
   *
   * @param instances numbers of the instances whose readings are wanted
   */
  @GetMapping(path = "/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter live(
      @RequestParam(defaultValue = "") Set<Integer> instances, HttpServletRequest request) {
    return streams.open(instances, stays.of(request), greeting.first());
  }

  /**
   * What a stream tells from now on, so that it need not be opened anew.
   *
   * @param instances whose readings are wanted
   */
  record Wanted(Set<Integer> instances) {
    Wanted {
      instances =
          instances == null
              ? Set.of()
              : instances.stream().filter(Objects::nonNull).collect(Collectors.toSet());
    }
  }

  /** Says what an open stream is to tell; 404 for one that is not open any more. */
  @PostMapping("/live/{stream}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void want(@PathVariable String stream, @RequestBody Wanted wanted) {
    streams.want(stream, wanted.instances());
  }
}
