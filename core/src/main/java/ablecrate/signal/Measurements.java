package ablecrate.signal;

import ablecrate.audio.BadFrames;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.Gaps;
import ablecrate.detect.LoopFinder;
import ablecrate.detect.LoopWish;
import ablecrate.detect.OnsetDetector;
import ablecrate.detect.TempoDetector;
import ablecrate.disk.DiskFault;
import ablecrate.dsp.ClickEdges;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.PitchDetector;
import ablecrate.dsp.Seam;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.library.Catalogue;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleConsumer;

/// Keeps what was measured, so that every sound is listened to once. Safe for threads.
public final class Measurements {
    private static final int BLOCK = 8192, MOST_LOOPS = 5;

    private final SoundPath path;
    private final Catalogue ofSounds, ofInstruments;
    private final Map<Measurement.Request, Measurement> kept = new ConcurrentHashMap<>();
    private final Recent recent = new Recent();

    public Measurements(SoundPath path) {
        this(path, Catalogue.none());
    }

    /// @param catalogue that keeps what is measured of files between runs
    public Measurements(SoundPath path, Catalogue catalogue) { this(path, catalogue, catalogue); }

    /// @param ofSounds keeps what is measured of files between runs
    /// @param ofInstruments keeps what is found out of instruments
    public Measurements(SoundPath path, Catalogue ofSounds, Catalogue ofInstruments) {
        this.path = path;
        this.ofSounds = ofSounds;
        this.ofInstruments = ofInstruments;
    }

    public Optional<Measurement> find(Measurement.Request request) { return Optional.ofNullable(kept.get(request)); }

    /// Forgets everything, as files may have changed.
    public void clear() {
        kept.clear();
        recent.clear();
    }

    /// Listens to a sound, if that was not done before. What cannot be read is kept as failed.
    /// @param stopped asked now and then; true leaves it unmeasured
    public void measure(Measurement.Request request, BooleanSupplier stopped) { measure(request, stopped, _ -> {}); }

    /// @param progress told the part that is done of what takes long, from any thread
    public void measure(Measurement.Request request, BooleanSupplier stopped, DoubleConsumer progress) {
        if (kept.containsKey(request)) return;
        try {
            Catalogue catalogue = request instanceof Measurement.OfInstruments ? ofInstruments : ofSounds;
            Optional<? extends Measurement> known = KeptMeasurements.find(catalogue, request);
            if (known.isPresent()) {
                kept.put(request, known.get());
                return;
            }
            Optional<? extends Measurement> measured = switch (request) {
                case Measurement.OfFile(SoundFile file, OptionalDouble silenceDbfs) -> survey(file, silenceDbfs, stopped);
                case Measurement.OfPitch(SoundFile file) -> stopped.getAsBoolean() ? Optional.<Measurement>empty() : pitch(file);
                case Measurement.OfLoops(SoundFile file, LoopWish wish) -> loops(file, wish, stopped);
                case Measurement.OfLoopQuality(SoundFile file, FrameRange loop, LoopMode mode, int crossfade) -> quality(file, loop, mode, crossfade);
                case Measurement.OfOnsets(SoundFile file, double sensitivity) -> onsets(file, sensitivity, stopped);
                case Measurement.OfGaps(SoundFile file) -> gaps(file, stopped);
                case Measurement.OfFaults(SoundFile file) -> faults(file, stopped);
                // What comes as the file holds it is listened to once for both.
                case Measurement.OfSourceChain(SoundFile file, SourceChain sourceChain, Ends ends) when sourceChain.isAsIn(file) && ends.isNone() ->
                    levels(file, stopped);
                case Measurement.OfSourceChain(SoundFile file, SourceChain sourceChain, Ends ends) -> levels(file, sourceChain, ends, stopped);
                case Measurement.OfInstruments played -> played.measure(path, recent, stopped, progress);
                case Measurement.OfLimited limited -> new LevelSearch(path, limited, stopped).find();
            };
            measured.ifPresent(m -> kept.put(request, m));
            measured.ifPresent(m -> KeptMeasurements.keep(catalogue, request, m));
        } catch (IOException e) {
            kept.put(request, new Measurement.Failed(DiskFault.text(e)));
        }
    }

