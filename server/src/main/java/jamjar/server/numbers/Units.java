package jamjar.server.numbers;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.util.Locale;

/** Numbers with their units, in the words of the screens. */
public final class Units {
  private static final String[] BINARY = {"B", "KiB", "MiB", "GiB", "TiB", "PiB"};

  private Units() {}

  /**
   * Whole counts exact to 99 999, others three significant figures, with unit.
   *
   * @param unit as the counter declares it; empty for a count
   */
  public static String number(double value, String unit) {
    return switch (unit) {
      case "s" -> seconds(value);
      case "s/s" -> seconds(value) + "/s";
      case "B" -> bytes(value);
      case "B/s" -> bytes(value) + "/s";
      case "%" -> percent(value) + " %";
      case "" ->
          value == Math.rint(value) && Math.abs(value) < 100_000
              ? Long.toString((long) value)
              : scaled(value);
      default -> scaled(value) + " " + unit;
    };
  }

  /** Two numbers with the unit once where both have the same. */
  public static String range(double low, double high, String unit) {
    String a = number(low, unit);
    String b = number(high, unit);
    if (a.equals(b)) {
      return a;
    }
    int space = a.lastIndexOf(' ');
    return space > 0 && b.endsWith(a.substring(space))
        ? a.substring(0, space) + " – " + b
        : a + " – " + b;
  }

  /** How long, in one unit. */
  public static String span(long millis) {
    long s = Math.max(0, Math.round(millis / 1000.0));
    if (s < 120) {
      return s + " s";
    }
    long min = Math.round(s / 60.0);
    if (min < 120) {
      return min + " min";
    }
    long h = Math.round(min / 60.0);
    return h < 48 ? h + " h" : Math.round(h / 24.0) + " d";
  }

  private static String three(double value) {
    if (value == 0) {
      return "0";
    }
    BigDecimal rounded = new BigDecimal(value).round(new MathContext(3, RoundingMode.HALF_UP));
    return Math.abs(value) >= 100
        ? Long.toString(Math.round(value))
        : rounded.setScale(digits(rounded), RoundingMode.HALF_UP).toPlainString();
  }

  /** Behind the point, so that three figures are told. */
  private static int digits(BigDecimal rounded) {
    int before = rounded.precision() - rounded.scale();
    return Math.min(6, Math.max(0, 3 - before));
  }

  private static String scaled(double value) {
    double size = Math.abs(value);
    if (size >= 1e9) {
      return three(value / 1e9) + " G";
    }
    if (size >= 1e6) {
      return three(value / 1e6) + " M";
    }
    if (size >= 1e5) {
      return three(value / 1e3) + " k";
    }
    return size >= 1000 ? String.format(Locale.ROOT, "%d", Math.round(value)) : three(value);
  }

  private static String bytes(double value) {
    int step = 0;
    double rest = value;
    while (Math.abs(rest) >= 1024 && step < BINARY.length - 1) {
      rest /= 1024;
      step++;
    }
    return (step == 0 ? Long.toString(Math.round(rest)) : three(rest)) + " " + BINARY[step];
  }

  private static String seconds(double value) {
    double size = Math.abs(value);
    if (size == 0) {
      return "0 s";
    }
    if (size < 1e-3) {
      return three(value * 1e6) + " µs";
    }
    if (size < 1) {
      return three(value * 1e3) + " ms";
    }
    if (size < 300) {
      return three(value) + " s";
    }
    if (size < 2 * 3600) {
      return three(value / 60) + " min";
    }
    return size < 2 * 86400 ? three(value / 3600) + " h" : three(value / 86400) + " d";
  }

  /** Nothing short of the whole rounds up to it. */
  private static String percent(double value) {
    String text = three(value);
    return value < 100 && Double.parseDouble(text) >= 100
        ? String.format(Locale.ROOT, "%.2f", Math.floor(value * 100) / 100)
        : text;
  }
}
