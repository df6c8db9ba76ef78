package ablecrate.plan;

import ablecrate.audio.Depth;
import ablecrate.audio.Figures;
import ablecrate.audio.FrameRange;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.Capabilities;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.Compression;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.dsp.Seam;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundFacts;
import ablecrate.library.Gathered;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.Ends;
import ablecrate.signal.Finish;
import ablecrate.signal.Front;
import ablecrate.signal.Hold;
import ablecrate.signal.LoopCarry;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Comparator;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// One sound's way into the packing list: first what comes to the level stage, then, once the gains are known, the line.
final class SoundPlan {
    /// A rate that keeps less than this of the audible band loses something one can hear.
    private static final double AUDIBLE_HZ = 20_000;
    /// Of Nyquist, what rate conversion keeps whole; the converter's own figure.
    private static final double KEPT_BAND = 0.95;
    /// Fewer bits than these and the noise of rounding is heard.
    private static final int QUIET_BITS = 16;
    /// What a lossy sound, which has no depth of its own, is written in: the safest depth to hand on (common practice).
    private static final Depth HANDED_ON = Depth.INT_24;
    private static final int TOLD_FAULTS = 5;
    /// A constant below this is no offset worth taking off: −80 dB.
    private static final double OFFSET = 1e-4;
    /// What folding to the middle may lose before it is told (sides that have nothing in common lose 3 dB), what leaves nothing but the rounding of samples, and
    /// what a single second may lose.
    private static final double FOLD_LOSS_DB = 4.5, NOTHING_LEFT_DB = 120, CANCELLED_SECOND_DB = 9;
    /// What a fade-in may take from an attack before it is told, and how much of the start counts as one.
    private static final double ATTACK_LOSS_DB = 1;
    private static final int ATTACK_MS = 10;
    /// Beyond full scale by less than this is rounding.
    private static final double OVER_DB = 0.001;

    private final Gathered gathered;
    private final SoundFile file;
    /// What the file says of itself.
    private final SoundFacts own;
    private final DestinationSheet sheet;
    private final PackOptions options;
    private final Treatment treatment;
    private final ItemEdit edit;
    private final Function<Measurement.Request, Optional<Measurement>> measured;

    private final Optional<SoundFormat> source;
    private final SoundTarget target;
    private final int rateHz;
    private final Depth sourceDepth, depth;
    private final List<Change> changes = new ArrayList<>();
    private final List<Measurement.Request> wanted = new ArrayList<>();
    private final List<ChannelMix> mixes;
    private final Optional<Measurement.Survey> survey;
    private final Optional<LoopFit> fit;
    private final Optional<LoopCarry> carry;
    private final Front front;
    private final Ends ends;
    /// Of each output, before its fades, with them, and behind the limiter; empty while not measured or where it does not matter.
    private final List<Levels> levels, faded;
    private final List<Measurement.Limited> limited;
    private final OptionalDouble seamAfter;
    private boolean isSettled = true;

    /// @param given what an instrument says of the sound in place of the file's own facts; empty where the file speaks for itself
    SoundPlan(Gathered gathered, SoundFile inFile, Optional<SoundFacts> given, SoundTarget target, Accepted accepted, DestinationSheet sheet,
            PackOptions options, ItemEdit edit,
            Function<Measurement.Request, Optional<Measurement>> measured) {
        this.gathered = gathered;
        this.own = inFile.facts();
        this.file = given.map(inFile::withFacts).orElse(inFile);
        this.sheet = sheet;
        this.options = options;
        this.edit = edit;
        this.treatment = edit.treatment().orElse(options.treatment());
        this.measured = measured;
        source = SoundFormats.byId(inFile.formatId());
        this.target = target;
        rateHz = target.rateHz(accepted.rateHz(file.rateHz()));
        sourceDepth = file.encoding().depth();
        depth = target.depth(accepted.depth(file.isLossy() ? HANDED_ON : sourceDepth), sheet.accepts().depthList());
        mixes = channels(accepted, target.capabilities());
        Optional<Loop> loop = target.carriesLoops()
                ? file.facts().loops().stream().filter(l -> l.use() == Loop.Use.SUSTAIN && l.frames().length() > 1 && l.frames().end() <= file.frames())
                        .findFirst()
                : Optional.empty();
        survey = survey(loop);
        FrameRange part = part();
        List<Double> offsets = offsets();
        List<FrameRange> mends = mends();
        fit = loop.filter(_ -> rateHz != file.rateHz())
                .map(l -> LoopFit.of(moved(l.frames(), part), l.mode() == LoopMode.ALTERNATING, file.rateHz(), rateHz, target.tuning(),
                        file.facts().mapping().fineTuneCents()));
        carry = loop.map(l -> carry(l, part));
        front = new Front(part, offsets, ChannelMix.keep(file.channels()), fit.map(LoopFit::outputStep).orElse((long) rateHz),
                fit.map(LoopFit::inputStep).orElse((long) file.rateHz()), rateHz,
                carry.filter(c -> c.crossfadeFrames() > 0 || rateHz != file.rateHz()), mends);
        ends = ends();
        List<Measurement.FrontLevels> heard = heard(Ends.NONE, front.loop().isPresent());
        levels = levels(heard);
        seamAfter = heard.isEmpty() ? OptionalDouble.empty() : heard.getFirst().seamDb();
        faded = ends.isNone() ? levels : levels(heard(ends, false));
        limited = limited();
    }