    private static Optional<Measurement.Pitched> pitch(SoundFile file) throws IOException {
        try (FrameSource source = file.open()) {
            return Optional.of(new Measurement.Pitched(PitchDetector.detect(source)));
        }
    }

    private static Optional<Measurement.Loops> loops(SoundFile file, LoopWish wish, BooleanSupplier stopped) throws IOException {
        try (FrameSource source = file.open()) {
            List<FoundLoop> found = LoopFinder.find(source, wish, MOST_LOOPS, stopped);
            return stopped.getAsBoolean() ? Optional.empty() : Optional.of(new Measurement.Loops(found));
        }
    }

    private static Optional<Measurement.LoopJudged> quality(SoundFile file, FrameRange loop, LoopMode mode, int crossfade) throws IOException {
        try (FrameSource source = file.open()) {
            return Optional.of(new Measurement.LoopJudged(LoopFinder.judge(source, loop, mode, crossfade)));
        }
    }

    private static Optional<Measurement.Sounding> gaps(SoundFile file, BooleanSupplier stopped) throws IOException {
        try (FrameSource source = file.open()) {
            List<FrameRange> parts = Gaps.sounding(source, stopped);
            return stopped.getAsBoolean() ? Optional.empty() : Optional.of(new Measurement.Sounding(parts));
        }
    }

    private static Optional<Measurement.Onsets> onsets(SoundFile file, double sensitivity, BooleanSupplier stopped) throws IOException {
        try (FrameSource source = file.open()) {
            OnsetDetector.Heard heard = OnsetDetector.detect(source, sensitivity, stopped);
            return stopped.getAsBoolean()
                    ? Optional.empty()
                    : Optional.of(new Measurement.Onsets(heard.onsets().stream().map(OnsetDetector.Onset::frame).toList(),
                            TempoDetector.detect(heard, file.frames(), file.rateHz())));
        }
    }

    private static Optional<Measurement.Faults> faults(SoundFile file, BooleanSupplier stopped) throws IOException {
        FaultFinder finder = new FaultFinder(file.rateHz(), file.channels());
        Optional<StreamChecksum> sum = StreamChecksum.of(file);
        BadFrames bad = new BadFrames();
        try (FrameSource source = file.open(bad)) {
            double[][] block = new double[file.channels()][BLOCK];
            for (int got; (got = source.read(block, 0, BLOCK)) > 0;) {
                if (stopped.getAsBoolean()) return Optional.empty();
                finder.add(block, got);
                if (sum.isPresent()) sum.get().add(block, got);
            }
        }
        List<FaultFinder.Fault> all = new ArrayList<>(whole(file, finder.finish()));
        FaultFinder.Kind kind = file.compression().isPresent() ? FaultFinder.Kind.UNDECODED : FaultFinder.Kind.NO_NUMBER;
        bad.ranges().forEach(range -> all.add(new FaultFinder.Fault(kind, range)));
        all.sort(Comparator.comparingLong(f -> f.frames().start()));
        return Optional.of(new Measurement.Faults(all, sum.map(StreamChecksum::isRight)));
    }

    /// Clicks from edge to edge: they are found by the first of them.
    private static List<FaultFinder.Fault> whole(SoundFile file, List<FaultFinder.Fault> faults) throws IOException {
        if (faults.stream().noneMatch(f -> f.kind() == FaultFinder.Kind.CLICK)) return faults;
        int longest = (int) Math.max(1, FaultFinder.LONGEST_CLICK_MS * file.rateHz() / 1000);
        List<FaultFinder.Fault> all = new ArrayList<>();
        long last = 0;
        try (SeekableSource source = file.open()) {
            for (FaultFinder.Fault fault : faults) {
                if (fault.kind() != FaultFinder.Kind.CLICK) {
                    all.add(fault);
                    continue;
                }
                FrameRange click = edges(source, fault.frames(), longest);
                // A click that begins within the one before is its other edge.
                if (click.start() >= last) all.add(new FaultFinder.Fault(FaultFinder.Kind.CLICK, click));
                last = click.end();
            }
        }
        return all;
    }

