package ablecrate.pack;

import ablecrate.audio.Figures;
import ablecrate.change.ChangeEntry;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.option.Option;
import ablecrate.option.Options;
import ablecrate.verify.Check;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// The slip as a page to keep and to send on: whole in one file, with our fonts and stamps, readable without its script, and with a content security policy that
/// lets nothing run or load but what is in it (`slip.policy`, with the hashes of style and script as *Content Security Policy Level 3*, 6.7.3, asks; hashing them
/// for each page took a tenth of a short run).
///
/// What has to be looked at comes first; all else lies folded, folder by folder.
final class SlipPage {
    private static final List<String> FONTS = List.of("400Regular", "600SemiBold");
    /// Of more lines than these, what held is counted and not listed, so that the page opens at once; the JSON has it all.
    private static final int MANY_LINES = 2000;

    private final PackingSlip slip;
    /// That all sources lie in.
    private final Path root;
    private final StringBuilder out;
    /// Element of the headings inside of a destination.
    private final String heading;

    private SlipPage(PackingSlip slip, StringBuilder out, String heading) {
        this.slip = slip;
        this.out = out;
        this.heading = heading;
        root = slip.root();
    }

    /// @param along slips of the same run into other folders, which the page tells of as well
    static String html(PackingSlip slip, List<PackingSlip> along) {
        String style = fonts() + resource("slip.css"), script = resource("slip.js");
        StringBuilder out = new StringBuilder();
        List<PackingSlip> all = Stream.concat(Stream.of(slip), along.stream()).toList();
        List<SlipPage> pages = all.stream().map(s -> new SlipPage(s, out, along.isEmpty() ? "h2" : "h3")).toList();
        out.append(
                "<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n")
                .append("<meta http-equiv=\"Content-Security-Policy\" content=\"").append(resource("slip.policy")).append("\">\n")
                .append("<title>Packing slip – ").append(names(all)).append("</title>\n<style>").append(style)
                .append("</style>\n</head>\n<body>\n<header>\n<h1>Packing slip</h1>\n<p>").append(names(all)).append(", packed ").append(time(slip.packedAt()))
                .append(all.stream().anyMatch(PackingSlip::isStopped) ? " – <strong class=\"failed\">stopped before the end</strong>" : "").append("</p>\n");
        if (along.isEmpty()) pages.getFirst().about();
        out.append("</header>\n");
        tools(all, out);
        out.append("<main>\n");
        for (SlipPage page : pages) {
            if (!along.isEmpty()) {
                out.append("<section>\n<h2>").append(escape(page.slip.destinationName())).append("</h2>\n");
                page.about();
            }
            page.lines();
            if (!along.isEmpty()) out.append("</section>\n");
        }
        out.append("</main>\n<footer><p class=\"quiet\">").append(escape(slip.product())).append(' ').append(escape(slip.version()))
                .append(". Every figure here was measured on the written files. The same for programs: <code>").append(Packer.SLIP_JSON)
                .append("</code>").append(along.isEmpty() ? "" : " in each folder").append(".</p></footer>\n<script>").append(script)
                .append("</script>\n</body>\n</html>\n");
        return out.toString();
    }

    private static String names(List<PackingSlip> slips) { return slips.stream().map(s -> escape(s.destinationName())).collect(Collectors.joining("; ")); }

    private void lines() {
        List<PackingSlip.Item> now = slip.ofThisRun(), first = now.stream().filter(SlipPage::isToLookAt)
                .sorted(Comparator.comparing((PackingSlip.Item i) -> i.error().isEmpty()).thenComparing(i -> verdict(i.verdict()), Comparator.reverseOrder()))
                .toList(),
                earlier = slip.items().stream().filter(i -> i.packedAt().isPresent()).toList();
        if (!first.isEmpty()) group("To look at", first, true, true);
        Map<Path, List<PackingSlip.Item>> folders = now.stream().filter(i -> !isToLookAt(i))
                .collect(Collectors.groupingBy(this::folder, TreeMap::new, Collectors.toList()));
        if (!folders.isEmpty()) heading(first.isEmpty() ? "All as planned" : "As planned");
        folders.forEach((folder, items) -> group(name(folder), items, folders.size() == 1 && first.isEmpty(), false));
        if (!earlier.isEmpty()) {
            heading("Packed before");
            group("From earlier runs", earlier, false, true);
        }
        new SlipLevels(slip).append(out, heading);
        chosen();
    }

    private void heading(String text) { out.append('<').append(heading).append('>').append(text).append("</").append(heading).append(">\n"); }

    private static boolean isToLookAt(PackingSlip.Item item) { return item.error().isPresent() || !item.misses().isEmpty(); }

    private Path folder(PackingSlip.Item item) {
        Path parent = Path.of(item.source()).getParent();
        return parent == null ? Path.of("") : root.relativize(parent);
    }

    private String name(Path folder) {
        return folder.toString().isEmpty() ? root.getFileName() == null ? "Sounds" : root.getFileName().toString() : folder.toString();
    }

