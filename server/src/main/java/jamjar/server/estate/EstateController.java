package jamjar.server.estate;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
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
   */
  @PostMapping(path = "/import", produces = "application/json")
  EstateImport.Result take(
      @Valid @RequestBody EstateText file,
      @RequestParam(defaultValue = "true") boolean dry,
      @RequestParam(defaultValue = "false") boolean insist) {
    return imports.run(file.text(), file.format(), dry, insist);
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
