package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.signal.Measurement;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// Instruments made to fit.
/// @param sizes of the samples that are not whole, by number
/// @param bytes of all samples together, before, and after those of what fits
/// @param curve what other amounts of memory would cost, from the least to the most: of the instruments that share one, of each where there are several; empty where
/// memory was not short
public record Fit(List<Fitted> instruments, Map<Integer, Size> sizes, long bytesBefore, long bytes, List<Point> curve) implements Measurement.Played {
    public Fit {
        instruments = List.copyOf(instruments);
        sizes = Map.copyOf(sizes);
        curve = List.copyOf(curve);
    }

    /// Those that fit.
    public List<Fitted> kept() { return instruments.stream().filter(Fitted::fits).toList(); }

    /// The most that instruments which share a memory take of it, without those that do not fit.
    public long fullest(FitTask task) {
        return task.most(task.sharing(instruments).stream().map(m -> m.stream().filter(Fitted::fits).map(Fitted::after).toList()).toList(), sizes);
    }

    /// Kits that are divided.
    public List<Fitted> divided() { return instruments.stream().filter(f -> !f.parts().isEmpty()).toList(); }

    /// Those that nothing makes fit.
    public List<Fitted> leftOut() { return instruments.stream().filter(f -> !f.fits() && f.parts().isEmpty()).toList(); }

    /// @param after as it fits; or as far as it could be brought, where it does not
    /// @param simpleDb harm of simple plans within the same limits, by what they are called
    /// @param lacking why it does not fit yet, in words; empty where it does
    /// @param parts into which a kit is divided that does not fit; empty where it is not
    public record Fitted(Instrument before, Instrument after, Need needed, Need need, Harm harm, List<FitStep> steps, Map<String, Double> simpleDb,
            String lacking, List<Instrument> parts) {
        public Fitted {
            parts = List.copyOf(parts);
            steps = List.copyOf(steps);
            simpleDb = Collections.unmodifiableMap(new LinkedHashMap<>(simpleDb));
        }

        public boolean fits() { return lacking.isEmpty(); }

        /// Whether its sounds cannot stand in for each other.
        public boolean isKit() { return Kits.isKit(before); }

        public boolean isChanged() { return !steps.isEmpty(); }
    }

    /// @param bytes in each memory
    /// @param harmDb foretold, in the mean over all instruments
    public record Point(long bytes, double harmDb) {}
}