    /// Where it lies, and in figures what became of it.
    private void about() {
        out.append("<p class=\"quiet\">from <code>").append(escape(root.toString())).append("</code><br>into <code>").append(escape(slip.into()))
                .append("</code></p>\n<ul class=\"figures\">");
        slip.outcomes().forEach((outcome, n) -> figure(String.format(Locale.ROOT, "%,d", n), outcome));
        if (slip.misses() > 0) figure(Figures.grouped(slip.misses()), slip.missed());
        if (slip.damaged() > 0) figure(String.format(Locale.ROOT, "%,d", slip.damaged()), "with damage");
        long bytes = slip.items().stream().mapToLong(PackingSlip.Item::bytes).sum();
        figure(Figures.bytes(bytes), "in the folder");
        figure(Told.duration(slip.seconds()), "time");
        out.append("</ul>\n");
    }

    private void figure(String number, String word) { out.append("<li><b>").append(number).append("</b>").append(escape(word)).append("</li>"); }

    private static String time(String instant) {
        return "<time datetime=\"" + escape(instant) + "\">" + escape(instant.replace('T', ' ').replace("Z", " UTC")) + "</time>";
    }

    /// Only seen where the script runs.
    private static void tools(List<PackingSlip> slips, StringBuilder out) {
        List<PackingSlip.Item> items = slips.stream().flatMap(s -> s.ofThisRun().stream()).toList();
        out.append(
                "<div class=\"tools\" role=\"search\"><input id=\"search\" type=\"search\" placeholder=\"Search names, changes, reasons\" aria-label=\"Search\">");
        button("", "All", out);
        for (Verdict verdict : Verdict.values()) {
            long n = items.stream().filter(i -> i.verdict().equals(verdict.id())).count();
            if (n > 0) button(verdict.id(), stamp(verdict) + verdict.id() + " " + n, out);
        }
        if (items.stream().anyMatch(i -> i.outcome().equals("failed"))) button("failed", "failed", out);
        if (slips.stream().anyMatch(s -> s.misses() > 0)) button("missed", "targets missed", out);
        out.append("<span id=\"told\" role=\"status\" class=\"quiet\"></span></div>\n");
    }

    private static void button(String shows, String label, StringBuilder out) {
        out.append("<button type=\"button\" class=\"").append(shows).append("\" data-show=\"").append(shows).append("\" aria-pressed=\"")
                .append(shows.isEmpty())
                .append("\">").append(label).append("</button>");
    }

    private static String stamp(Verdict verdict) {
        return "<svg class=\"stamp\" viewBox=\"0 0 14 14\" aria-hidden=\"true\"><path fill-rule=\"evenodd\" d=\"" + verdict.stamp() + "\"/></svg>";
    }

    /// @param withFolders whether rows tell the folder of their sound
    private void group(String title, List<PackingSlip.Item> items, boolean isOpen, boolean withFolders) {
        Map<String, Long> verdicts = items.stream()
                .collect(Collectors.groupingBy(PackingSlip.Item::verdict, () -> new TreeMap<>((a, b) -> verdict(b).compareTo(verdict(a))),
                        Collectors.counting()));
        out.append("<details class=\"folder\"").append(isOpen ? " open" : "").append("><summary>").append(escape(title)).append(" <small>")
                .append(Told.count(items.size(), "line")).append(": ")
                .append(verdicts.entrySet().stream().map(e -> e.getValue() + " " + e.getKey()).collect(Collectors.joining(", ")))
                .append("</small></summary>\n<table class=\"lines\"><thead><tr><th scope=\"col\">Source</th><th scope=\"col\">Verdict</th><th scope=\"col\">What changed</th>")
                .append("<th scope=\"col\">Written</th><th scope=\"col\" class=\"number\">Size</th><th scope=\"col\">Checks</th></tr></thead>\n<tbody>\n");
        items.forEach(i -> row(i, withFolders));
        out.append("</tbody></table></details>\n");
    }

    private static Verdict verdict(String id) { return Verdict.valueOf(id.toUpperCase(Locale.ROOT)); }

    private void row(PackingSlip.Item item, boolean withFolder) {
        Verdict verdict = verdict(item.verdict());
        Path source = Path.of(item.source());
        long bytes = item.bytes();
        String folder = folder(item).toString();
        out.append("<tr data-state=\"").append(item.verdict()).append(' ').append(item.outcome()).append(item.misses().isEmpty() ? "" : " missed")
                .append("\"><th scope=\"row\">").append(escape(Objects.toString(source.getFileName(), item.source())))
                .append(withFolder && !folder.isEmpty() ? "<br><small>" + escape(folder) + "</small>" : "").append("</th><td data-value=\"")
                .append(verdict.ordinal()).append("\"><span class=\"verdict ").append(verdict.id()).append("\">").append(stamp(verdict)).append(verdict.id())
                .append("</span><small>")
                .append(item.packedAt().map(SlipPage::time).orElse(item.outcome().equals(item.verdict()) ? "" : escape(item.outcome())))
                .append("</small></td>");
        out.append("<td data-label=\"What changed\">");
        item.error().ifPresent(e -> out.append("<p class=\"error\">").append(escape(e)).append("</p>"));
        // Where a name stays as it was, its file says it; and what was not written has not changed.
        list(item.files().isEmpty()
                ? List.of()
                : item.changes().stream().filter(c -> !c.property().equals(Property.NAME.id()) || !c.verdict().equals(Verdict.KEPT.id())).map(SlipPage::change)
                        .toList());
        out.append("</td><td data-label=\"Written\">");
        list(item.files().stream().map(f -> file(f.path(), f.state(),
                f instanceof PackingSlip.MapFile m ? Told.count(m.instruments(), "instrument") + ", " + Told.count(m.zones(), "zone") : "")).toList());
        out.append("</td><td class=\"number\" data-label=\"Size\" data-value=\"").append(bytes).append("\">").append(bytes == 0 ? "" : Figures.bytes(bytes))
                .append("</td><td data-label=\"Checks\">");
        checks(item);
        out.append("</td></tr>\n");
    }

