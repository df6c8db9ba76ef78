package ablecrate.pack;

import ablecrate.change.ChangeEntry;
import ablecrate.disk.SafeFile;
import ablecrate.dsp.LevelMeasure;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Leaves the slip in the folder packed into: JSON for programs, HTML for people.
final class SlipFiles {
    private static final String STYLE = """
            body{font:15px/1.45 Barlow,'Segoe UI',system-ui,sans-serif;background:#E7E2D6;color:#15232B;margin:2rem auto;max-width:76rem;padding:0 1.5rem}
            h1{font-weight:600;letter-spacing:.06em;text-transform:uppercase;font-size:1.5rem;border-bottom:2px solid #15232B;padding-bottom:.4rem}
            .facts{display:flex;gap:2.5rem;flex-wrap:wrap;margin:0 0 1.5rem}.facts b{display:block;font:600 1.4rem 'IBM Plex Mono',monospace}
            table{border-collapse:collapse;width:100%;background:#F5F1E8}th{text-align:left;font-weight:600;letter-spacing:.05em;text-transform:uppercase;font-size:.8rem}
            th,td{padding:.45rem .7rem;border-bottom:1px solid #C8BFAD;vertical-align:top}td small{color:#5F6059}code{font-family:'IBM Plex Mono',monospace;font-size:.85rem;word-break:break-all}
            .kept{color:#4A6A4C}.converted{color:#1D58A6}.adjusted{color:#946306}.reduced{color:#9C4326}.blocked,.failed{color:#8C1A2D}
            td:first-child{font-weight:600;white-space:nowrap}
            """;

    /// More of them than these are told in one line, if none failed.
    private static final int MANY_CHECKS = 24;

    private SlipFiles() {}

    static void write(PackingSlip slip, Path folder) throws IOException {
        // Of ten thousand items both take a while.
        ForkJoinTask<String> html = ForkJoinPool.commonPool().submit(() -> html(slip));
        SafeFile.write(folder.resolve(Packer.SLIP_JSON), Json.write(slip));
        SafeFile.write(folder.resolve(Packer.SLIP_HTML), html.join());
    }

    private static String html(PackingSlip slip) {
        StringBuilder out = new StringBuilder("<!doctype html><html lang=\"en\"><meta charset=\"utf-8\"><title>Packing slip</title><style>").append(STYLE)
                .append("</style><h1>Packing slip</h1><p>").append(escape(slip.destinationName())).append(", packed ").append(escape(slip.packedAt()))
                .append(" into <code>")
                .append(escape(slip.into())).append("</code>").append(slip.isStopped() ? " – <strong>stopped before the end</strong>" : "")
                .append("</p><div class=\"facts\">");
        slip.outcomes().forEach((outcome, n) -> out.append("<span><b>").append(n).append("</b>").append(outcome).append("</span>"));
        out.append("<span><b>").append(String.format(Locale.ROOT, "%.1f s", slip.seconds())).append("</b>time</span></div>")
                .append("<table><tr><th>Verdict</th><th>Source</th><th>Changes</th><th>Written</th><th>Checks</th></tr>");
        for (PackingSlip.Item item : slip.items()) {
            out.append("<tr><td class=\"").append(item.verdict()).append("\">").append(item.verdict()).append("<br><small>").append(item.outcome())
                    .append("</small></td><td>")
                    .append(escape(item.source())).append("</td><td>");
            item.error().ifPresent(e -> out.append("<span class=\"failed\">").append(escape(e)).append("</span><br>"));
            for (ChangeEntry c : item.changes())
                if (!c.verdict().equals("blocked"))
                    out.append(c.property()).append(": ").append(escape(c.before())).append(" → ").append(escape(c.after()))
                            .append(c.reason().isEmpty() ? "" : " <small>" + escape(c.reason()) + "</small>").append(each(c)).append("<br>");
            out.append("</td><td>");
            for (PackingSlip.Output o : item.outputs())
                out.append(escape(o.path())).append(" <small>").append(o.state()).append(String.format(Locale.ROOT, ", %,d bytes", o.bytes()))
                        .append("</small><br><code>XXH128 ")
                        .append(o.xxh128()).append("</code><br>");
            for (PackingSlip.MapFile m : item.maps())
                out.append(escape(m.path())).append(" <small>").append(m.state())
                        .append(String.format(Locale.ROOT, ", %,d bytes, %d instruments, %,d zones", m.bytes(), m.instruments(), m.zones()))
                        .append("</small><br><code>XXH128 ")
                        .append(m.xxh128()).append("</code><br>");
            out.append("</td><td>");
            List<PackingSlip.Check> checks = Stream
                    .concat(item.outputs().stream().flatMap(o -> o.checks().stream()), item.maps().stream().flatMap(m -> m.checks().stream()))
                    .toList();
            if (checks.size() > MANY_CHECKS && checks.stream().allMatch(PackingSlip.Check::ok))
                out.append("✓ all ").append(checks.size()).append(" checks passed");
            else
                for (PackingSlip.Check c : checks)
                    out.append(c.ok() ? "✓ " : "<span class=\"failed\">✗ </span>").append(c.name()).append(" <small>").append(escape(c.measured()))
                            .append("</small><br>");
            out.append("</td></tr>");
        }
        out.append("</table>");
        levels(slip, out);
        return out.append("</html>\n").toString();
    }

    /// Before and after, measure by measure, where levels were set.
    private static void levels(PackingSlip slip, StringBuilder out) {
        List<PackingSlip.Output> leveled = slip.items().stream().flatMap(i -> i.outputs().stream()).filter(o -> o.levels().isPresent()).toList();
        if (leveled.isEmpty()) return;
        out.append("<h2>Levels, before → after</h2><table><tr><th>File</th>");
        for (LevelMeasure measure : LevelMeasure.values())
            out.append("<th>").append(measure.label()).append(", ").append(measure.unit()).append("</th>");
        out.append("</tr>");
        for (PackingSlip.Output o : leveled) {
            out.append("<tr><td>").append(escape(o.path())).append("</td>");
            for (LevelMeasure measure : LevelMeasure.values())
                out.append("<td>").append(figure(o.levels().get().before().by(measure))).append(" → ").append(figure(o.levels().get().after().by(measure)))
                        .append("</td>");
            out.append("</tr>");
        }
        out.append("</table>");
    }

    private static String figure(OptionalDouble value) { return value.isPresent() ? String.format(Locale.ROOT, "%.2f", value.getAsDouble()) : "–"; }

    /// What sums up is there to be unfolded.
    private static String each(ChangeEntry change) {
        return change.each().map(all -> all.stream().map(SlipFiles::escape)
                .collect(Collectors.joining("<br>", "<details><summary>each of " + all.size() + "</summary><small>", "</small></details>"))).orElse("");
    }

    private static String escape(String text) { return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace("\"", "&quot;"); }
}
