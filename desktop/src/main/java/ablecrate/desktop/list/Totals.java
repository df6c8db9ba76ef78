package ablecrate.desktop.list;

import ablecrate.audio.Figures;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/// What several lines come to together.
/// @param seconds of the results
/// @param bytesBefore,bytesAfter of files, and of the audio in the results
record Totals(int lines, double seconds, long bytesBefore, long bytesAfter, Map<Verdict, Integer> verdicts) {
    static Totals of(List<PackingItem> items) {
        Map<Verdict, Integer> verdicts = new TreeMap<>();
        items.forEach(i -> verdicts.merge(i.verdict(), 1, Integer::sum));
        return new Totals(items.size(), items.stream().mapToDouble(Totals::seconds).sum(), items.stream().mapToLong(Totals::bytesBefore).sum(),
                items.stream().mapToLong(Totals::bytesAfter).sum(), verdicts);
    }

    private static double seconds(PackingItem item) {
        return item.outputs().stream().mapToDouble(o -> o.shape().frames() / (double) o.shape().rateHz()).sum();
    }

    static long bytesBefore(PackingItem item) {
        return item.source().sound().map(s -> s.fileBytes()).or(() -> item.source().instruments().map(f -> f.fileBytes())).orElse(0L);
    }

    static long bytesAfter(PackingItem item) { return item.outputs().stream().mapToLong(PlannedOutput::audioBytes).sum(); }

    /// `3 lines, 4.2 s, 1.2 MB → 2.3 MB: 1 kept, 2 converted`
    String text() {
        List<String> parts = new ArrayList<>();
        verdicts.forEach((verdict, n) -> parts.add(Figures.grouped(n) + " " + verdict.id()));
        return Told.count(lines, "line") + " chosen, " + Told.duration(seconds) + ", " + Figures.bytes(bytesBefore) + " → " + Figures.bytes(bytesAfter) + ": "
                + String.join(", ", parts);
    }

    /// With as many digits as tell something.
    static String megabytes(long bytes) { return String.format(Locale.ROOT, bytes < 10_000_000 ? "%,.2f" : "%,.0f", bytes / 1e6); }
}
