package jamjar.server.telling;

import jamjar.server.numbers.Units;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.Path2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.stream.DoubleStream;
import javax.imageio.ImageIO;

/** Draws a small chart with its normal and its limit, as the screens do. */
final class Pictures {
  static final int WIDTH = 1200;
  static final int HEIGHT = 440;
  private static final int LEFT = 130;
  private static final int RIGHT = 30;
  private static final int TOP = 56;
  private static final int BOTTOM = 50;
  private static final Color PAPER = new Color(0xFFFDF9);
  private static final Color RULE = new Color(0xE2D8C6);
  private static final Color INK = new Color(0x2A2230);
  private static final Color SOFT = new Color(0x665D6C);
  private static final Color OAT = new Color(0xEADFC8);
  private static final Color OAT_EDGE = new Color(0x9C8A63);
  private static final Color RASPBERRY = new Color(0xB0123B);
  private static final Color LINE = new Color(0x3D4F9F);
  private static final DateTimeFormatter CLOCK =
      DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);

  /**
   * What is drawn. The lists have the same length; NaN stands for nothing.
   *
   * @param at epoch ms, rising
   * @param limit NaN for none
   */
  record Chart(
      String title,
      String unit,
      ZoneId zone,
      long from,
      long to,
      List<Long> at,
      double[] value,
      double[] normalLow,
      double[] normalHigh,
      double limit) {}

  private Pictures() {}

  /** A PNG of 1200 by 440. */
  static byte[] png(Chart chart) throws IOException {
    BufferedImage image = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
    Graphics2D g = image.createGraphics();
    try {
      g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
      g.setRenderingHint(
          RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
      draw(g, chart);
    } finally {
      g.dispose();
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(image, "png", out);
    return out.toByteArray();
  }

  private static void draw(Graphics2D g, Chart chart) {
    g.setColor(PAPER);
    g.fillRect(0, 0, WIDTH, HEIGHT);
    double most =
        DoubleStream.concat(
                DoubleStream.concat(
                    DoubleStream.of(chart.value()), DoubleStream.of(chart.normalHigh())),
                DoubleStream.of(chart.limit()))
            .filter(Double::isFinite)
            .max()
            .orElse(1);
    double least =
        Math.min(
            0,
            DoubleStream.concat(DoubleStream.of(chart.value()), DoubleStream.of(chart.normalLow()))
                .filter(Double::isFinite)
                .min()
                .orElse(0));
    double top = most > least ? least + (most - least) * 1.08 : least + 1;
    Scale scale = new Scale(chart.from(), chart.to(), least, top);
    band(g, chart, scale);
    axes(g, chart, scale, least, most);
    if (Double.isFinite(chart.limit())) {
      g.setColor(RASPBERRY);
      g.setStroke(new BasicStroke(2));
      int y = (int) scale.y(chart.limit());
      g.drawLine(LEFT, y, WIDTH - RIGHT, y);
      text(g, "limit " + Units.number(chart.limit(), chart.unit()), WIDTH - RIGHT, y - 8, true);
    }
    line(g, chart, scale);
    g.setColor(INK);
    g.setFont(new Font(Font.SANS_SERIF, Font.BOLD, 24));
    g.drawString(chart.title(), 24, 34);
  }

  private record Scale(long from, long to, double least, double top) {
    double x(long at) {
      return LEFT + (double) (at - from) / Math.max(1, to - from) * (WIDTH - LEFT - RIGHT);
    }

    double y(double value) {
      return HEIGHT - BOTTOM - (value - least) / (top - least) * (HEIGHT - TOP - BOTTOM);
    }
  }

  private static void band(Graphics2D g, Chart chart, Scale scale) {
    Path2D.Double band = new Path2D.Double();
    Path2D.Double low = new Path2D.Double();
    Path2D.Double high = new Path2D.Double();
    int n = chart.at().size();
    boolean drawn = false;
    for (int i = 0; i < n; i++) {
      if (known(chart, i)) {
        double x = scale.x(chart.at().get(i));
        to(band, drawn, x, scale.y(chart.normalHigh()[i]));
        to(high, drawn, x, scale.y(chart.normalHigh()[i]));
        to(low, drawn, x, scale.y(chart.normalLow()[i]));
        drawn = true;
      }
    }
    if (!drawn) {
      return;
    }
    for (int i = n - 1; i >= 0; i--) {
      if (known(chart, i)) {
        band.lineTo(scale.x(chart.at().get(i)), scale.y(chart.normalLow()[i]));
      }
    }
    band.closePath();
    g.setColor(OAT);
    g.fill(band);
    g.setColor(OAT_EDGE);
    g.setStroke(new BasicStroke(1.5f));
    g.draw(low);
    g.draw(high);
  }

  private static boolean known(Chart chart, int i) {
    return Double.isFinite(chart.normalLow()[i]) && Double.isFinite(chart.normalHigh()[i]);
  }

  private static void to(Path2D.Double path, boolean drawn, double x, double y) {
    if (drawn) {
      path.lineTo(x, y);
    } else {
      path.moveTo(x, y);
    }
  }

  private static void axes(Graphics2D g, Chart chart, Scale scale, double least, double most) {
    g.setStroke(new BasicStroke(1));
    g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, 20));
    for (double part : new double[] {0, 0.5, 1}) {
      double value = least + part * (most - least);
      int y = (int) scale.y(value);
      g.setColor(RULE);
      g.drawLine(LEFT, y, WIDTH - RIGHT, y);
      g.setColor(SOFT);
      text(g, Units.number(value, chart.unit()), LEFT - 10, y + 7, true);
    }
    for (int i = 0; i <= 4; i++) {
      long at = chart.from() + i * (chart.to() - chart.from()) / 4;
      String clock = Instant.ofEpochMilli(at).atZone(chart.zone()).format(CLOCK);
      text(g, clock, (int) scale.x(at) + (i == 4 ? 0 : 28), HEIGHT - 18, true);
    }
  }

  /** A gap is a gap: no line is drawn across it. */
  private static void line(Graphics2D g, Chart chart, Scale scale) {
    g.setStroke(new BasicStroke(3, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND));
    g.setColor(LINE);
    Path2D.Double path = new Path2D.Double();
    boolean drawn = false;
    for (int i = 0; i < chart.at().size(); i++) {
      double value = chart.value()[i];
      if (Double.isFinite(value)) {
        to(path, drawn, scale.x(chart.at().get(i)), scale.y(value));
        drawn = true;
      } else {
        drawn = false;
      }
    }
    g.draw(path);
  }

  private static void text(Graphics2D g, String text, int x, int y, boolean right) {
    int width = g.getFontMetrics().stringWidth(text);
    g.drawString(text, right ? x - width : x, y);
  }
}
