package jamjar.server.estate;

import jakarta.validation.ConstraintViolation;
import jakarta.validation.Validator;
import jamjar.server.instances.InstanceBody;
import jamjar.server.instances.Soundness;
import jamjar.server.problems.Problem;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.springframework.stereotype.Component;

/** Makes an instance of what a file says, or says what is wrong with it. */
@Component
class RowReader {
  private final Validator validator;
  private final Soundness sound;

  RowReader(Validator validator, Soundness sound) {
    this.validator = validator;
    this.sound = sound;
  }

  /**
   * @param faults what is wrong is added here
   */
  InstanceBody body(FileRow row, List<LineFault> faults) {
    String kind = row.text("kind");
    boolean engine = kind.equals("postgresql");
    String secret = row.text("secret");
    return new InstanceBody(
        row.text("name"),
        kind,
        row.text("group"),
        row.text("site"),
        row.text("machine"),
        list(row.text("tags"), "[\\s,;]"),
        new InstanceBody.Endpoint(
            row.text("host"),
            number(row, "port", engine ? 5432 : 0, faults),
            or(row.text("database"), engine ? "postgres" : ""),
            or(row.text("tls"), "checked"),
            row.text("ca")),
        new InstanceBody.Credential(
            row.text("user"), secret.isEmpty() ? null : secret, row.text("credential")),
        or(row.text("recipe"), kind.equals("appserver") ? "" : kind),
        number(row, "interval", 10, faults),
        or(row.text("zone"), ZoneId.systemDefault().getId()),
        row.cells().containsKey("uses") ? list(row.text("uses"), "[,;]") : null);
  }

  /**
   * @param self the instance that it changes; 0 for a new one
   */
  List<LineFault> faults(FileRow row, InstanceBody body, int self) {
    List<LineFault> faults = new ArrayList<>();
    for (ConstraintViolation<InstanceBody> violation : validator.validate(body)) {
      String field = field(violation.getPropertyPath().toString());
      faults.add(new LineFault(row.lineOf(field), field, violation.getMessage()));
    }
    if (faults.isEmpty()) {
      try {
        sound.require(body, self);
      } catch (Problem e) {
        String field = field(e.field());
        faults.add(new LineFault(row.lineOf(field), field, e.getMessage()));
      }
    }
    return faults;
  }

  /** What the file calls it. */
  private static String field(String path) {
    return path.equals("credential.name")
        ? "credential"
        : path.substring(path.lastIndexOf('.') + 1);
  }

  private static int number(FileRow row, String field, int otherwise, List<LineFault> faults) {
    String text = row.text(field);
    if (text.isEmpty()) {
      return otherwise;
    }
    try {
      return Integer.parseInt(text);
    } catch (NumberFormatException e) {
      faults.add(new LineFault(row.lineOf(field), field, "'" + text + "' is not a number"));
      return otherwise;
    }
  }

  private static List<String> list(String text, String between) {
    return Arrays.stream(text.split(between)).map(String::strip).filter(t -> !t.isEmpty()).toList();
  }

  private static String or(String text, String otherwise) {
    return text.isEmpty() ? otherwise : text;
  }
}
