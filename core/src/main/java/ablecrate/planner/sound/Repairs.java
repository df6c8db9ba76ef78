package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.DamageChange;
import ablecrate.dsp.FaultFinder;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;

/// Constants that are taken off, damage that is told, and what of it is filled in.
/// @param offsets of the source's channels; empty for none
/// @param mends stretches of the source, in order
/// @param heard the search for damage, where there is one
record Repairs(List<Double> offsets, List<FrameRange> mends, Optional<Answer<Measurement.Faults>> heard, List<Change> changes) {
    /// A constant below this is no offset worth taking off: −80 dB.
    private static final double OFFSET = 1e-4;

    static Repairs of(SoundTask task, Channels channels, Optional<Measurement.Survey> survey) {
        List<Change> changes = new ArrayList<>();
        List<Double> offsets = offsets(task, survey);
        if (!offsets.isEmpty()) changes.add(new AudioChange.OffsetRemoved(farthest(offsets)));
        if (!task.options().mending().listens() || channels.isNone()) return new Repairs(offsets, List.of(), Optional.empty(), changes);
        Answer<Measurement.Faults> heard = task.ask(new Measurement.OfFaults(task.file()), Measurement.Faults.class, task.options().mending().mendsClicks());
        List<FaultFinder.Fault> faults = heard.found().map(Measurement.Faults::faults).orElse(List.of());
        List<FrameRange> clicks = task.options().mending().mendsClicks()
                ? faults.stream().filter(f -> f.kind() == FaultFinder.Kind.CLICK).map(FaultFinder.Fault::frames).toList()
                : List.of();
        if (heard.found().flatMap(Measurement.Faults::isAsCoded).equals(Optional.of(false))) changes.add(new DamageChange.ChecksumWrong());
        if (!faults.isEmpty()) changes.add(damage(task, faults, clicks.size()));
        return new Repairs(offsets, clicks, Optional.of(heard), changes);
    }

    private static List<Double> offsets(SoundTask task, Optional<Measurement.Survey> survey) {
        if (!task.treatment().removesOffset()) return List.of();
        return survey.map(Measurement.Survey::offsets).filter(o -> farthest(o) >= OFFSET).orElse(List.of());
    }

    private static double farthest(List<Double> offsets) { return offsets.stream().mapToDouble(Math::abs).max().orElse(0); }

    private static Change damage(SoundTask task, List<FaultFinder.Fault> faults, int mended) {
        Map<FaultFinder.Kind, Long> counts = faults.stream().collect(Collectors.groupingBy(FaultFinder.Fault::kind, TreeMap::new, Collectors.counting()));
        return new DamageChange.DamageFound(counts, faults.stream().limit(DamageChange.DamageFound.TOLD).toList(), task.file().rateHz(), mended);
    }
}