    private static FrameRange moved(FrameRange range, FrameRange part) { return new FrameRange(range.start() - part.start(), range.end() - part.start()); }

    /// What a request gave; while it gave nothing it is wanted.
    private <T extends Measurement> Optional<T> ask(Measurement.Request request, Class<T> kind, boolean isNeeded) {
        Optional<Measurement> found = measured.apply(request);
        if (found.isEmpty()) {
            wanted.add(request);
            if (isNeeded) isSettled = false;
        }
        found.filter(Measurement.Failed.class::isInstance).map(Measurement.Failed.class::cast)
                .filter(_ -> changes.stream().noneMatch(c -> c.property() == Property.KIND))
                .ifPresent(f -> changes.add(new Change(Property.KIND, "Unreadable sound", "–", Verdict.BLOCKED, f.reason())));
        return found.filter(kind::isInstance).map(kind::cast);
    }

    private boolean isSameFormat() { return file.formatId().equals(target.id()); }

    private boolean folds() { return mixes.size() == 1 && mixes.getFirst().isMiddle(); }

    private Optional<Measurement.Survey> survey(Optional<Loop> loop) {
        boolean isNeeded = treatment.trimDbfs().isPresent() || treatment.removesOffset();
        boolean isTold = folds() || fadeInMs() > 0 || loop.isPresent() && (rateHz != file.rateHz() || crossfadeMs() > 0);
        if (mixes.isEmpty() || !isNeeded && !isTold) return Optional.empty();
        return ask(new Measurement.OfFile(file, treatment.silenceDbfs()), Measurement.Survey.class, isNeeded);
    }

    /// Whether samples may come to lie beyond full scale where an integer is written: conversions overshoot, floats and decoders know no full scale.
    private boolean mayOver() {
        return !depth.isFloat() && !target.isLossy() && (file.encoding().isFloat() || file.isLossy() || rateHz != file.rateHz() || !front.offsets().isEmpty()
                || front.loop().isPresent());
    }

    /// Whether gain and limiter follow from what is heard.
    private boolean isLeveled() {
        // Lowered together, a sound goes with the others whether it may lie over or not.
        return treatment.setsLevels() || treatment.limits().overs() == Overs.LOWER && mayOver()
                || treatment.limits().overs() == Overs.LOWER_TOGETHER && !depth.isFloat() && !target.isLossy();
    }

    private double fadeInMs() { return edit.fadeInMs().orElse(treatment.fadeIn().ms()); }

    private double fadeOutMs() { return edit.fadeOutMs().orElse(treatment.fadeOut().ms()); }

    private double crossfadeMs() { return edit.loopCrossfadeMs().orElse(treatment.loopCrossfadeMs()); }

    /// The part of the source that is used: as the user drew it, or without silence; never into a loop.
    private FrameRange part() {
        FrameRange all = new FrameRange(0, file.frames());
        FrameRange wish = edit.part().orElseGet(() -> treatment.trimDbfs().isEmpty()
                ? new FrameRange(likelyDelay(), file.frames())
                : survey.map(Measurement.Survey::sounding).orElse(all));
        long start = Math.clamp(wish.start(), 0, file.frames() - 1), end = Math.clamp(wish.end(), start + 1, file.frames());
        for (Loop loop : file.facts().loops()) {
            start = Math.min(start, loop.frames().start());
            end = Math.min(file.frames(), Math.max(end, loop.frames().end()));
        }
        FrameRange part = new FrameRange(start, end);
        if (part.length() < file.frames() && (start != likelyDelay() || end != file.frames()))
            changes.add(new Change(Property.TRIM, seconds(file.frames()), seconds(part.length()), Verdict.CONVERTED,
                    Stream.of(cut(start, "start"), cut(file.frames() - end, "end"), start < wish.start() || end > wish.end() ? "up to the loop" : "")
                            .filter(Predicate.not(String::isEmpty)).collect(Collectors.joining(", ")))
                    .of((double) file.frames() / file.rateHz(), (double) part.length() / file.rateHz(), "s"));
        return part;
    }

    private String cut(long frames, String side) {
        return frames == 0 ? "" : String.format(Locale.ROOT, "%.1f ms off the %s", frames * 1000.0 / file.rateHz(), side);
    }

    /// What is taken off the start of a file that does not say its delay.
    private long likelyDelay() {
        if (!options.mending().takesLikelyDelay()) return 0;
        return file.compression().map(Compression::start).filter(Compression.Start.Unknown.class::isInstance).map(Compression.Start.Unknown.class::cast)
                .map(Compression.Start.Unknown::likelyFrames).map(f -> Math.min(f, file.frames() - 1)).orElse(0L);
    }

