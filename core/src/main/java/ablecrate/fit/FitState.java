package ablecrate.fit;

import ablecrate.instrument.Instrument;
import java.util.List;
import java.util.Map;

/// An instrument on its way to what fits.
/// @param sizes of its samples
/// @param folds of those whose sides become one
/// @param simpleDb what simple plans cost, by their names
record FitState(Instrument source, Instrument now, Map<Integer, Size> sizes, Map<Integer, Fold> folds, List<FitStep> steps, Harm harm,
        Map<String, Double> simpleDb) {
    /// Nothing was done yet.
    static FitState of(Instrument source) { return new FitState(source, source, Map.of(), Map.of(), List.of(), Harm.NONE, Map.of()); }
}
