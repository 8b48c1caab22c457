package jamjar.collect.recipe;

/**
 * What is wrong in a recipe file.
 *
 * @param line from 1; 0 when the whole file is meant
 * @param field path of the field, such as {@code counters[3].shape}
 */
public record Fault(String file, int line, String field, String sentence) {

  @Override
  public String toString() {
    return file + ", line " + line + (field.isEmpty() ? "" : ", " + field) + ": " + sentence;
  }
}