    private String seconds(long frames) { return String.format(Locale.ROOT, "%.3f s", (double) frames / file.rateHz()); }

    private List<Double> offsets() {
        if (!treatment.removesOffset() || survey.isEmpty()) return List.of();
        List<Double> offsets = survey.get().offsets();
        double most = offsets.stream().mapToDouble(Math::abs).max().orElse(0);
        if (most < OFFSET) return List.of();
        changes.add(new Change(Property.OFFSET, String.format(Locale.ROOT, "%.2f %%", most * 100), "none", Verdict.CONVERTED,
                String.format(Locale.ROOT, "offset of %.1f dBFS taken off", Decibels.ofFactor(most))).of(most * 100, 0, "%"));
        return offsets;
    }

    /// Looks for damage, tells it, and gives what of it is to be filled in.
    private List<FrameRange> mends() {
        if (!options.mending().listens() || mixes.isEmpty()) return List.of();
        Optional<Measurement.Faults> heard = ask(new Measurement.OfFaults(file), Measurement.Faults.class, options.mending().mendsClicks());
        if (heard.isEmpty()) return List.of();
        if (heard.get().isAsCoded().equals(Optional.of(false)))
            changes.add(new Change(Property.DAMAGE, "checksum", "wrong", Verdict.REDUCED,
                    "what was decoded is not what was coded: the file's own checksum differs"));
        List<FaultFinder.Fault> faults = heard.get().faults();
        if (faults.isEmpty()) return List.of();
        List<FrameRange> clicks = faults.stream().filter(f -> f.kind() == FaultFinder.Kind.CLICK).map(FaultFinder.Fault::frames).toList();
        boolean mends = options.mending().mendsClicks() && !clicks.isEmpty();
        Map<FaultFinder.Kind, Long> kinds = faults.stream().collect(Collectors.groupingBy(FaultFinder.Fault::kind, TreeMap::new, Collectors.counting()));
        String before = kinds.entrySet().stream().map(e -> Told.count(e.getValue(), e.getKey().label())).collect(Collectors.joining(", "));
        String places = faults.stream().limit(TOLD_FAULTS)
                .map(f -> String.format(Locale.ROOT, "%s at %.3f s", f.kind().label(), (double) f.frames().start() / file.rateHz()))
                .collect(Collectors.joining(", ")) + (faults.size() > TOLD_FAULTS ? " and more" : "");
        changes.add(new Change(Property.DAMAGE, before, mends ? Told.count(clicks.size(), "click") + " mended" : "as they are",
                mends && clicks.size() == faults.size() ? Verdict.CONVERTED : mends ? Verdict.ADJUSTED : Verdict.KEPT, places)
                .of(faults.size(), mends ? faults.size() - clicks.size() : faults.size(), "faults"));
        return mends ? clicks : List.of();
    }

    private LoopCarry carry(Loop loop, FrameRange part) {
        FrameRange from = moved(loop.frames(), part);
        long asked = Math.round(crossfadeMs() * file.rateHz() / 1000),
                most = loop.mode() == LoopMode.ALTERNATING ? 0 : Math.min(from.start(), from.length() / 2);
        return new LoopCarry(from, fit.map(LoopFit::to).orElse(from), loop.mode() == LoopMode.ALTERNATING,
                (int) Math.min(asked, Math.min(most, 10L * file.rateHz())));
    }

    /// What the outputs sound like before gain and limiter, where anything depends on it.
    private List<Measurement.FrontLevels> heard(Ends with, boolean isTold) {
        boolean isNeeded = isLeveled();
        if (!isSettled || !isNeeded && !isTold) return List.of();
        List<Measurement.FrontLevels> all = new ArrayList<>();
        for (ChannelMix mix : isNeeded ? mixes : mixes.subList(0, Math.min(1, mixes.size())))
            ask(new Measurement.OfFront(file, front.with(mix), with), Measurement.FrontLevels.class, isNeeded).ifPresent(all::add);
        return all;
    }

    private List<Levels> levels(List<Measurement.FrontLevels> heard) {
        return heard.size() < mixes.size() ? List.of() : heard.stream().map(Measurement.FrontLevels::levels).toList();
    }

    /// What a limiter would hold if it were needed; empty where peaks are kept low otherwise, or may be as high as they like.
    private Optional<Hold> hold() {
        if (Leveling.lowersGain(treatment)) return Optional.empty();
        if (treatment.ceilingDbtp().isPresent()) return Optional.of(new Hold.TruePeaks(treatment.ceilingDbtp().get()));
        return depth.isFloat() || treatment.limits().overs() != Overs.LIMIT ? Optional.empty() : Optional.of(new Hold.Samples());
    }

