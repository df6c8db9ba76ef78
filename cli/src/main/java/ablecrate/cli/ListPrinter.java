package ablecrate.cli;

import ablecrate.audio.Figures;
import ablecrate.pack.Forecast;
import ablecrate.change.Change;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// Prints a packing list for people: a line a sound with its worst change, or all of them; sums at the end.
final class ListPrinter {
    private static final int LONGEST_NAME = 44, LONGEST_VERDICT = 9;

    private final PrintWriter out;
    private final Terminal terminal;
    private final boolean details;

    ListPrinter(PrintWriter out, Terminal terminal, boolean details) {
        this.out = out;
        this.terminal = terminal;
        this.details = details;
    }

    /// @param fates of the lines, where it is known where to; empty otherwise
    void print(PackingList list, List<Forecast.Fate> fates) {
        List<String> names = names(list.items());
        int nameWidth = Math.min(LONGEST_NAME, names.stream().mapToInt(String::length).max().orElse(0));
        for (int i = 0; i < list.items().size(); i++) {
            PackingItem item = list.items().get(i);
            String name = cut(names.get(i), nameWidth);
            Optional<Forecast.Fate> fate = i < fates.size() ? Optional.of(fates.get(i)) : Optional.empty();
            String there = fate.map(f -> f.text(list.options().existing())).filter(t -> !t.isEmpty()).orElse("");
            List<Change> changes = noted(item);
            String worst = changes.isEmpty() ? "" : text(changes.getFirst());
            String told = there.isEmpty() ? worst : worst.isEmpty() ? there : there + "; " + worst;
            String verdict = item.verdict().id();
            out.println((terminal.stamp(item.verdict()) + " " + terminal.word(item.verdict()) + " ".repeat(LONGEST_VERDICT - verdict.length()) + "  " + name
                    + " ".repeat(nameWidth - name.length()) + "  " + terminal.fit(told, LONGEST_VERDICT + nameWidth + 6)).stripTrailing());
            if (details)
                for (Change c : changes)
                    out.println("    " + terminal.stamp(c.verdict()) + " " + c.property().id() + ": " + text(c));
        }
        sums(list, fates);
    }

    /// Paths below what was gathered, without the folder that all of them lie in.
    private static List<String> names(List<PackingItem> items) {
        boolean isOne = items.stream().allMatch(i -> i.source().relative().getNameCount() > 1)
                && items.stream().map(i -> i.source().relative().getName(0)).distinct().count() == 1;
        return items.stream().map(i -> i.source().relative()).map(p -> isOne ? p.subpath(1, p.getNameCount()) : p).map(Path::toString).toList();
    }

    /// What there is to tell of an item, the worst first.
    private static List<Change> noted(PackingItem item) {
        return item.changes().stream().filter(c -> c.property() != Property.NAME || c.verdict() != Verdict.KEPT || item.isInstruments())
                .sorted(Comparator.comparing(Change::verdict).reversed()).toList();
    }

    private static String text(Change c) {
        Change.Text t = c.text();
        if (c.verdict() == Verdict.BLOCKED) return t.before().isEmpty() ? t.reason() : t.before() + ": " + t.reason();
        return t.before() + " → " + t.after() + (t.reason().isEmpty() ? "" : " (" + t.reason() + ")");
    }

    /// A long path loses its beginning: names tell more than folders.
    private static String cut(String path, int width) { return path.length() <= width ? path : "…" + path.substring(path.length() - width + 1); }

    private void sums(PackingList list, List<Forecast.Fate> fates) {
        out.println();
        List<String> totals = new ArrayList<>();
        list.totals().forEach((verdict, n) -> {
            if (n > 0) totals.add(terminal.stamp(verdict) + " " + Figures.grouped(n) + " " + terminal.word(verdict));
        });
        out.println(list.destination().name() + ": " + (totals.isEmpty() ? "nothing to pack" : String.join("   ", totals)));
        List<PlannedOutput> outputs = list.items().stream().flatMap(i -> i.outputs().stream()).toList();
        double seconds = outputs.stream().mapToDouble(o -> o.shape().frames() / (double) o.shape().rateHz()).sum();
        out.println(
                String.format(Locale.ROOT, "%s to write, %s, %s of audio", Told.count(outputs.size(), "sound"), Told.duration(seconds),
                        Figures.bytes(list.audioBytes())));
        long damaged = list.items().stream().filter(PackingItem::isDamaged).count();
        if (damaged > 0) out.println("damage found in " + Told.count(damaged, "line") + " that stays");
        Map<Forecast.Fate, Integer> there = new TreeMap<>();
        fates.stream().filter(f -> f != Forecast.Fate.NONE).forEach(f -> there.merge(f, 1, Integer::sum));
        if (!there.isEmpty()) {
            List<String> words = new ArrayList<>();
            there.forEach((fate, n) -> words.add(Figures.grouped(n) + " " + fate.text(list.options().existing())));
            out.println(String.join("   ", words));
        }
    }
}
