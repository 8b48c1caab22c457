package jamjar.core.chart;

/** What a total grew by in a window: readings that cover a gap count with what lies in it, too. */
final class Sums {
  private Sums() {}

  /** As kept; NaN where nothing is known. */
  static double of(Stepped stepped, long from, long to) {
    double sum = 0;
    boolean any = false;
    if (!stepped.parts().isEmpty()) {
      for (Steps day : stepped.parts().get(0)) {
        for (int s = 0; s < day.size(); s++) {
          long start = day.from() + s * day.width();
          double share = share(start, start + day.width(), from, to);
          boolean covered = day.covered()[s] > 0;
          if (share > 0 && (covered || day.beside()[s] != 0)) {
            sum += ((covered ? day.amount()[s] : 0) + day.beside()[s]) * share;
            any = true;
          }
        }
      }
    }
    for (Stepped.Stretch stretch : stepped.rest()) {
      Samples samples = stretch.samples();
      for (int i = 0; i < samples.size(); i++) {
        long at = samples.at()[i];
        long begin = at - samples.elapsed()[i];
        long first = Math.max(begin, stretch.from());
        long last = Math.min(at, stretch.to());
        double share = share(first, last, from, to);
        double value = samples.value()[i];
        if (share > 0 && !Double.isNaN(value)) {
          // what a step has of it beyond the edge is not counted again
          double here =
              Stepping.part(value, last - begin, at - begin)
                  - Stepping.part(value, first - begin, at - begin);
          sum += here * share;
          any = true;
        }
      }
    }
    return any ? sum : Double.NaN;
  }

  /** How much of a stretch lies within a window, from 0 to 1; not above 0 where none of it does. */
  private static double share(long from, long to, long begin, long end) {
    double within = Math.min(to, end) - (double) Math.max(from, begin);
    return to > from ? within / (to - from) : 0;
  }
}
