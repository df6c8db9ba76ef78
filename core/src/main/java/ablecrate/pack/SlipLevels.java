package ablecrate.pack;

import ablecrate.dsp.LevelMeasure;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.function.Function;
import java.util.stream.DoubleStream;

/// Levels before and after on the page of the slip: a picture, and the figures behind it.
final class SlipLevels {
    /// More points than these are one smear; then every nth file is drawn.
    private static final int MOST_DRAWN = 1500;
    private static final int WIDTH = 1000, HEIGHT = 260, LEFT = 46, RIGHT = 10, TOP = 12, BOTTOM = 14;

    private final List<PackingSlip.Output> all;
    private final LevelMeasure measure;

    SlipLevels(PackingSlip slip) {
        all = slip.items().stream().flatMap(i -> i.outputs().stream()).filter(o -> o.levels().isPresent()).toList();
        String asked = String.valueOf(slip.options().get("level"));
        measure = LevelMeasure.byId(asked.contains(":") ? asked.substring(0, asked.indexOf(':')) : "").orElse(LevelMeasure.TRUE_PEAK);
    }

    /// @param heading element of the heading
    void append(StringBuilder out, String heading) {
        if (all.isEmpty()) return;
        out.append('<').append(heading).append(">Levels</").append(heading).append(">\n");
        picture(out);
        table(out);
    }

    private OptionalDouble before(PackingSlip.Output o) { return o.levels().orElseThrow().before().by(measure); }

    private OptionalDouble after(PackingSlip.Output o) { return o.levels().orElseThrow().after().by(measure); }

    private void picture(StringBuilder out) {
        List<PackingSlip.Output> known = all.stream().filter(o -> before(o).isPresent() && after(o).isPresent()).toList();
        if (known.isEmpty()) return;
        int step = Math.ceilDiv(known.size(), MOST_DRAWN);
        double low = Math.floor(known.stream().flatMapToDouble(o -> DoubleStream.of(before(o).getAsDouble(), after(o).getAsDouble())).min().orElse(-60) / 6)
                * 6,
                high = Math.ceil(known.stream().flatMapToDouble(o -> DoubleStream.of(before(o).getAsDouble(), after(o).getAsDouble())).max().orElse(0) / 6) * 6;
        if (high <= low) high = low + 6;
        double span = high - low, top = high;
        Function<Double, Double> y = v -> TOP + (top - v) / span * (HEIGHT - TOP - BOTTOM);
        double each = (WIDTH - LEFT - RIGHT) / (double) known.size(), radius = Math.clamp(each * step / 2.6, 1, 4);
        DoubleStream.Builder ends = DoubleStream.builder();
        known.forEach(o -> ends.add(after(o).getAsDouble()));
        double[] sorted = ends.build().sorted().toArray();
        String told = String.format(Locale.ROOT, "%,d files by %s: after packing between %.1f and %.1f %s, half of them at or above %.1f", known.size(),
                measure.label(), sorted[0], sorted[sorted.length - 1], measure.unit(), sorted[sorted.length / 2]);
        out.append("<p class=\"quiet\">").append(SlipPage.escape(told)).append(step > 1 ? "; every " + step + "th is drawn" : "")
                .append(". Rings before, dots after; squares where the target was missed.</p>\n<svg class=\"chart\" viewBox=\"0 0 ").append(WIDTH)
                .append(' ').append(HEIGHT)
                .append("\" role=\"img\" aria-label=\"").append(SlipPage.escape(told)).append("\">\n");
        double grid = span > 60 ? 12 : span > 24 ? 6 : 3;
        for (double v = low; v <= high; v += grid)
            out.append(String.format(Locale.ROOT,
                    "<line class=\"grid\" x1=\"%d\" x2=\"%d\" y1=\"%.1f\" y2=\"%.1f\"/><text x=\"%d\" y=\"%.1f\" text-anchor=\"end\">%.0f</text>\n",
                    LEFT, WIDTH - RIGHT, y.apply(v), y.apply(v), LEFT - 8, y.apply(v) + 4, v));
        for (int i = 0; i < known.size(); i += step) {
            PackingSlip.Output o = known.get(i);
            double x = LEFT + (i + 0.5) * each, from = y.apply(before(o).getAsDouble()), to = y.apply(after(o).getAsDouble());
            boolean isMissed = o.checks().stream().anyMatch(PackingSlip.Check::isMissed);
            out.append(
                    String.format(Locale.ROOT, "<g><title>%s: %.1f → %.1f %s%s</title><line class=\"change\" x1=\"%.1f\" x2=\"%.1f\" y1=\"%.1f\" y2=\"%.1f\"/>",
                            SlipPage.escape(o.path()), before(o).getAsDouble(), after(o).getAsDouble(), measure.unit(), isMissed ? ", target missed" : "", x, x,
                            from, to));
            out.append(String.format(Locale.ROOT, "<circle class=\"before\" cx=\"%.1f\" cy=\"%.1f\" r=\"%.1f\"/>", x, from, radius));
            out.append(isMissed
                    ? String.format(Locale.ROOT, "<rect class=\"missed\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\"/></g>\n", x - radius, to - radius,
                            2 * radius, 2 * radius)
                    : String.format(Locale.ROOT, "<circle class=\"after\" cx=\"%.1f\" cy=\"%.1f\" r=\"%.1f\"/></g>\n", x, to, radius));
        }
        out.append("</svg>\n");
    }

    private void table(StringBuilder out) {
        out.append("<details class=\"folder\"><summary>All figures <small>before → after</small></summary>\n<table><thead><tr><th scope=\"col\">File</th>");
        for (LevelMeasure m : LevelMeasure.values())
            out.append("<th scope=\"col\" class=\"number\">").append(m.label()).append(", ").append(m.unit()).append("</th>");
        out.append("</tr></thead><tbody>\n");
        for (PackingSlip.Output o : all) {
            out.append("<tr><th scope=\"row\">").append(SlipPage.escape(o.path())).append("</th>");
            for (LevelMeasure m : LevelMeasure.values()) {
                OptionalDouble after = o.levels().orElseThrow().after().by(m);
                out.append("<td class=\"number\" data-label=\"").append(m.label()).append("\" data-value=\"").append(after.orElse(-1000)).append("\">")
                        .append(figure(o.levels().get().before().by(m))).append(" → ").append(figure(after)).append("</td>");
            }
            out.append("</tr>\n");
        }
        out.append("</tbody></table></details>\n");
    }

    private static String figure(OptionalDouble value) { return value.isPresent() ? String.format(Locale.ROOT, "%.2f", value.getAsDouble()) : "–"; }
}