    /// What a limiter makes of each output, the loudest first found; one gain for all of them.
    private List<Measurement.Limited> limited() {
        Optional<Hold> hold = hold();
        if (!isLeveled() || !isSettled || faded.isEmpty() || hold.isEmpty()) return List.of();
        Optional<Double> peak = Leveling.most(faded, hold.get() instanceof Hold.TruePeaks ? LevelMeasure.TRUE_PEAK : LevelMeasure.PEAK);
        Optional<Double> loud = treatment.level().flatMap(t -> Leveling.most(faded, t.measure()));
        double gain = loud.map(l -> treatment.level().get().value() - l).orElse(0.0);
        if (peak.isEmpty() || peak.get() + gain <= hold.get().ceilingDb()) return List.of();
        int loudest = loud.isEmpty() ? 0 : IntStream.range(0, faded.size()).boxed().max(Comparator.comparing(this::loudness)).orElseThrow();
        Measurement.Aim aim = loud.isEmpty()
                ? new Measurement.Aim.Gain(0)
                : new Measurement.Aim.Target(treatment.level().get().measure(), treatment.level().get().value(), treatment.limits().mostLimitingDb());
        Optional<Measurement.Limited> first = limited(loudest, hold.get(), aim);
        if (first.isEmpty()) return List.of();
        List<Measurement.Limited> all = new ArrayList<>();
        for (int i = 0; i < mixes.size(); i++)
            (i == loudest ? first : limited(i, hold.get(), new Measurement.Aim.Gain(first.get().gainDb()))).ifPresent(all::add);
        return all.size() < mixes.size() ? List.of() : all;
    }

    private double loudness(int output) { return faded.get(output).by(treatment.level().get().measure()).orElse(Double.NEGATIVE_INFINITY); }

    private Optional<Measurement.Limited> limited(int output, Hold hold, Measurement.Aim aim) {
        return ask(new Measurement.OfLimited(file, front.with(mixes.get(output)), ends, hold, aim), Measurement.Limited.class, true);
    }

    boolean setsLevels() { return isLeveled() && !mixes.isEmpty() && isSettled && !faded.isEmpty(); }

    Leveling.Sound toLevel() { return new Leveling.Sound(group(), treatment, levels, faded, limited, hold(), !depth.isFloat()); }

    /// Each sound is a group of its own unless they are levelled, or lowered, together.
    private String group() {
        boolean isOne = treatment.together() || treatment.limits().overs() == Overs.LOWER_TOGETHER && !treatment.setsLevels();
        return isOne ? edit.group().orElse(gathered.folderName()) : gathered.path().toString();
    }

