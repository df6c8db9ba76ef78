package ablecrate.fit;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.Quantiser;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.Ends;
import ablecrate.signal.LoopCarry;
import ablecrate.signal.LoopFit;
import ablecrate.signal.LoopRoom;
import ablecrate.signal.OutputChain;
import ablecrate.signal.SoundPath;
import ablecrate.signal.SourceChain;
import ablecrate.signal.ZoneFrames;
import java.io.IOException;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// A sample of an instrument, and what it is at the destination before anything is done to make it fit.
/// @param rateHz it is converted to
/// @param channels that it has then
/// @param depths that it is written in: its own, and those that it may have instead, each in fewer bytes
/// @param taken loops that format and device take
/// @param found the loop that is found for it, where it has none
/// @param loops by which zones play it: each needs a sound of its own where rates change
public record FitSound(SoundFile file, int rateHz, int channels, List<Depth> depths, Capabilities.Loops taken, Optional<FoundLoop> found,
        List<List<Loop>> loops) {
    /// Longer ones are heard up to here: a key is held for ten seconds at most.
    private static final int LONGEST_SECONDS = 10;
    /// Fade-out where the end of a sound is left out.
    public static final double FADE_MS = 10;

    public FitSound {
        depths = List.copyOf(depths);
        loops = List.copyOf(loops);
    }

    public FitSound(SoundFile file, int rateHz, int channels, List<Depth> depths, Capabilities.Loops taken, Optional<FoundLoop> found) {
        this(file, rateHz, channels, depths, taken, found, List.of());
    }

    /// The depth of a sound, and of others those that take fewer bytes: of as many bytes the finest.
    public static List<Depth> depths(Depth own, Collection<Depth> others) {
        return Stream.concat(Stream.of(own), others.stream().filter(d -> !d.isFloat() && d.bytes() < own.bytes())
                .collect(Collectors.toMap(Depth::bytes, d -> d, (a, b) -> a.bits() > b.bits() ? a : b, TreeMap::new)).descendingMap().values().stream())
                .toList();
    }

    FitSound playedWith(Collection<List<Loop>> others) { return new FitSound(file, rateHz, channels, depths, taken, found, List.copyOf(others)); }

    /// How many sounds are written of it.
    int copies() { return Math.max(1, loops.size()); }

    /// Whether its sides become one only to save memory.
    boolean isFoldedIn(Size size) { return size.isFolded() && channels == 2 && file.channels() == 2; }

    /// One of its depths by its number; empty for its own.
    Optional<Depth> depth(int number) { return number == 0 ? Optional.empty() : Optional.of(depths.get(Math.min(number, depths.size() - 1))); }

    /// Whether its depth at the destination is less fine than its own.
    boolean isRounded() { return !depths.getFirst().isFloat() && depths.getFirst().compareTo(file.encoding().depth()) < 0; }

    /// Nothing is left out.
    Size whole() { return new Size(rateHz, Optional.empty(), channels < file.channels(), file.frames()); }

    /// What it takes of the memory, without what is counted for each sample.
    long bytes(Size size) {
        long frames = loops.isEmpty() ? chain(size, Optional.empty()).frames() : loops.stream().mapToLong(l -> chain(size, ruling(l, file)).frames()).sum();
        return frames * (size.isFolded() ? 1 : Math.min(channels, file.channels())) * size.depth().orElse(depths.getFirst()).bytes();
    }

    /// As the source has it.
    LoadedSound load() throws IOException { return load(file); }

    static LoadedSound load(SoundFile file) throws IOException { return LoadedSound.of(file.open(), LONGEST_SECONDS); }

    /// The way to a sound as it would be written.
    /// @param mode of the loop that rules it
    /// @param depth that it is rounded to; empty where that is not a matter of memory
    record Sized(SoundFile file, SourceChain chain, OutputChain ends, LoopMode mode, Optional<Depth> depth) {
        LoadedSound load(SoundPath path) throws IOException {
            LoadedSound sound = LoadedSound.of(path.open(file, chain, ends), LONGEST_SECONDS);
            depth.ifPresent(d -> round(sound, d));
            return sound;
        }

        private static void round(LoadedSound sound, Depth depth) {
            new Quantiser(Dither.TPDF, depth.bits(), sound.rateHz(), sound.planes().length).process(sound.planes(), sound.frames());
            double steps = Math.scalb(1.0, depth.bits() - 1);
            for (double[] plane : sound.planes())
                for (int i = 0; i < plane.length; i++)
                    plane[i] = Math.rint(plane[i] * steps) / steps;
        }

        /// The zone on the frames of the result.
        Zone moved(Zone zone) {
            Zone out = ZoneFrames.moved(zone, chain, file.rateHz(), chain.frames());
            List<Loop> loops = zone.get(Parameter.LOOPS);
            return loops.isEmpty() || chain.loop().isEmpty()
                    ? out
                    : out.with(Parameter.LOOPS, List.of(loops.getFirst().withFrames(chain.loop().get().place()).withMode(mode)));
        }
    }

    /// The way to a size; a loop that is to be whole makes it a little longer or shorter.
    private SourceChain chain(Size size, Optional<Loop> ruling) {
        FrameRange part = new FrameRange(0, size.frames());
        boolean alternates = ruling.filter(l -> taken.alternates(l.mode(), l.frames().length() * size.rateHz() / file.rateHz())).isPresent();

        Optional<LoopFit> fit = ruling
                .map(l -> LoopFit.of(l.frames(), alternates, file.rateHz(), size.rateHz(), Capabilities.FineTune.EXACT, 0));
        SourceChain chain = new SourceChain(part, List.of(), size.isFolded() ? ChannelMix.middle() : ChannelMix.keep(file.channels()),
                fit.map(LoopFit::outputStep).orElse((long) size.rateHz()), fit.map(LoopFit::inputStep).orElse((long) file.rateHz()), size.rateHz(),
                fit.map(f -> carry(f, alternates)), List.of());
        return ruling.filter(l -> taken.written(l.mode()) == LoopMode.FORWARD).isPresent() ? chain.withRoom(taken.frames()) : chain;
    }

    private LoopCarry carry(LoopFit fit, boolean alternates) {
        int crossfade = alternates ? 0 : (int) Math.min(found.map(FoundLoop::crossfadeFrames).orElse(0), Math.min(fit.from().start(), fit.from().length() / 2));
        return new LoopCarry(fit.from(), fit.to(), alternates, crossfade, alternates ? 0 : found.map(FoundLoop::riseDb).orElse(0.0), LoopRoom.NONE);
    }

    Sized sized(Size size, Optional<Loop> ruling) {
        SourceChain chain = chain(size, ruling);
        boolean isCut = size.frames() < file.frames() && ruling.isEmpty();
        OutputChain ends = isCut
                ? new OutputChain(0, new Ends(0, FadeShape.LINEAR, Math.round(FADE_MS / 1000 * size.rateHz()), FadeShape.LINEAR), Optional.empty())
                : OutputChain.NONE;
        LoopMode mode = ruling.map(l -> taken.written(l.mode())).orElse(LoopMode.FORWARD);
        return new Sized(file, chain, ends, mode, size.depth());
    }

    /// The loop that a rate change keeps whole.
    static Optional<Loop> ruling(Zone zone, SoundFile file) {
        return ruling(zone.get(Parameter.LOOPS), file);
    }

    private static Optional<Loop> ruling(List<Loop> loops, SoundFile file) {
        return loops.stream().filter(l -> l.use() == Loop.Use.SUSTAIN && l.frames().length() > 1 && l.frames().end() <= file.frames())
                .findFirst();
    }
}
