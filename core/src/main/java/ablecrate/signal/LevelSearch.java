package ablecrate.signal;

import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.dsp.Gain;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.dsp.Limiter;
import java.io.IOException;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.BooleanSupplier;

/// Finds the gain with which a sound reaches a level behind its limiter.
///
/// A limiter takes loudness away, the more the harder it works, so the gain that would do without it is too small. What is missing is added and measured again,
/// with the slope of the last two tries, until the measure is met or the limiter does as much as it may. Short sounds are rendered once and kept.
final class LevelSearch {
    private static final int MOST_TRIES = 10, BLOCK = 8192;
    /// A fifth of what a level may be off when the file is measured.
    private static final double MET_DB = 0.02;
    /// Samples that are worth keeping: 16 MB.
    private static final long KEPT_SAMPLES = 1 << 21;
    /// A try must bring at least this much of what it adds, else the limiter eats it all.
    private static final double LEAST_SLOPE = 0.05;

    private final SoundPath path;
    private final Measurement.OfLimited request;
    private final BooleanSupplier stopped;
    private double[][] kept;

    LevelSearch(SoundPath path, Measurement.OfLimited request, BooleanSupplier stopped) {
        this.path = path;
        this.request = request;
        this.stopped = stopped;
    }

    /// @return empty if it was stopped
    Optional<Measurement.Limited> find() throws IOException {
        return switch (request.aim()) {
            case Measurement.Aim.Gain(double db) -> limited(db);
            case Measurement.Aim.Target target -> search(target);
        };
    }

    private Optional<Measurement.Limited> search(Measurement.Aim.Target target) throws IOException {
        Optional<Levels> without = levels(0, Optional.empty()).map(Tried::levels);
        if (without.isEmpty()) return Optional.empty();
        OptionalDouble loud = without.get().by(target.measure()),
                peak = request.hold() instanceof Hold.TruePeaks ? without.get().truePeakDbtp() : without.get().samplePeakDbfs();
        if (loud.isEmpty() || peak.isEmpty()) return limited(0);
        double most = request.hold().ceilingDb() + target.mostLimitingDb() - peak.getAsDouble();
        double gain = Math.min(most, target.value() - loud.getAsDouble()), gainBefore = Double.NaN, reachedBefore = Double.NaN;
        Optional<Measurement.Limited> best = Optional.empty();
        for (int tries = 0; tries < MOST_TRIES; tries++) {
            Optional<Measurement.Limited> tried = limited(gain);
            if (tried.isEmpty()) return tried;
            double reached = tried.get().levels().by(target.measure()).orElse(Double.NEGATIVE_INFINITY), missing = target.value() - reached;
            if (best.isEmpty() || Math.abs(missing) < Math.abs(target.value() - best.get().levels().by(target.measure()).orElse(Double.NEGATIVE_INFINITY)))
                best = tried;
            if (Math.abs(missing) < MET_DB || gain >= most && missing > 0) return tried;
            double slope = Double.isNaN(gainBefore) || gain == gainBefore ? 1 : Math.clamp((reached - reachedBefore) / (gain - gainBefore), LEAST_SLOPE, 1);
            gainBefore = gain;
            reachedBefore = reached;
            gain = Math.min(most, gain + missing / slope);
        }
        return best;
    }

    private Optional<Measurement.Limited> limited(double gainDb) throws IOException {
        return levels(gainDb, Optional.of(request.hold())).map(t -> new Measurement.Limited(gainDb, t.levels(), t.deepestDb()));
    }

    private record Tried(Levels levels, double deepestDb) {}

    private Optional<Tried> levels(double gainDb, Optional<Hold> hold) throws IOException {
        FrameSource faded = faded();
        FrameSource raised = gainDb == 0 ? faded : new Gain(faded, gainDb);
        try (FrameSource out = hold.map(h -> SoundPath.limited(raised, h)).orElse(raised)) {
            LevelMeter meter = new LevelMeter(out.rateHz(), out.channels());
            double[][] block = new double[out.channels()][BLOCK];
            for (int got; (got = out.read(block, 0, BLOCK)) > 0;) {
                if (stopped.getAsBoolean()) return Optional.empty();
                meter.add(block, 0, got);
            }
            return Optional.of(new Tried(meter.finish(), out instanceof Limiter limiter ? limiter.deepestDb() : 0));
        }
    }

    private FrameSource faded() throws IOException {
        int rateHz = request.sourceChain().rateHz();
        if (kept != null) return new MemorySource(rateHz, kept);
        FrameSource source = path.open(request.file(), request.sourceChain(), new OutputChain(0, request.ends(), Optional.empty()));
        if (source.frames() * source.channels() > KEPT_SAMPLES) return source;
        try (source) {
            kept = new double[source.channels()][(int) source.frames()];
            source.readFully(kept, 0, kept[0].length);
        }
        return new MemorySource(rateHz, kept);
    }
}