    private void list(List<String> entries) {
        if (!entries.isEmpty()) out.append(entries.stream().collect(Collectors.joining("</li><li>", "<ul class=\"plain\"><li>", "</li></ul>")));
    }

    private static String change(ChangeEntry c) {
        String label = Stream.of(Property.values()).filter(p -> p.id().equals(c.property())).map(Property::label).findFirst().orElse(c.property());
        return escape(label) + ": " + escape(c.before()) + " → " + escape(c.after())
                + (c.reason().isEmpty() ? "" : " <small>" + escape(c.reason()) + "</small>")
                + c.each().map(all -> all.stream().map(SlipPage::escape)
                        .collect(Collectors.joining("<br>", "<details><summary>each of " + all.size() + "</summary><small>", "</small></details>"))).orElse("");
    }

    private static String file(String path, String state, String holds) {
        return escape(path) + " <small>" + escape(state) + (holds.isEmpty() ? "" : ", " + escape(holds)) + "</small>";
    }

    /// What was missed in full, what held as a count that unfolds.
    private void checks(PackingSlip.Item item) {
        List<PackingSlip.Check> all = item.checks(), held = all.stream().filter(PackingSlip.Check::ok).toList();
        for (PackingSlip.Check c : all)
            if (!c.ok()) out.append("<p class=\"error\">✗ ").append(escape(label(c))).append(": ").append(escape(c.measured())).append("</p>");
        if (held.isEmpty()) return;
        String told = "✓ " + (held.size() == all.size() ? "all " : "") + Told.count(held.size(), "check") + " held";
        if (slip.items().size() > MANY_LINES) {
            out.append(told);
            return;
        }
        out.append("<details><summary>").append(told).append("</summary><ul class=\"plain\">");
        held.forEach(c -> out.append("<li>").append(escape(label(c))).append(" <small>").append(escape(c.measured())).append("</small></li>"));
        item.files().forEach(f -> out.append("<li>XXH128 <code>").append(escape(f.xxh128())).append("</code></li>"));
        out.append("</ul></details>");
    }

    private static String label(PackingSlip.Check check) {
        return Stream.of(Check.values()).filter(c -> c.id().equals(check.name())).map(Check::label).findFirst().orElse(check.name());
    }

    /// What was chosen otherwise than usual.
    private void chosen() {
        List<String> rows = Options.ALL.stream().flatMap(o -> chosen(o).stream()).toList();
        if (rows.isEmpty()) return;
        heading("What was chosen");
        out.append("<table><thead><tr><th scope=\"col\">Option</th><th scope=\"col\">Value</th></tr></thead><tbody>\n");
        rows.forEach(out::append);
        out.append("</tbody></table>\n");
    }

    private <T> List<String> chosen(Option<T> option) {
        Object value = slip.options().get(option.id());
        List<String> said = value instanceof List<?> list ? list.stream().map(String::valueOf).toList() : value == null ? List.of() : List.of(value.toString());
        List<String> texts = said.stream().map(SlipPage::plain).filter(s -> !s.isEmpty()).toList();
        if (texts.isEmpty() || texts.equals(option.kind().texts(option.usual()))) return List.of();
        return List.of("<tr><th scope=\"row\">" + escape(option.title()) + "</th><td>" + escape(String.join("; ", texts)) + " <small>--" + option.id()
                + "</small></td></tr>\n");
    }

    /// Numbers as options tell them.
    private static String plain(String text) { return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text; }

    private static String fonts() {
        return FONTS.stream().map(f -> "@font-face{font-family:Barlow;font-weight:" + f.substring(0, 3) + ";src:url(data:font/ttf;base64,"
                + Base64.getEncoder().encodeToString(bytes("/ablecrate/fonts/Barlow_" + f + ".ttf")) + ") format(\"truetype\")}\n")
                .collect(Collectors.joining());
    }

    private static String resource(String name) { return new String(bytes(name), StandardCharsets.UTF_8); }

    private static byte[] bytes(String resource) {
        try (InputStream in = SlipPage.class.getResourceAsStream(resource)) {
            return in.readAllBytes();
        } catch (IOException e) {
            throw new IllegalStateException("resource " + resource, e);
        }
    }

    static String escape(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace("\"", "&quot;").replace("'", "&#39;");
    }
}
