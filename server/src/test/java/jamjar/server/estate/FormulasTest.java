package jamjar.server.estate;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.files.Formulas;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FormulasTest {

  @ParameterizedTest
  @CsvSource(
      quoteCharacter = '"',
      value = {
        "=HYPERLINK(1),'=HYPERLINK(1)",
        "+1,'+1",
        "-2,'-2",
        "@a,'@a",
        "'=x,''=x",
        "booking-1,booking-1",
        "'tis,'tis",
        "\"\",\"\""
      })
  void what_begins_like_a_formula_is_a_text_in_the_file_and_comes_back_as_it_was(
      String value, String field) {
    assertThat(Formulas.neutral(value)).isEqualTo(field);
    assertThat(Formulas.plain(field)).isEqualTo(value);
  }
}