    private static FrameRange edges(SeekableSource source, FrameRange found, int longest) throws IOException {
        long from = Math.max(0, found.start() - 2L * ClickEdges.AROUND), to = Math.min(source.frames(), found.start() + longest + 2L * ClickEdges.AROUND);
        double[][] around = new double[source.channels()][(int) (to - from)];
        source.seek(from);
        source.readFully(around, 0, around[0].length);
        long start = Long.MAX_VALUE, end = 0;
        for (double[] plane : around) {
            Optional<FrameRange> edges = ClickEdges.of(plane, (int) (found.start() - from), longest);
            if (edges.isPresent()) {
                start = Math.min(start, from + edges.get().start());
                end = Math.max(end, from + edges.get().end());
            }
        }
        return end == 0 ? found : new FrameRange(start, end);
    }

    private static Optional<Measurement.Survey> survey(SoundFile file, OptionalDouble silenceDbfs, BooleanSupplier stopped) throws IOException {
        try (FrameSource source = file.openThrough()) {
            SurveyMeter meter = new SurveyMeter(file, silenceDbfs);
            double[][] block = new double[file.channels()][BLOCK];
            for (int got; (got = source.read(block, 0, BLOCK)) > 0;) {
                if (stopped.getAsBoolean()) return Optional.empty();
                meter.add(block, got);
            }
            return Optional.of(meter.finish());
        }
    }

    private Optional<Measurement> levels(SoundFile file, BooleanSupplier stopped) {
        Measurement.Request whole = new Measurement.OfFile(file, OptionalDouble.empty());
        measure(whole, stopped);
        return find(whole).map(m -> m instanceof Measurement.Survey survey ? new Measurement.ChainLevels(survey.levels(), survey.seamDb()) : m);
    }

    private Optional<Measurement.ChainLevels> levels(SoundFile file, SourceChain sourceChain, Ends ends, BooleanSupplier stopped) throws IOException {
        try (FrameSource source = path.openThrough(file, sourceChain, new OutputChain(0, ends, Optional.empty()), _ -> {})) {
            LevelMeter meter = new LevelMeter(sourceChain.rateHz(), source.channels());
            Optional<SeamWatch> seam = sourceChain.loop().filter(l -> l.to().length() >= Seam.SHORTEST)
                    .map(l -> new SeamWatch(l.to(), l.alternates(), source.channels()));
            double[][] block = new double[source.channels()][BLOCK];
            long at = 0;
            for (int got; (got = source.read(block, 0, BLOCK)) > 0; at += got) {
                if (stopped.getAsBoolean()) return Optional.empty();
                meter.add(block, 0, got);
                if (seam.isPresent()) seam.get().add(block, got, at);
            }
            return Optional.of(new Measurement.ChainLevels(meter.finish(), seam.map(s -> OptionalDouble.of(s.stepDb())).orElse(OptionalDouble.empty())));
        }
    }

    /// The first loop that sustains: the one whose seam counts.
    static Optional<Loop> ruling(SoundFile file) { return file.metadata().loops().stream().filter(l -> l.use() == Loop.Use.SUSTAIN).findFirst(); }

    /// Catches what is played around a seam out of a stream.
    static final class SeamWatch {
        private final FrameRange loop;
        private final boolean alternates;
        private final double[][] afterStart, beforeEnd;

        SeamWatch(FrameRange loop, boolean alternates, int channels) {
            this.loop = loop;
            this.alternates = alternates;
            int around = (int) Math.min(Seam.AROUND, loop.length());
            afterStart = new double[channels][around];
            beforeEnd = new double[channels][around];
        }

        /// @param at frame of the stream that the block starts with
        void add(double[][] block, int count, long at) {
            catchInto(afterStart, loop.start(), block, count, at);
            catchInto(beforeEnd, loop.end() - beforeEnd[0].length, block, count, at);
        }

        private static void catchInto(double[][] caught, long start, double[][] block, int count, long at) {
            long from = Math.max(start, at), to = Math.min(start + caught[0].length, at + count);
            for (int channel = 0; channel < caught.length && from < to; channel++)
                System.arraycopy(block[channel], (int) (from - at), caught[channel], (int) (from - start), (int) (to - from));
        }

        /// As the loop is played: one seam, or the worse of two turns.
        double stepDb() { return alternates ? Math.max(Seam.turnDb(beforeEnd), Seam.turnDb(Seam.backward(afterStart))) : Seam.stepDb(beforeEnd, afterStart); }
    }
}