    PackingItem item(Leveling leveling) {
        Leveling.Setting setting = setsLevels() ? leveling.of(toLevel()) : Leveling.Setting.NONE;
        setting.change().ifPresent(changes::add);
        Finish finish = new Finish(setting.gainDb(), ends, setting.hold().or(this::knownOvers));

        boolean selects = mixes.stream().allMatch(ChannelMix::isSelection);
        // A mended frame is rounded; the others stay to the bit.
        boolean computes = front.convertsRate() || !front.offsets().isEmpty() || !finish.isNone()
                || front.loop().stream().anyMatch(l -> l.crossfadeFrames() > 0);
        boolean requantises = !depth.isFloat() && exactBits(computes, selects) > depth.bits();
        Dither dither = requantises ? options.dither() : Dither.NONE;

        if (!isSameFormat() && !target.isLossy()) changes.add(new Change(Property.CONTAINER, file.container(), target.name(), Verdict.CONVERTED, ""));
        if (rateHz != file.rateHz())
            changes.add(rate(file.rateHz(), rateHz, requantises && depth == sourceDepth ? "rounded to " + depth.label() + ", " + dither(dither) : ""));
        if (!target.isLossy() && (depth != sourceDepth || file.isLossy())) changes.add(depth(dither, requantises));

        List<Depth> taken = sheet.accepts().depthList();
        if (!taken.isEmpty() && !taken.contains(depth) && !target.isLossy())
            changes.add(new Change(Property.DEPTH, sourceDepth.label(), "–", Verdict.BLOCKED, target.name() + " has no depth that the destination takes ("
                    + taken.stream().map(Depth::label).collect(Collectors.joining(", ")) + "); choose another container"));

        double seconds = (double) front.frames() / rateHz;
        if (sheet.accepts().maxSeconds() > 0 && seconds > sheet.accepts().maxSeconds())
            changes.add(new Change(Property.LENGTH, String.format(Locale.ROOT, "%.1f s", seconds), "–", Verdict.BLOCKED,
                    String.format(Locale.ROOT, "%.1f s long, the destination takes %.0f s; shorten it first", seconds, sheet.accepts().maxSeconds()))
                    .of(seconds, sheet.accepts().maxSeconds(), "s"));

        FactsTransfer transfer = new FactsTransfer(target, front, file.rateHz(), fit, seam());
        SoundFacts facts = transfer.carry(file.facts());
        changes.addAll(transfer.changes());
        carry.filter(c -> crossfadeMs() > 0 && c.crossfadeFrames() == 0).ifPresent(c -> changes.add(new Change(Property.LOOPS,
                String.format(Locale.ROOT, "%.0f ms crossfade asked for", crossfadeMs()), "none", Verdict.ADJUSTED,
                c.alternates() ? "a loop that goes back and forth has no seam to blend" : "no room for a crossfade before the loop")));
        structure();
        warnings();

        // A loop of a few frames may fit the new rate as it is: then only what the rate is called changes.
        boolean audioChanges = computes || !front.mends().isEmpty() || rateHz != file.rateHz() || !target.isLossy() && (depth != sourceDepth || file.isLossy())
                || front.part().length() != file.frames()
                || changes.stream().anyMatch(c -> c.property() == Property.CHANNELS && c.verdict() != Verdict.BLOCKED);
        boolean fits = target.isFile() && isSameFormat() && !audioChanges && !file.needsMending() && transfer.changes().isEmpty(),
                isGiven = !Objects.equals(file.facts(), own), verbatim = fits && (!isGiven || target.hasMap());
        // A map beside a file that fits says what is to be said; without one the file has to.
        if (verbatim) facts = own;
        if (isGiven && fits && !verbatim)
            changes.add(new Change(Property.MAPPING, FactsTransfer.describe(own.mapping()), FactsTransfer.describe(facts.mapping()), Verdict.CONVERTED,
                    "mapping and loops of the instrument written into the file"));
        if (!verbatim) {
            chunks(audioChanges);
            compression();
        }

        List<PlannedOutput> outputs = new ArrayList<>();
        for (int i = 0; i < mixes.size(); i++) {
            OutputShape shape = new OutputShape(rateHz, mixes.get(i).weights().size(), depth, front.frames(), options.quality());
            long bytes = shape.frames() * shape.channels() * (depth.bits() / 8);
            if (bytes > target.capabilities().maxFileBytes() - (1 << 20))
                changes.add(new Change(Property.CONTAINER, "", "–", Verdict.BLOCKED, String.format(Locale.ROOT,
                        "%.1f GB of audio, %s holds 4.2 GB; choose WAV or split it", bytes / 1e9, target.name())));
            int at = i;
            outputs.add(new PlannedOutput(file, "", target.id(), shape, facts, front.with(mixes.get(i)), finish, levelPlan(at, setting), dither, verbatim,
                    audioChanges, file.chunks().stream().filter(c -> stays(c, audioChanges)).toList()));
        }
        if (!isSettled) changes.add(new Change(Property.LEVEL, "not heard yet", "–", Verdict.KEPT, "it is being listened to"));
        return PackingItem.of(gathered, changes, outputs, wanted, isSettled);
    }

    private LevelPlan levelPlan(int output, Leveling.Setting setting) {
        Optional<Levels> before = setsLevels() && levels.size() > output ? Optional.of(levels.get(output)) : Optional.empty(),
                after = setting.after().size() > output ? Optional.of(setting.after().get(output)) : Optional.empty();
        // Together, the loudest of all sounds is at the target; of each, what the list says is asked for.
        Optional<LevelTarget> asked = treatment.level().filter(t -> after.filter(l -> l.by(t.measure()).isPresent()).isPresent())
                .map(t -> treatment.together() || mixes.size() > 1 ? new LevelTarget(t.measure(), after.get().by(t.measure()).getAsDouble()) : t);
        OptionalDouble ceiling = setsLevels() && treatment.ceilingDbtp().isPresent()
                ? OptionalDouble.of(treatment.ceilingDbtp().get())
                : OptionalDouble.empty();
        return new LevelPlan(before, after, asked, ceiling, treatment.limits().overs());
    }

    /// Where it is known, without listening for it, that samples come to lie beyond full scale.
    private Optional<Hold> knownOvers() {
        if (isLeveled() || !mayOver() || mixes.isEmpty()) return Optional.empty();
        Optional<Double> over = mixes.stream().map(m -> measured.apply(new Measurement.OfFront(file, front.with(m), ends)).or(() -> asInFile(m)))
                .flatMap(Optional::stream).map(SoundPlan::peakDbfs).max(Double::compare).filter(db -> db > OVER_DB);
        if (over.isEmpty()) return Optional.empty();
        boolean clips = treatment.limits().overs() == Overs.CLIP;
        changes.add(Told.overs(over.get(), clips));
        return clips ? Optional.empty() : Optional.of(new Hold.Samples());
    }

    private Optional<Measurement> asInFile(ChannelMix mix) {
        return front.with(mix).isAsIn(file) && ends.isNone() ? measured.apply(new Measurement.OfFile(file, OptionalDouble.empty())) : Optional.empty();
    }

    private static double peakDbfs(Measurement heard) {
        return switch (heard) {
            case Measurement.FrontLevels(Levels found, _) -> found.samplePeakDbfs().orElse(Double.NEGATIVE_INFINITY);
            case Measurement.Survey whole -> whole.levels().samplePeakDbfs().orElse(Double.NEGATIVE_INFINITY);
            default -> Double.NEGATIVE_INFINITY;
        };
    }

