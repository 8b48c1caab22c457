package jamjar.server.limits;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Limits. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class LimitController {
  private final LimitService limits;
  private final TryingService trying;
  private final Afterwards afterwards;

  LimitController(LimitService limits, TryingService trying, Afterwards afterwards) {
    this.limits = limits;
    this.trying = trying;
    this.afterwards = afterwards;
  }

  @GetMapping("/limits")
  List<LimitView> all() {
    return limits.all();
  }

  /** What is in force on an instance, each number with its origin. */
  @GetMapping("/instances/{id}/limits")
  List<LimitInForce> inForce(@PathVariable int id) {
    return limits.inForce(id);
  }

  @PostMapping("/limits")
  @ResponseStatus(HttpStatus.CREATED)
  LimitView add(@Valid @RequestBody LimitView.Body body) {
    return limits.add(body);
  }

  /** What each limit told in the last four weeks, the noisiest first. */
  @GetMapping("/limits/noise")
  NoiseView noise() {
    return limits.noise();
  }

  /** What a limit that is not saved would have told in the past weeks. */
  @PostMapping("/limits/replay")
  TryingView replay(@Valid @RequestBody TryingView.Body body) {
    limits.requireSound(body.limit());
    return trying.tried(body);
  }

  /**
   * What it would have told with other numbers.
   *
   * @param wanted how many alerts a week are wanted
   */
  @PostMapping("/limits/replay/numbers")
  TryingView.Numbers numbers(
      @Valid @RequestBody TryingView.Body body, @RequestParam @Min(0) @Max(1_000) double wanted) {
    limits.requireSound(body.limit());
    return trying.numbers(body, wanted);
  }

  /**
   * How many alerts there would have been.
   *
   * @param alerts before the instances came under watch, by the limits as they are now
   */
  @Schema(name = "JudgedAfterwards")
  record Judged(int alerts) {}

  /**
   * Judges what was kept of the time before each instance came under watch, as after an import. Its
   * alerts are told to nobody.
   */
  @PostMapping("/limits/afterwards")
  Judged afterwards() {
    return new Judged(afterwards.judge());
  }

  /** Changes several at once: all of them, or none where one is at fault. */
  @PutMapping("/limits")
  List<LimitView> changeAll(
      @Valid @RequestBody @Size(min = 1, max = 500) List<LimitView.@NotNull Change> changes) {
    return limits.change(changes);
  }

  @PutMapping("/limits/{id}")
  LimitView change(@PathVariable int id, @Valid @RequestBody LimitView.Body body) {
    return limits.change(id, body);
  }

  @DeleteMapping("/limits/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable int id) {
    limits.remove(id);
  }
}
