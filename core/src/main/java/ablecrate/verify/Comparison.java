package ablecrate.verify;

import ablecrate.audio.Figures;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/// Holds what was found in a file against what was expected of it.
public final class Comparison {
    /// What a level and a ceiling may be off.
    public static final double LEVEL_TOLERANCE = 0.1;
    /// What compression with loss may change of the level below 3.5 kHz: encoders lower some sounds by up to half a decibel themselves, and quiet ones
    /// lose more; twice as loud is another sound.
    private static final double COMPRESSED_DB = 3;
    /// Correlations that tell a place for certain, and one that is as good as another.
    private static final double CERTAIN = 0.8, AS_GOOD = 0.98;
    /// A click this near to a place that was mended is what was to be mended.
    private static final double SAME_PLACE_SECONDS = 0.003;

    /// By which a sample of silence may lie off it once it is dithered and rounded.
    private static final int DITHER_STEPS = 2;
    private static final double SILENT = -200;

    private final Expectation expected;
    private final List<Outcome> outcomes = new ArrayList<>();

    private Comparison(Expectation expected) { this.expected = expected; }

    public static List<Outcome> of(Expectation expected, Finding found) {
        Comparison comparison = new Comparison(expected);
        comparison.check(Check.BYTES, expected.crc32c() == found.crc32c(), "as written", "the bytes that were written", "others");
        switch (found.content()) {
            case Finding.Content.Unreadable(String reason) -> comparison.check(Check.OPENS, false, "", "a sound", reason);
            case Finding.Content.Bytes(boolean areTheSame) ->
                comparison.check(Check.AUDIO, areTheSame, "bit for bit the source", "the source's bytes", "others");
            case Finding.Content.Decoded decoded -> comparison.decoded(decoded);
        }
        return comparison.outcomes;
    }

    /// What follows for a sound that is known to be, sample by sample, what was rendered.
    static List<Outcome> promises(PlannedOutput output, Rendered rendered) {
        Expectation expected = new Expectation(0, output.formatId(), output.shape(), output.metadata(), new Expectation.Audio.Exact(rendered),
                Expectation.promises(output));
        Comparison comparison = new Comparison(expected);
        comparison.clipping(rendered);
        rendered.levels().ifPresent(comparison::levels);
        return comparison.outcomes;
    }

    /// The first that failed.
    public static Optional<Outcome.Failed> failure(List<Outcome> outcomes) {
        return outcomes.stream().filter(Outcome.Failed.class::isInstance).map(Outcome.Failed.class::cast).findFirst();
    }

    private void check(Check check, boolean holds, String held, String wanted, String found) {
        outcomes.add(holds ? new Outcome.Held(check, held) : new Outcome.Failed(check, wanted, found));
    }

    private void same(Check check, String wanted, String found) { check(check, wanted.equals(found), found, wanted, found); }

    private void decoded(Finding.Content.Decoded found) {
        SoundFile file = found.file();
        OutputShape shape = expected.shape();
        boolean isLossy = expected.audio() instanceof Expectation.Audio.Compressed;
        same(Check.CONTAINER, name(expected.formatId()), name(file.formatId()));
        same(Check.RATE, Figures.grouped(shape.rateHz()) + " Hz", Figures.grouped(file.rateHz()) + " Hz");
        if (!isLossy) same(Check.DEPTH, shape.depth().label(), file.encoding().depth().label());
        same(Check.CHANNELS, Integer.toString(shape.channels()), Integer.toString(file.channels()));
        boolean isAsLong = file.frames() == shape.frames() && found.decodedFrames() == shape.frames();
        check(Check.LENGTH, isAsLong, frames(shape.frames()), frames(shape.frames()),
                frames(file.frames()) + " in the header, " + frames(found.decodedFrames()) + " decoded");
        switch (expected.audio()) {
            case Expectation.Audio.Exact(Rendered rendered) -> {
                check(Check.AUDIO, found.samples().equals(rendered.samples()), "all samples as rendered", "the samples that were rendered", "others");
                clipping(rendered);
                rendered.levels().ifPresent(this::levels);
            }
            case Expectation.Audio.Compressed(Rendered rendered) -> {
                if (file.channels() == shape.channels()) likeness(rendered, found);
                found.levels().ifPresent(this::levels);
            }
            case Expectation.Audio.Copied _ -> throw new IllegalStateException("a copy is compared by its bytes");
        }
        MetadataDifferences.of(expected.metadata(), file.metadata()).forEach(outcomes::add);
        clicks(found);
        ends(found);
    }

    private static String name(String formatId) { return SoundFormats.byId(formatId).orElseThrow().name(); }

    private static String frames(long frames) { return Figures.grouped(frames) + " frames"; }

