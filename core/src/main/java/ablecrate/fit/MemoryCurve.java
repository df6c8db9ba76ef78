package ablecrate.fit;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;

/// What other amounts of memory would cost, from the least to the most.
final class MemoryCurve {
    /// Prices that are tried first; then those between two amounts that lie farther apart than by this factor.
    private static final int FIRST = 12, MOST = 60;
    private static final double APART = 1.2, NEAREST = 1.0 / 400;

    private final FitTask task;
    private final List<MemoryFitter> fitters;
    private final double countedDb;
    private final BooleanSupplier stopped;

    private MemoryCurve(FitTask task, List<MemoryFitter> fitters, double countedDb, BooleanSupplier stopped) {
        this.task = task;
        this.fitters = fitters;
        this.countedDb = countedDb;
        this.stopped = stopped;
    }

    /// Instruments that share a memory, at a price.
    /// @param harmDb of all of them added up
    private record Priced(long bytes, double harmDb) {}

    /// @param share of the way from the highest price to the lowest
    /// @param bytes of those that take most
    private record At(double share, long bytes, List<Priced> each) {}

    /// @param countedDb what layers, samples and turns cost that go whatever memory there is, in the mean over all instruments
    /// @return bytes are those of the instruments that share a memory; where there are several memories, of those that take most, as each has so much
    static List<Fit.Point> of(FitTask task, List<MemoryFitter> fitters, double countedDb, BooleanSupplier stopped) {
        return new MemoryCurve(task, fitters, countedDb, stopped).points();
    }

    private List<Fit.Point> points() {
        List<At> all = new ArrayList<>();
        for (int i = 0; i <= FIRST; i++)
            all.add(at((double) i / FIRST));
        for (int i = 0; i + 1 < all.size();) {
            At less = all.get(i), more = all.get(i + 1);
            if (all.size() < MOST && more.bytes > less.bytes * APART && more.share - less.share > NEAREST)
                all.add(i + 1, at((less.share + more.share) / 2));
            else
                i++;
        }
        List<Fit.Point> out = new ArrayList<>();
        for (At at : all)
            if (out.isEmpty() || out.getLast().bytes() < at.bytes)
                out.add(new Fit.Point(at.bytes, harmDb(all, at.bytes)));
        return out;
    }

    /// The mean of all instruments, with so much in each memory.
    private double harmDb(List<At> all, long bytes) {
        return countedDb + IntStream.range(0, all.getFirst().each.size())
                .mapToDouble(i -> all.stream().map(at -> at.each.get(i)).filter(p -> p.bytes <= bytes).mapToDouble(Priced::harmDb).min().orElse(0)).sum()
                / fitters.size();
    }

    private At at(double share) {
        Stopped.check(stopped);
        double price = Price.at(share);
        List<MemoryFitter.Made> made = fitters.parallelStream().map(f -> f.at(price)).toList();
        List<Priced> each = task.sharing(made).stream().map(m -> new Priced(task.bytesOf(m), m.stream().mapToDouble(i -> i.harm() / i.weight()).sum()))
                .toList();
        return new At(share, each.stream().mapToLong(Priced::bytes).max().orElse(0), each);
    }
}
