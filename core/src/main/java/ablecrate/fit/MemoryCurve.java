package ablecrate.fit;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;

/// What other amounts of memory would cost: points from the least memory to the most.
final class MemoryCurve {
    private static final int POINTS = 24;

    private MemoryCurve() {}

    /// @param bytes,harmDb of an instrument at a price
    private record Priced(long bytes, double harmDb) {}

    /// @return for a memory that all instruments share, what they take together; or else what the largest of them takes, as each has so much
    static List<Fit.Point> of(FitTask task, List<MemoryFitter> fitters, BooleanSupplier stopped) {
        List<Fit.Point> points = task.limits().isMemoryShared() ? shared(task, fitters, stopped) : each(task, fitters, stopped);
        List<Fit.Point> out = new ArrayList<>();
        for (Fit.Point next : points)
            if (out.isEmpty() || out.getLast().bytes() < next.bytes()) out.add(next);
        return out;
    }

    private static List<Fit.Point> shared(FitTask task, List<MemoryFitter> fitters, BooleanSupplier stopped) {
        return IntStream.rangeClosed(0, POINTS).mapToObj(point -> {
            List<MemoryFitter.Made> made = at(fitters, point, stopped);
            return new Fit.Point(task.bytesOf(made), made.stream().mapToDouble(MemoryCurve::harmDb).average().orElse(0));
        }).toList();
    }

    private static List<Fit.Point> each(FitTask task, List<MemoryFitter> fitters, BooleanSupplier stopped) {
        // `[point][instrument]`
        List<List<Priced>> prices = IntStream.rangeClosed(0, POINTS)
                .mapToObj(point -> at(fitters, point, stopped).stream().map(m -> new Priced(task.bytesOf(List.of(m)), harmDb(m))).toList()).toList();
        return prices.stream().map(all -> {
            long most = all.stream().mapToLong(Priced::bytes).max().orElse(0);
            return new Fit.Point(most, IntStream.range(0, fitters.size()).mapToDouble(
                    i -> prices.stream().map(p -> p.get(i)).filter(p -> p.bytes <= most).mapToDouble(Priced::harmDb).min().orElse(0)).average().orElse(0));
        }).toList();
    }

    private static double harmDb(MemoryFitter.Made made) { return made.harm() / made.weight(); }

    private static List<MemoryFitter.Made> at(List<MemoryFitter> fitters, int point, BooleanSupplier stopped) {
        Stopped.check(stopped);
        double price = Price.at((double) point / POINTS);
        return fitters.parallelStream().map(f -> f.at(price)).toList();
    }
}