    private void clipping(Rendered rendered) {
        if (rendered.clippedSamples() == 0) return;
        String found = Figures.grouped(rendered.clippedSamples()) + String.format(Locale.ROOT, " samples, by up to %.2f dB", rendered.overDb());
        check(Check.CLIPPING, expected.promises().mayClip(), found, "none", found);
    }

    private void likeness(Rendered rendered, Finding.Content.Decoded found) {
        if (rendered.likeness().isEmpty() || found.likeness().isEmpty()) return;
        Likeness.Shift shift = Likeness.shift(rendered.likeness().get(), found.likeness().get());
        double db = rendered.likeness().get().levelDifferenceDb(found.likeness().get());
        boolean isShifted = shift.frames() != 0 && shift.correlation() > CERTAIN && shift.here() < AS_GOOD * shift.correlation();
        String level = String.format(Locale.ROOT, "%+.1f dB below 3.5 kHz", db);
        if (isShifted)
            check(Check.AUDIO, false, "", "the sound where it was rendered", String.format(Locale.ROOT, "it %,d frames away", shift.frames()));
        else
            check(Check.AUDIO, Math.abs(db) <= COMPRESSED_DB, "starts where it did, " + level, "the level that was rendered", level);
    }

    private void levels(Levels levels) {
        expected.promises().level().ifPresent(level -> {
            OptionalDouble reached = levels.by(level.measure());
            if (reached.isPresent()) level(level.measure(), level.asked(), reached.getAsDouble());
        });
        expected.promises().ceilingDbtp().ifPresent(ceiling -> {
            double peak = levels.truePeakDbtp().orElse(Double.NEGATIVE_INFINITY);
            String text = String.format(Locale.ROOT, "true peak %.2f dBTP, ceiling %.2f", peak, ceiling);
            outcomes.add(peak <= ceiling + LEVEL_TOLERANCE
                    ? new Outcome.Held(Check.CEILING, text)
                    : new Outcome.Missed(Check.CEILING, ceiling, rounded(peak), "dBTP", text));
        });
    }

    private void level(LevelMeasure measure, double asked, double reached) {
        String text = String.format(Locale.ROOT, "%.2f %s %s", reached, measure.unit(), measure.label());
        if (Math.abs(reached - asked) <= LEVEL_TOLERANCE)
            outcomes.add(new Outcome.Held(Check.LEVEL, text));
        else
            outcomes.add(new Outcome.Missed(Check.LEVEL, asked, rounded(reached), measure.unit(), String.format(Locale.ROOT, "%.1f dB %s %.1f %s: %s",
                    Math.abs(reached - asked), reached < asked ? "short of" : "over", asked, measure.unit(), text)));
    }

    private void clicks(Finding.Content.Decoded found) {
        List<Double> mended = expected.promises().mended();
        if (mended.isEmpty()) return;
        long left = mended.stream().filter(at -> found.clicks().stream().anyMatch(c -> Math.abs(c - at) < SAME_PLACE_SECONDS)).count();
        String text = mended.size() - left + " of " + mended.size() + " are no longer heard";
        outcomes.add(left == 0
                ? new Outcome.Held(Check.CLICKS, text)
                : new Outcome.Missed(Check.CLICKS, mended.size(), mended.size() - left, "clicks", text));
    }

    /// An end that fades is silent, to a few steps of what the file can hold: dither is one of them.
    private void ends(Finding.Content.Decoded found) {
        Expectation.Faded faded = expected.promises().faded();
        if (faded.equals(Expectation.Faded.NONE)) return;
        double rest = Decibels.ofFactor(Measurement.Survey.CLICK + DITHER_STEPS / Math.scalb(1.0, expected.shape().depth().bits() - 1)), worst = SILENT;
        List<String> told = new ArrayList<>();
        if (faded.start()) {
            worst = Math.max(worst, Decibels.ofFactor(found.startStep()));
            told.add("starts " + step(found.startStep()));
        }
        if (faded.end()) {
            worst = Math.max(worst, Decibels.ofFactor(found.endStep()));
            told.add("ends " + step(found.endStep()));
        }
        String text = String.join(", ", told);
        outcomes.add(worst <= rest ? new Outcome.Held(Check.ENDS, text) : new Outcome.Missed(Check.ENDS, rounded(rest), rounded(worst), "dBFS", text));
    }

    private static String step(double step) {
        double dbfs = Decibels.ofFactor(step);
        return dbfs <= SILENT ? "at silence" : String.format(Locale.ROOT, "at %.0f dBFS", dbfs);
    }

    /// As figures stand in files.
    private static double rounded(double value) { return Math.rint(value * 1000) / 1000; }
}
