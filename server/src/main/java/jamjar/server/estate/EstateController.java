package jamjar.server.estate;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.problems.Problem;
import java.util.UUID;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** All instances at once, from a file and into one. */
@RestController
@RequestMapping(path = "/api/estate")
class EstateController {
  private final EstateImport imports;
  private final EstateExport exports;

  EstateController(EstateImport imports, EstateExport exports) {
    this.imports = imports;
    this.exports = exports;
  }

  /**
   * A file of instances.
   *
   * @param text what stands in it
   */
  record EstateText(
      @NotBlank @Size(max = 4_000_000) String text,
      @NotNull @Pattern(regexp = "yaml|csv", message = "is yaml or csv") String format) {

    /** It may hold passwords. */
    @Override
    public String toString() {
      return format;
    }
  }

  /**
   * Takes it in.
   *
   * @param dry whether only to tell what it would do
   * @param insist whether to take those too that do not pass their checks
   * @param run a name of the caller's choice, by which its progress is asked for
   */
  @PostMapping(path = "/import", produces = "application/json")
  EstateImport.Result take(
      @Valid @RequestBody EstateText file,
      @RequestParam(defaultValue = "true") boolean dry,
      @RequestParam(defaultValue = "false") boolean insist,
      @RequestParam(defaultValue = "") @Size(max = 80) String run) {
    String name = run.isEmpty() ? UUID.randomUUID().toString() : run;
    return imports.run(file.text(), file.format(), dry, insist, name);
  }

  /** How far a run is. */
  @GetMapping(path = "/import/{run}", produces = "application/json")
  Trying.Progress progress(@PathVariable String run) {
    return running(run).progress();
  }

  /** Stops a run: what was not tried yet is told as untried, and nothing is taken. */
  @DeleteMapping("/import/{run}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void stop(@PathVariable String run) {
    running(run).stop();
  }

  private Trying running(String run) {
    return imports
        .running(run)
        .orElseThrow(() -> Problem.unknown("No file is being tried under this name any more."));
  }

  @GetMapping("/estate.yaml")
  ResponseEntity<String> yaml() {
    return file("estate.yaml", "application/yaml", exports.yaml());
  }

  @GetMapping("/estate.csv")
  ResponseEntity<String> csv() {
    return file("estate.csv", "text/csv;charset=UTF-8", exports.csv());
  }

  private static ResponseEntity<String> file(String name, String type, String text) {
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType(type))
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + name + "\"")
        .body(text);
  }
}
