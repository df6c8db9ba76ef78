package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.LoopQuality;
import ablecrate.detect.LoopWish;
import ablecrate.detect.TempoDetector;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.dsp.PitchDetector;
import ablecrate.instrument.LoopMode;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleConsumer;

/// What listening to a sound gave.
public sealed interface Measurement {
    /// What can be asked.
    sealed interface Request {
        SoundFile file();
    }

    /// What is asked of sounds that are played together; it is found out by whoever asks.
    non-sealed interface OfInstruments extends Request {
        /// @param recent what was found out for others
        /// @param stopped asked now and then; true gives nothing
        /// @param progress told the part that is done, from any thread
        Optional<? extends Measurement> measure(SoundPath path, Recent recent, BooleanSupplier stopped, DoubleConsumer progress) throws IOException;

        /// Says all that the answer depends on, so that it can be kept between runs; the same for what is asked alike.
        /// @return empty where it cannot
        Optional<String> hash();

        /// The answer as a text.
        String written(Measurement answer, String hash);

        /// @return empty where the text answers something else
        Optional<? extends Measurement> read(String text, String hash);
    }

    /// An answer to that.
    non-sealed interface Played extends Measurement {}

    /// The file as it is.
    /// @param silenceDbfs below which its start and end count as silent; empty where nothing counts so
    record OfFile(SoundFile file, OptionalDouble silenceDbfs) implements Request {}

    /// Which note it plays.
    record OfPitch(SoundFile file) implements Request {}

    /// Where it can be looped.
    record OfLoops(SoundFile file, LoopWish wish) implements Request {}

    /// What one of its loops does to it.
    /// @param crossfadeFrames with which it is played
    record OfLoopQuality(SoundFile file, FrameRange loop, LoopMode mode, int crossfadeFrames) implements Request {}

    /// What begins in it, and how fast it goes.
    /// @param sensitivity 1 as usual; more finds more
    record OfOnsets(SoundFile file, double sensitivity) implements Request {
        public OfOnsets(SoundFile file) { this(file, 1); }
    }

    /// What lies between its silences.
    record OfGaps(SoundFile file) implements Request {}

    /// What in it is damaged.
    record OfFaults(SoundFile file) implements Request {}

    /// What comes to the level stage, with its fades: as a gain commutes with them, that is what will be heard but for the gain.
    record OfSourceChain(SoundFile file, SourceChain sourceChain, Ends ends) implements Request {}

    /// What comes out where a limiter has to hold something.
    record OfLimited(SoundFile file, SourceChain sourceChain, Ends ends, Hold hold, Aim aim) implements Request {}

    /// How loud a limited sound is to be.
    sealed interface Aim {
        /// As a gain makes it.
        record Gain(double db) implements Aim {}

        /// Raised into the limiter until a measure is met.
        /// @param mostLimitingDb how far peaks may be lowered for it at most
        record Target(LevelMeasure measure, double value, double mostLimitingDb) implements Aim {}
    }

    /// @param pitch empty if it has none
    record Pitched(Optional<PitchDetector.Pitch> pitch) implements Measurement {}

    /// @param loops the best first
    record Loops(List<FoundLoop> loops) implements Measurement {}

    /// @param quality empty where it lies too far into the sound to be judged
    record LoopJudged(Optional<LoopQuality> quality) implements Measurement {}

    /// @param frames where something begins, ascending
    record Onsets(List<Long> frames, Optional<TempoDetector.Tempo> tempo) implements Measurement {}

    /// @param parts that sound, in order
    record Sounding(List<FrameRange> parts) implements Measurement {}

    /// @param offsets mean of each channel
    /// @param sounding what is left without silence at the ends, grown to zero crossings; all of it where nothing was asked or nothing sounds
    /// @param sides how left and right go together; empty if not stereo, or silent
    /// @param startLevels of the start, millisecond by millisecond, all channels together, in hundredths of a dB: whole numbers take a quarter of the room in the catalogue
    /// @param seamDb the step at the seam of the first sustaining loop; empty where there is none
    /// @param startStep,endStep how far the first and the last frame are from silence, the farthest of their channels; 1 is full scale
    record Survey(Levels levels, List<Double> offsets, FrameRange sounding, Optional<Sides> sides, List<Integer> startLevels, OptionalDouble seamDb,
            double startStep,
            double endStep)
            implements
                Measurement {
        /// A step of -60 dBFS is the least that is taken for a click.
        public static final double CLICK = 0.001;
        /// A millisecond without sound among the levels of the start.
        public static final int SILENT = -20_000;

        public boolean startClicks() { return startStep > CLICK; }

        public boolean endClicks() { return endStep > CLICK; }
    }

    /// How left and right go together.
    /// @param foldLossDb what `(L+R)/2` loses against one side alone, on the mean: 0 where both are the same, 3 where they have nothing in common, 200 where
    ///     they cancel
    /// @param worstDb the most that it loses over a second
    /// @param worstAtSeconds where that second begins
    record Sides(double foldLossDb, boolean areTheSame, boolean isLeftSilent, boolean isRightSilent, double worstDb, double worstAtSeconds) {}

    /// @param faults in the order of the sound, in its frames; the first thousand
    /// @param isAsCoded whether what was decoded has the checksum that the file states; empty where it states none
    record Faults(List<FaultFinder.Fault> faults, Optional<Boolean> isAsCoded) implements Measurement {}

    record ChainLevels(Levels levels, OptionalDouble seamDb) implements Measurement {}

    /// @param gainDb before the limiter
    /// @param levels behind it
    /// @param deepestDb how far peaks were lowered at most
    record Limited(double gainDb, Levels levels, double deepestDb) implements Measurement {}

    /// It could not be read to its end.
    record Failed(String reason) implements Measurement {}
}