    /// Fades stay outside of loops: a loop that fades is none.
    private Ends ends() {
        FrameRange whole = new FrameRange(0, front.frames());
        long in = Math.round(fadeInMs() * rateHz / 1000), out = Math.round(fadeOutMs() * rateHz / 1000), inRoom = whole.length(), outRoom = whole.length();
        for (Loop loop : target.carriesLoops() ? file.facts().loops() : List.<Loop>of()) {
            FrameRange frames = moved(loop.frames(), front.part());
            inRoom = Math.min(inRoom, frames.start() * front.outputStep() / front.inputStep());
            outRoom = Math.min(outRoom, Math.max(0, front.frames() - Math.ceilDiv(frames.end() * front.outputStep(), front.inputStep())));
        }
        long fadeIn = Math.clamp(in, 0, Math.max(0, inRoom)), fadeOut = Math.clamp(out, 0, Math.max(0, outRoom));
        if (in > 0 || out > 0) {
            List<String> told = new ArrayList<>();
            if (in > 0) told.add(fadeText("in", fadeIn, treatment.fadeIn().shape(), fadeIn < in));
            if (out > 0) told.add(fadeText("out", fadeOut, treatment.fadeOut().shape(), fadeOut < out));
            changes.add(new Change(Property.FADES, "none", fadeIn + fadeOut == 0 ? "none" : "faded",
                    fadeIn < in || fadeOut < out ? Verdict.ADJUSTED : Verdict.CONVERTED,
                    String.join("; ", told)));
        }
        return new Ends(fadeIn, treatment.fadeIn().shape(), fadeOut, treatment.fadeOut().shape());
    }

    private String fadeText(String which, long frames, FadeShape shape, boolean isShort) {
        if (frames == 0) return "no fade-" + which + ": the loop reaches there";
        return String.format(Locale.ROOT, "%.0f ms %s, %s%s", frames * 1000.0 / rateHz, which, shape.label(),
                isShort ? " (shortened, the loop begins there)" : "");
    }

    private String seam() {
        List<String> told = new ArrayList<>();
        front.loop().filter(l -> l.crossfadeFrames() > 0)
                .ifPresent(l -> told.add(String.format(Locale.ROOT, "crossfade of %.0f ms", l.crossfadeFrames() * 1000.0 / file.rateHz())));
        if (survey.isPresent() && survey.get().seamDb().isPresent() && seamAfter.isPresent())
            told.add("step at the seam " + step(survey.get().seamDb().getAsDouble()) + " → " + step(seamAfter.getAsDouble()));
        return String.join("; ", told);
    }

    private static String step(double db) { return db <= Seam.NONE_DB ? "none" : String.format(Locale.ROOT, "%.1f dB", db); }

    /// What is heard only by listening, and does not change what is done.
    private void warnings() {
        if (folds()) survey.flatMap(Measurement.Survey::sides).ifPresent(this::sides);
        if (ends.fadeInFrames() == 0 || survey.isEmpty()) return;
        double lost = attackLossDb();
        if (lost > ATTACK_LOSS_DB)
            changes.add(new Change(Property.FADES, "none", "faded", Verdict.ADJUSTED,
                    String.format(Locale.ROOT, "the fade-in eats the attack: %.1f dB of its first %d ms", lost, ATTACK_MS)));
    }

    /// What folding to the middle does to this sound.
    private void sides(Measurement.Sides sides) {
        if (sides.areTheSame()) {
            changes.replaceAll(c -> c.property() == Property.CHANNELS && c.verdict() == Verdict.REDUCED
                    ? c.saying(Verdict.CONVERTED, "both sides are the same")
                    : c);
            return;
        }
        String loss = null;
        if (sides.isLeftSilent() || sides.isRightSilent())
            loss = "the " + (sides.isLeftSilent() ? "left" : "right") + " side is silent, so the middle is 6 dB softer; take the "
                    + (sides.isLeftSilent() ? "right" : "left") + " side alone";
        else
            if (sides.foldLossDb() > FOLD_LOSS_DB)
                loss = (sides.foldLossDb() > NOTHING_LEFT_DB
                        ? "the sides cancel, nothing is left"
                        : String.format(Locale.ROOT, "the sides cancel, %.1f dB lost", sides.foldLossDb())) + "; take the left or the right side instead";
            else
                if (sides.worstDb() > CANCELLED_SECOND_DB)
                    loss = String.format(Locale.ROOT, "the sides cancel for a second at %.1f s, %s; take the left or the right side instead",
                            sides.worstAtSeconds(),
                            sides.worstDb() > NOTHING_LEFT_DB ? "nothing is left there" : String.format(Locale.ROOT, "%.1f dB lost there", sides.worstDb()));
        String told = loss;
        if (told != null)
            changes.replaceAll(c -> c.property() == Property.CHANNELS && c.verdict() == Verdict.REDUCED
                    ? c.saying(Verdict.REDUCED, told)
                    : c);
    }

