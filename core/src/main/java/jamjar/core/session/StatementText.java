package jamjar.core.session;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What is kept of a statement: its text without the values in it, and a fingerprint by which it is
 * known on every instance and version.
 *
 * @param text literals, parameters and lists of them folded to ?, white space to one blank,
 *     comments dropped, lower case outside quotes
 * @param fingerprint the first 64 bits of the text's SHA-256; never 0
 * @param module what a comment such as {@code module='checkout'} says; empty for nothing
 */
public record StatementText(String text, long fingerprint, String module) {
  private static final int LONGEST = 10_000;

  /** Of a statement about roles or passwords nothing is kept but what it is. */
  private static final Pattern SECRET =
      Pattern.compile(
          "\\b(create|alter) (role|user|group|server|subscription|foreign)\\b"
              + "|\\b(password|passwd|identified by)\\b");

  private static final Pattern MODULE =
      Pattern.compile(
          "\\b(?:module|action|route|controller)\\s*[:=]\\s*'?([A-Za-z0-9_./-]{1,60})",
          Pattern.CASE_INSENSITIVE);

  /**
   * One is as good as many: in (1), in (1, 2), values (1, 2), (3, 4). Nothing is given back once it
   * fits, so that however long a list is it takes no deeper stack.
   */
  private static final Pattern LISTS =
      Pattern.compile(
          "\\b(in|values) ?\\(\\?(?:, ?\\?)*+\\)(?:, ?\\(\\?(?:, ?\\?)*+\\))*+"
              + "|\\barray ?\\[\\?(?:, ?\\?)*+]");

  /**
   * @param sql as a program sent it, or the engine's own form of it; cut off where the engine cuts
   */
  public static StatementText of(String sql) {
    Folding folding = new Folding(sql);
    String text = folding.text();
    text =
        LISTS.matcher(text).replaceAll(m -> m.group(1) == null ? "array[…]" : m.group(1) + " (…)");
    Matcher secret = SECRET.matcher(text);
    if (secret.find()) {
      text = text.split(" ", 3).length < 2 ? "?" : firstWords(text) + " … (not kept)";
    }
    if (text.length() > LONGEST) {
      text = text.substring(0, LONGEST) + "…";
    }
    return new StatementText(text, fingerprint(text), folding.module);
  }

  private static String firstWords(String text) {
    String[] words = text.split(" ", 3);
    return words[0] + " " + words[1].replaceAll("[^a-z]", "");
  }

