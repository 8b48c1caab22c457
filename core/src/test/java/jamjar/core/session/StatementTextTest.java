package jamjar.core.session;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.AlphaChars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StatementTextTest {
  private static String text(String sql) {
    return StatementText.of(sql).text();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "SELECT  *\t FROM Berth WHERE id = 42 | select * from berth where id = ?",
        "select 'it''s', E'a\\'b', $$free$$, $x$ in $$ it $x$ | select ?, ?, ?, ?",
        "select * from t where a in (1, 2,3) and b = -5.2e-3 | select * from t where a in (…) and b = ?",
        "select a - 1 from t1 | select a - ? from t1",
        "insert into t values ($1,$2), ($3,$4) | insert into t values (…)",
        "select f(1), g(2, 3), array[1,2] from t where x in(1) | select f(?), g(?, ?), array[…] from t where x in (…)",
        "select \"Wide Name\", lower(X) from t -- a word | select \"Wide Name\", lower(x) from t",
        "select /* one /* in */ another */ 1; | select ?",
        "select * from t where name = 'cut o | select * from t where name = ?",
        "select b'101', x'ff', n'q', 'a'::date | select ?, ?, ?, ?::date",
        "select tabe'x' | select tabe?"
      })
  void folds_what_is_a_value(String sql, String folded) {
    assertThat(text(sql.strip())).isEqualTo(folded.strip());
  }

  @Test
  void keeps_of_roles_and_passwords_only_what_it_is() {
    assertThat(text("ALTER ROLE web PASSWORD 'made-up-secret'"))
        .isEqualTo("alter role … (not kept)");
    assertThat(text("create user web with encrypted password 'x'"))
        .isEqualTo("create user … (not kept)");
    assertThat(text("CREATE SUBSCRIPTION s CONNECTION 'host=a password=b'"))
        .isEqualTo("create subscription … (not kept)");
  }

  @Test
  void has_one_fingerprint_for_what_differs_by_its_values_alone() {
    StatementText one = StatementText.of("select * from t where a = 1 and b in (1,2)");
    StatementText other =
        StatementText.of("SELECT * FROM t\n  WHERE a = $1 AND b IN ($2, $3, $4) /* x */");
    assertThat(one.fingerprint()).isEqualTo(other.fingerprint()).isNotZero();
    // told once and for all: it must survive every upgrade of ours
    assertThat(Long.toHexString(StatementText.of("select 1").fingerprint()))
        .isEqualTo("e1c71d1661ae46e0");
    assertThat(one.fingerprint())
        .isNotEqualTo(StatementText.of("select * from u where a = 1").fingerprint());
  }

  @Test
  void folds_a_list_however_long() {
    String many = "1,".repeat(3_000) + "1";
    assertThat(text("select * from t where a in (" + many + ")"))
        .isEqualTo("select * from t where a in (…)");
    assertThat(text("insert into t values " + "(1,2),".repeat(900) + "(1,2)"))
        .isEqualTo("insert into t values (…)");
  }

  @Test
  void takes_the_module_from_a_comment() {
    assertThat(StatementText.of("/*action='hold berth',module='checkout'*/ select 1").module())
        .isEqualTo("hold");
    assertThat(StatementText.of("select 1 -- module: pay/card").module()).isEqualTo("pay/card");
    assertThat(StatementText.of("select 1 -- nothing of it").module()).isEmpty();
  }

  @Property
  void never_keeps_a_literal(@ForAll @AlphaChars @StringLength(min = 8, max = 30) String secret) {
    String planted = "Zq" + secret;
    for (String sql :
        new String[] {
          "select '" + planted + "'",
          "update t set a = E'x\\'" + planted + "' where b = 1",
          "select $a$" + planted + "$a$, '" + planted,
          "select 1 /* " + planted + " */ + 2 -- " + planted
        }) {
      assertThat(text(sql)).doesNotContainIgnoringCase(planted);
    }
  }
}