    private double attackLossDb() {
        List<Double> onset = survey.get().onset();
        int first = (int) (front.part().start() * 1000 / file.rateHz());
        double all = 0, left = 0, fadeMs = ends.fadeInFrames() * 1000.0 / rateHz;
        for (int ms = 0; ms < ATTACK_MS && first + ms < onset.size(); ms++) {
            double gain = ms + 0.5 >= fadeMs ? 1 : ends.fadeInShape().fadeIn((ms + 0.5) / fadeMs);
            all += onset.get(first + ms);
            left += onset.get(first + ms) * gain * gain;
        }
        return all == 0 ? 0 : left == 0 ? Double.POSITIVE_INFINITY : 10 * Math.log10(all / left);
    }

    private List<ChannelMix> channels(Accepted accepted, Capabilities can) {
        int n = file.channels();
        MonoLaw law = edit.monoLaw().orElse(options.monoLaw());
        ChannelChoice choice = accepted.channels(n);
        String before = Planner.channelName(n);
        switch (choice) {
            case MONO -> {
                if (n == 1) return List.of(ChannelMix.keep(1));
                if (n == 2) {
                    ChannelMix mix = switch (law) {
                        case MID -> ChannelMix.middle();
                        case LEFT -> ChannelMix.only(0, 2);
                        case RIGHT -> ChannelMix.only(1, 2);
                    };
                    String reason = switch (law) {
                        case MID -> "both sides folded to the middle, (L+R)/2";
                        case LEFT -> "right channel dropped";
                        case RIGHT -> "left channel dropped";
                    };
                    changes.add(new Change(Property.CHANNELS, before, "mono", Verdict.REDUCED, reason).of(n, 1, "channels"));
                    return List.of(mix);
                }
            }
            case STEREO -> {
                if (n == 2) return List.of(ChannelMix.keep(2));
                if (n == 1) {
                    changes.add(new Change(Property.CHANNELS, before, "stereo", Verdict.CONVERTED, "the same on both sides").of(n, 2, "channels"));
                    return List.of(ChannelMix.doubled());
                }
            }
            case SPLIT -> {
                if (n == 1) return List.of(ChannelMix.keep(1));
                changes.add(new Change(Property.CHANNELS, before, n + " × mono", Verdict.CONVERTED, "each channel a file of its own").of(n, 1, "channels"));
                List<ChannelMix> mixes = new ArrayList<>();
                for (int channel = 0; channel < n; channel++)
                    mixes.add(ChannelMix.only(channel, n));
                return mixes;
            }
            case KEEP -> {
                if (accepted.acceptsChannels(n) && n <= can.maxChannels()) return List.of(ChannelMix.keep(n));
            }
        }
        changes.add(new Change(Property.CHANNELS, before, "–", Verdict.BLOCKED, before + " do not fit; split them into mono files"));
        return List.of();
    }

    /// Bits that hold every sample exactly when it comes to rounding.
    private int exactBits(boolean computes, boolean selects) {
        SampleEncoding encoding = file.encoding();
        if (encoding.isFloat() || computes) return Integer.MAX_VALUE;
        return encoding.validBits() + (selects ? 0 : 1);
    }

    /// @param rounding how samples are rounded where no change of depth tells it
    private static Change rate(int from, int to, String rounding) {
        double band = KEPT_BAND * Math.min(from, to) / 2;
        boolean loses = to < from && band < AUDIBLE_HZ;
        String lost = to < from ? String.format(Locale.ROOT, "the band above %.1f kHz goes", band / 1000) : "";
        return new Change(Property.RATE, hertz(from), hertz(to), loses ? Verdict.REDUCED : Verdict.CONVERTED,
                lost + (lost.isEmpty() || rounding.isEmpty() ? "" : "; ") + rounding).of(from, to, "Hz");
    }

    private static String hertz(int hz) { return Figures.grouped(hz) + " Hz"; }

    private Change depth(Dither dither, boolean requantises) {
        List<String> told = new ArrayList<>();
        if (file.isLossy()) told.add("decoded, no bit depth of its own");
        if (requantises) {
            // 6.02 N + 1.76 dB for plain rounding, 4.77 dB more noise with triangular dither (Lipshitz, Wannamaker, Vanderkooy 1992).
            double noise = -(6.02 * depth.bits() + 1.76) + (dither == Dither.NONE ? 0 : 4.77);
            told.add("rounded with " + dither(dither) + (dither == Dither.SHAPED ? "" : ", noise at " + Math.round(noise * 10) / 10.0 + " dBFS"));
        }
        boolean loses = !depth.isFloat() && depth.bits() < QUIET_BITS && requantises;
        Change change = new Change(Property.DEPTH, file.depthLabel(), depth.label(), loses ? Verdict.REDUCED : Verdict.CONVERTED, String.join("; ", told));
        return file.isLossy() ? change : change.of(sourceDepth.bits(), depth.bits(), "bit");
    }