  private static long fingerprint(String text) {
    try {
      byte[] hash =
          MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
      long first = ByteBuffer.wrap(hash).getLong();
      return first == 0 ? 1 : first;
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  /** Walks over a text once. */
  private static final class Folding {
    private final String sql;
    private final StringBuilder out = new StringBuilder();
    private int at;
    private String module = "";

    Folding(String sql) {
      this.sql = sql;
    }

    String text() {
      while (at < sql.length() && out.length() <= LONGEST + 100) {
        char c = sql.charAt(at);
        if (Character.isWhitespace(c)) {
          at++;
          blank();
        } else if (c == '-' && next(1) == '-') {
          comment(until("\n"));
        } else if (c == '/' && next(1) == '*') {
          comment(blockComment());
        } else if (c == '\'') {
          string(isEscaped());
        } else if (c == '"') {
          quotedName();
        } else if (c == '$') {
          dollar();
        } else if (Character.isDigit(c) || c == '.' && Character.isDigit(next(1))) {
          number();
        } else if (isName(c)) {
          name();
        } else {
          at++;
          out.append(c);
          if (c == ',' || c == '(') {
            skipBlanks();
          }
          if (c == ',') {
            out.append(' ');
          }
        }
      }
      String text = out.toString().strip();
      while (text.endsWith(";")) {
        text = text.substring(0, text.length() - 1).strip();
      }
      return text;
    }

    private char next(int further) {
      return at + further < sql.length() ? sql.charAt(at + further) : '\0';
    }

    private static boolean isName(char c) {
      return Character.isLetter(c) || c == '_';
    }

    private void blank() {
      if (out.length() > 0 && " (".indexOf(out.charAt(out.length() - 1)) < 0) {
        out.append(' ');
      }
    }

    private void skipBlanks() {
      while (at < sql.length() && Character.isWhitespace(sql.charAt(at))) {
        at++;
      }
    }

    /** A value: a sign before it that is its own goes with it. */
    private void value() {
      int end = out.length();
      int sign = end;
      while (sign > 0 && out.charAt(sign - 1) == ' ') {
        sign--;
      }
      if (sign > 0 && out.charAt(sign - 1) == '-') {
        int before = sign - 1;
        while (before > 0 && out.charAt(before - 1) == ' ') {
          before--;
        }
        if (before == 0 || "(,=<>+*/".indexOf(out.charAt(before - 1)) >= 0) {
          out.setLength(sign - 1);
        }
      }
      out.append('?');
    }

    private String until(String end) {
      int to = sql.indexOf(end, at);
      String passed = sql.substring(at, to < 0 ? sql.length() : to);
      at = to < 0 ? sql.length() : to + end.length();
      return passed;
    }

    private String blockComment() {
      int from = at;
      int depth = 0;
      do {
        if (sql.startsWith("/*", at)) {
          depth++;
          at += 2;
        } else if (sql.startsWith("*/", at)) {
          depth--;
          at += 2;
        } else {
          at++;
        }
      } while (depth > 0 && at < sql.length());
      return sql.substring(from, Math.min(at, sql.length()));
    }

    private void comment(String words) {
      Matcher told = MODULE.matcher(words);
      if (module.isEmpty() && told.find()) {
        module = told.group(1);
      }
      blank();
    }

    /** Whether what was written last begins a text in which \ counts; such a beginning goes. */
    private boolean isEscaped() {
      int end = out.length();
      boolean escaped = false;
      if (end > 0 && "ebxn".indexOf(out.charAt(end - 1)) >= 0) {
        boolean alone = end == 1 || !isNamePart(out.charAt(end - 2));
        if (alone) {
          escaped = out.charAt(end - 1) == 'e';
          out.setLength(end - 1);
        }
      } else if (end > 1 && out.charAt(end - 1) == '&' && out.charAt(end - 2) == 'u') {
        out.setLength(end - 2);
      }
      return escaped;
    }

    private static boolean isNamePart(char c) {
      return Character.isLetterOrDigit(c) || c == '_' || c == '$' || c == '"';
    }

    /** One that is cut off takes all that is left with it. */
    private void string(boolean escaped) {
      at++;
      while (at < sql.length()) {
        char c = sql.charAt(at);
        if (escaped && c == '\\') {
          at += 2;
        } else if (c == '\'' && next(1) == '\'') {
          at += 2;
        } else if (c == '\'') {
          break;
        } else {
          at++;
        }
      }
      at = Math.min(sql.length(), at + 1);
      value();
    }

    private void quotedName() {
      int from = at++;
      while (at < sql.length() && sql.charAt(at) != '"') {
        at++;
      }
      at = Math.min(sql.length(), at + 1);
      out.append(sql, from, at);
    }

    /** A parameter, or a text between two marks of one's own. */
    private void dollar() {
      int end = at + 1;
      if (Character.isDigit(next(1))) {
        while (end < sql.length() && Character.isDigit(sql.charAt(end))) {
          end++;
        }
        at = end;
        value();
        return;
      }
      while (end < sql.length() && isNamePart(sql.charAt(end)) && sql.charAt(end) != '$') {
        end++;
      }
      if (end < sql.length() && sql.charAt(end) == '$') {
        String mark = sql.substring(at, end + 1);
        at = end + 1;
        until(mark);
        value();
      } else {
        out.append('$');
        at++;
      }
    }

    private void number() {
      while (at < sql.length() && (isNamePart(sql.charAt(at)) || sql.charAt(at) == '.')) {
        boolean exponent = "eE".indexOf(sql.charAt(at)) >= 0;
        at++;
        if (exponent && (next(0) == '-' || next(0) == '+') && Character.isDigit(next(1))) {
          at++;
        }
      }
      value();
    }

    private void name() {
      int from = at;
      while (at < sql.length() && isNamePart(sql.charAt(at)) && sql.charAt(at) != '"') {
        at++;
      }
      out.append(sql.substring(from, at).toLowerCase(Locale.ROOT));
    }
  }
}
