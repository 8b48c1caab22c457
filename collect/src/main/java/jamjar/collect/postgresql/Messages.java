package jamjar.collect.postgresql;

import java.io.IOException;
import java.util.Map;

/**
 * Follows what an engine sends, message by message (a letter, a length in four bytes that counts
 * itself, the rest), and refuses what no engine sends: the driver makes room for what a message or
 * a column claims to be before it comes, and reads some messages by what is in them instead of by
 * their length. Source: the frontend/backend protocol 3.0 of PostgreSQL, message formats.
 *
 * <p>What is in a message, in order: a number of bytes; z a text that ends with zero; l such texts,
 * the last of them empty; v a length in four bytes and as many bytes, -1 for none; a the kind of
 * sign-in in four bytes, and what belongs to it; * whatever is left. A count in two bytes and what
 * is repeated stand in parentheses.
 */
final class Messages {
  private static final int OF_COLUMN = 18;

  private static final Map<Character, String> PARTS =
      Map.ofEntries(
          Map.entry('R', "a"),
          Map.entry('S', "zz"),
          Map.entry('K', "*"),
          Map.entry('Z', "1"),
          Map.entry('1', ""),
          Map.entry('2', ""),
          Map.entry('3', ""),
          Map.entry('n', ""),
          Map.entry('s', ""),
          Map.entry('I', ""),
          // of each column its name, then where it is from and of what type (c)
          Map.entry('T', "(zc)"),
          Map.entry('t', "(4)"),
          Map.entry('D', "(v)"),
          Map.entry('C', "*"),
          Map.entry('E', "*"),
          Map.entry('N', "*"),
          Map.entry('A', "4zz"),
          Map.entry('v', "*"));

  /** Rows, notices and whatever else of one answer; a reading asks for 2,000 rows at most. */
  private static final int MOST_MESSAGES = 20_000;

  private final long most;
  private volatile int messages;
  private char letter;
  private String parts;
  private int at;
  private int repeats;

  /** Bytes of the message that are still to come. */
  private long left;

  /** Of these, those that need not be looked at. */
  private long pass;

  private int digits;
  private int number;
  private boolean empty = true;

  /**
   * @param most bytes of a message
   */
  Messages(long most) {
    this.most = most;
  }

  /** Something was asked: what comes now answers that. */
  void asked() {
    messages = 0;
  }

  /** Takes what came. */
  void take(byte[] bytes, int from, int count) throws IOException {
    int next = from;
    int end = from + count;
    while (next < end) {
      if (pass > 0) {
        int passed = (int) Math.min(end - next, pass);
        next += passed;
        pass -= passed;
        left -= passed;
        if (pass == 0) {
          done();
        }
      } else {
        take(bytes[next++]);
      }
    }
  }

  private void take(byte one) throws IOException {
    if (parts == null) {
      head(one);
      return;
    }
    left--;
    switch (parts.charAt(at)) {
      case 'z' -> {
        if (one == 0) {
          done();
        }
      }
      case 'l' -> {
        if (one == 0 && empty) {
          done();
        } else {
          empty = one == 0;
        }
      }
      default -> digit(one);
    }
    if (parts != null && left == 0) {
      throw new NotTaken("it ends a message '" + letter + "' too early");
    }
  }

  private void head(byte one) throws IOException {
    if (digits == 0) {
      letter = (char) (one & 0xff);
      if (!PARTS.containsKey(letter)) {
        throw new NotTaken("it sends a message that no engine sends", true);
      }
      messages = messages + 1;
      if (messages > MOST_MESSAGES) {
        throw new NotTaken("it answers with more than " + MOST_MESSAGES + " messages");
      }
      digits = 1;
      number = 0;
      return;
    }
    number = number << 8 | one & 0xff;
    if (++digits < 5) {
      return;
    }
    if (number < 4 || number > most) {
      throw new NotTaken("it claims a message of " + (number & 0xffffffffL) + " bytes");
    }
    left = number - 4L;
    begin(PARTS.get(letter));
  }

  private void begin(String next) throws IOException {
    parts = next;
    at = -1;
    repeats = 0;
    done();
  }

  /** Takes a byte of a number. */
  private void digit(byte one) throws IOException {
    char part = parts.charAt(at);
    number = number << 8 | one & 0xff;
    if (++digits < (part == '(' ? 2 : 4)) {
      return;
    }
    switch (part) {
      case '(' -> repeat(number);
      case 'v' -> {
        if (number > left || number < -1) {
          throw new NotTaken(
              "it claims a column of " + (number & 0xffffffffL) + " bytes in a shorter message");
        }
        if (number > 0) {
          pass = number;
        } else {
          done();
        }
      }
      default ->
          begin(
              switch (number) {
                case 0, 3 -> "";
                case 5 -> "4";
                case 10 -> "l";
                default -> "*";
              });
    }
  }

  private void repeat(int times) throws IOException {
    repeats = times;
    if (times == 0) {
      at = parts.indexOf(')', at);
    }
    done();
  }

  /** A part is over: the next begins, or the message ends. */
  private void done() throws IOException {
    at++;
    digits = 0;
    number = 0;
    empty = true;
    if (at < parts.length() && parts.charAt(at) == ')' && --repeats > 0) {
      at = parts.indexOf('(') + 1;
    } else if (at < parts.length() && parts.charAt(at) == ')') {
      at++;
    }
    if (at >= parts.length()) {
      if (left > 0) {
        throw new NotTaken("it sends more in a message '" + letter + "' than belongs there");
      }
      parts = null;
      return;
    }
    switch (parts.charAt(at)) {
      case '*' -> {
        pass = left;
        if (left == 0) {
          done();
        }
      }
      case '1' -> passOver(1);
      case '4' -> passOver(4);
      case 'c' -> passOver(OF_COLUMN);
      default -> passOver(0);
    }
  }

  /**
   * @param bytes 0 for a part that is looked at byte by byte
   */
  private void passOver(int bytes) throws IOException {
    if (Math.max(1, bytes) > left) {
      throw new NotTaken("it ends a message '" + letter + "' too early");
    }
    pass = bytes;
  }
}