    /// What compression did to the source, and does to the result.
    private void compression() {
        file.compression().map(Compression::start).ifPresent(start -> {
            switch (start) {
                case Compression.Start.Told(long frames, String by) -> {
                    if (frames > 0)
                        changes.add(new Change(Property.START, String.format(Locale.ROOT, "%,d frames late", frames), "exact", Verdict.CONVERTED,
                                "the encoder's delay is taken off, as its " + by + " says").of(frames, 0, "frames"));
                }
                case Compression.Start.Unknown(long frames) -> {
                    boolean isCut = front.part().start() > 0;
                    changes.add(new Change(Property.START, "not said", isCut ? "lined up" : "as it is", Verdict.ADJUSTED, isCut
                            ? String.format(Locale.ROOT, "the file does not say where its sound starts: %,d frames are taken off", front.part().start())
                            : String.format(Locale.ROOT, "the file does not say where its sound starts, likely %,d frames (%.0f ms) late; line it up", frames,
                                    frames * 1000.0 / file.rateHz())));
                }
            }
        });
        if (!target.isLossy()) return;
        OutputShape shape = new OutputShape(rateHz, mixes.isEmpty() ? file.channels() : mixes.getFirst().weights().size(), depth, front.frames());
        String quality = SoundFormats.written(target.id()).orElseThrow().describe(options.quality(), shape);
        changes.add(new Change(Property.CONTAINER, file.isLossy() ? file.codec() + ", " + file.depthLabel() : file.container(),
                target.name(), Verdict.REDUCED,
                file.isLossy()
                        ? "compressed a second time: what " + file.codec() + " took is gone, " + target.name() + " takes more; " + quality
                        : "compressed with loss, " + quality));
    }

    private static String dither(Dither dither) {
        return switch (dither) {
            case NONE -> "no dither";
            case TPDF -> "TPDF dither";
            case SHAPED -> "noise-shaped dither";
        };
    }

    private void structure() {
        for (Problem.Effect effect : List.of(Problem.Effect.LOST, Problem.Effect.MEND)) {
            List<Problem> problems = file.problems().stream().filter(p -> p.effect() == effect).toList();
            if (problems.isEmpty()) continue;
            String reason = problems.stream().map(p -> p.place().isEmpty() ? p.text() : p.place() + ": " + p.text()).collect(Collectors.joining("; "));
            changes.add(new Change(Property.STRUCTURE, "damaged", "mended", effect == Problem.Effect.LOST ? Verdict.REDUCED : Verdict.CONVERTED, reason));
        }
    }

    private boolean stays(ChunkInfo chunk, boolean audioChanges) {
        return source.filter(_ -> isSameFormat()).map(f -> f.role(chunk.id()) != ChunkRole.UNKNOWN || !audioChanges || options.facts().keepsUnknown())
                .orElse(false);
    }

    private void chunks(boolean audioChanges) {
        List<ChunkInfo> lost = file.chunks().stream().filter(c -> !stays(c, audioChanges) && isSaying(c)).toList();
        List<ChunkInfo> kept = file.chunks().stream()
                .filter(c -> audioChanges && stays(c, true) && source.filter(f -> f.role(c.id()) == ChunkRole.UNKNOWN).isPresent()).toList();
        List<Problem> own = isSameFormat() ? List.of() : file.problems().stream().filter(p -> p.effect() == Problem.Effect.OWN).toList();
        if (!own.isEmpty())
            changes.add(new Change(Property.CHUNKS, Told.count(own.size(), "item"), "none", Verdict.REDUCED,
                    target.name() + " has no place for " + own.stream().map(Problem::text).collect(Collectors.joining(", "))).of(own.size(), 0, "items"));
        if (!kept.isEmpty())
            changes.add(new Change(Property.CHUNKS, Told.count(kept.size(), "chunk"), "as they are", Verdict.ADJUSTED,
                    Told.count(kept.size(), "unknown chunk") + " kept as chosen: " + names(kept) + "; positions in them, if any, are not moved"));
        if (!lost.isEmpty())
            changes.add(new Change(Property.CHUNKS, Told.count(lost.size(), "chunk"), "none", Verdict.REDUCED,
                    Told.count(lost.size(), "unknown chunk") + " dropped: " + names(lost)).of(lost.size(), 0, "chunks"));
    }

    /// Whether anything is lost without it that is not told elsewhere.
    private boolean isSaying(ChunkInfo chunk) {
        ChunkRole role = source.map(f -> f.role(chunk.id())).orElse(ChunkRole.FILLER);
        return role == ChunkRole.TRAVELLER || role == ChunkRole.UNKNOWN;
    }

    private static String names(List<ChunkInfo> chunks) {
        return chunks.stream().map(c -> String.format(Locale.ROOT, "'%s' (%,d bytes)", c.id(), c.bytes())).collect(Collectors.joining(", "));
    }
}
