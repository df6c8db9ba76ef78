package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.change.LevelChange;
import ablecrate.change.LoopChange;
import ablecrate.change.MetadataChange;
import ablecrate.change.PartChange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.dsp.Levels;
import ablecrate.instrument.SoundMetadata;
import ablecrate.option.LevelTarget;
import ablecrate.plan.LevelPlan;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.LoopCarry;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;

/// One sound's way into the packing list, stage by stage: search for a loop → speed → channels → part → repairs → rate and loop → fades → levels; and, once the gains of all sounds are
/// known, ceiling → samples → container → metadata → chunks. Each stage is a function of those before it and gives a value with its changes; what is rendered is
/// made of the same values.
public final class SoundPlan {
    private final SoundTask task;
    private final LoopSearch search;
    private final Speed speed;
    private final Channels channels;
    private final Optional<Answer<Measurement.Survey>> survey;
    private final UsedPart.Ends ends;
    private final UsedPart part;
    private static final double EQUAL_POWER_DB = 10 * Math.log10(2), MOST_MADE_UP_DB = 17;

    private final Repairs repairs;
    private final Conversion conversion;
    private final Fades fades;
    private final HeardLevels heard;

    public SoundPlan(SoundTask given) {
        search = LoopSearch.of(given);
        task = search.task();
        speed = Speed.of(task);
        channels = Channels.of(task);
        survey = survey(task, channels, speed);
        Optional<Measurement.Survey> known = survey.flatMap(Answer::found);
        ends = new UsedPart.Ends(known, StemEnds.of(task), attack(task, channels));
        part = UsedPart.of(task, ends);
        repairs = Repairs.of(task, channels, known);
        conversion = Conversion.of(task, part.frames(), repairs, speed);
        fades = Fades.of(task, conversion.sourceChain(), part, known);
        boolean isWaiting = Stream
                .concat(Stream.concat(search.heard().stream(), Stream.of(speed.heard(), survey, ends.attack(), repairs.heard()).flatMap(Optional::stream)),
                        ends.stems().answers().stream())
                .anyMatch(Answer::isAwaited);
        heard = HeardLevels.of(task, channels, conversion.sourceChain(), fades.ends(), isWaiting);
    }

    /// The file as it is, where what is done or told depends on it.
    private static Optional<Answer<Measurement.Survey>> survey(SoundTask task, Channels channels, Speed speed) {
        boolean isNeeded = task.treatment().trimDbfs().isPresent() || task.treatment().removesOffset() || task.treatment().edges().clickless();
        boolean isTold = channels.isFolded() || task.fadeInMs() > 0
                || task.rulingLoop().isPresent() && (task.changesRate() || speed.isOther() || task.crossfadeMs() > 0);
        return channels.isNone() || !isNeeded && !isTold
                ? Optional.empty()
                : Optional.of(task.ask(new Measurement.OfFile(task.file(), task.treatment().silenceDbfs()), Measurement.Survey.class, isNeeded));
    }

    /// Where the first attack is. A part that was drawn by hand, and stems, start where they do.
    private static Optional<Answer<Measurement.Onsets>> attack(SoundTask task, Channels channels) {
        return channels.isNone() || !task.treatment().edges().onAttack() || task.edit().part().isPresent() || task.stems().isPresent()
                ? Optional.empty()
                : Optional.of(task.ask(new Measurement.OfOnsets(task.file()), Measurement.Onsets.class, true));
    }

    private List<Answer<?>> answers() {
        return Stream
                .of(search.heard().stream(), speed.heard().stream(), survey.stream(), ends.stems().answers().stream(), ends.attack().stream(),
                        repairs.heard().stream(),
                        heard.answers().stream())
                .<Answer<?>>flatMap(s -> s).toList();
    }

    private boolean isSettled() { return answers().stream().noneMatch(Answer::isAwaited); }

    public boolean setsLevels() {
        return HeardLevels.isLeveled(task, conversion.sourceChain()) && !channels.isNone() && isSettled() && !heard.faded().isEmpty();
    }

    public Leveling.Sound toLevel() {
        return new Leveling.Sound(task.group(), task.treatment(), heard.before(), heard.faded(), heard.limited(), HeardLevels.hold(task), task.raiseDb(),
                !task.depth().isFloat());
    }

    /// By how much the sound is made louder, so that its zones say as much less.
    public double raisedDb(Leveling leveling) { return setsLevels() ? leveling.raisedDb(toLevel()) : 0; }

    /// The loop that it gets, as it had none.
    public Optional<FoundLoop> addedLoop() { return search.added(); }

    /// How much softer the sound plays once its sides are one: in the middle a mono sound is shared out to both at equal power (common practice). Empty where nobody listened, and where the sides cancel,
    /// for which nothing makes up.
    public Optional<Double> foldedDb() {
        if (!channels.isFolded()) return Optional.of(0.0);
        return survey.flatMap(Answer::found).flatMap(Measurement.Survey::sides).map(Measurement.Sides::foldLossDb).filter(loss -> loss < MOST_MADE_UP_DB)
                .map(loss -> Math.max(0, loss) + EQUAL_POWER_DB);
    }

    /// @param leveling that knows all sounds
    public PackingItem item(Leveling leveling) {
        Leveling.Setting setting = setsLevels() ? leveling.of(toLevel()) : Leveling.Setting.NONE;
        Ceiling ceiling = Ceiling.of(task, channels, conversion.sourceChain(), fades.ends(), setting);
        Samples samples = Samples.of(task, channels, conversion.sourceChain(), ceiling.outputChain());
        CarriedMetadata carried = CarriedMetadata.of(task, conversion, speed, seam());
        Chunks chunks = Chunks.of(task, samples.differ());
        // A map beside a file that fits says what is to be said; without one the file has to.
        boolean isGiven = !Objects.equals(task.file().metadata(), task.own());
        boolean fits = task.target().isFile() && task.staysInFormat() && !samples.differ() && !task.file().needsMending() && carried.changes().isEmpty()
                && !search.isRenewed();
        boolean isVerbatim = fits && (!isGiven || task.target().hasMap());
        SoundMetadata metadata = isVerbatim ? task.own() : carried.metadata();
        List<PlannedOutput> outputs = new ArrayList<>();
        for (int i = 0; i < channels.mixes().size(); i++)
            outputs.add(new PlannedOutput(task.file(), "", task.target().id(), shape(channels.mixes().get(i)), metadata,
                    conversion.sourceChain().with(channels.mixes().get(i)), ceiling.outputChain(), levels(i, setting), samples.dither(), isVerbatim,
                    samples.differ(),
                    chunks.kept(), Optional.empty()));

        List<Change> changes = new ArrayList<>(before());
        setting.change().ifPresent(changes::add);
        ceiling.change().ifPresent(changes::add);
        Container.converted(task).ifPresent(changes::add);
        changes.addAll(samples.changes());
        changes.addAll(carried.changes());
        conversion.change().ifPresent(changes::add);
        changes.addAll(Container.mended(task));
        fades.attack(task, conversion.sourceChain(), survey.flatMap(Answer::found)).ifPresent(changes::add);
        if (isGiven && fits && !isVerbatim && task.loopsSet().isEmpty() && task.cuesSet().isEmpty())
            changes.add(new MetadataChange.MappingWritten(task.own().mapping(), metadata.mapping()));
        if (!isVerbatim) {
            changes.addAll(chunks.changes());
            Container.start(task, part.frames()).ifPresent(changes::add);
            Container.compressed(task, shape(channels.isNone() ? ChannelMix.keep(task.file().channels()) : channels.mixes().getFirst()))
                    .ifPresent(changes::add);
        }
        outputs.forEach(o -> Container.tooLarge(task, o.shape()).ifPresent(changes::add));
        if (!isSettled()) changes.add(new LevelChange.NotHeardYet());
        return PackingItem.of(task.gathered(), changes, outputs,
                answers().stream().filter(Answer::isMissing).<Measurement.Request>map(Answer::request).toList(),
                isSettled());
    }

    /// Changes of the stages that come before the gains of all sounds are known.
    private List<Change> before() {
        Optional<Change> unreadable = answers().stream().flatMap(a -> a.failure().stream()).findFirst()
                .map(why -> new FileChange.Refused("Unreadable sound", why));
        List<Change> changes = new ArrayList<>();
        channels.change(survey.flatMap(Answer::found)).ifPresent(changes::add);
        unreadable.ifPresent(changes::add);
        if (task.file().audio() instanceof AudioPlace.Slice(SoundFile whole, FrameRange piece, int in, int out)) {
            double rate = whole.rateHz();
            changes.add(new PartChange.Sliced(whole.frames() / rate, piece.start() / rate, piece.end() / rate, 1000 * in / rate, 1000 * out / rate));
        }
        if (task.file().audio() instanceof AudioPlace.Delayed(SoundFile whole, long silence))
            changes.add(new PartChange.StartPadded(whole.durationSeconds(), (double) silence / whole.rateHz()));
        part.change().ifPresent(changes::add);
        task.loopsSet().ifPresent(changes::add);
        task.cuesSet().ifPresent(changes::add);
        search.change().ifPresent(changes::add);
        // Of loops that were found it is told with them.
        if (search.change().isEmpty())
            conversion.sourceChain().loop().filter(l -> l.riseDb() > 0).ifPresent(l -> changes.add(new LoopChange.LoopRaised(l.riseDb())));
        speed.change().ifPresent(changes::add);
        changes.addAll(repairs.changes());
        fades.change().ifPresent(changes::add);
        return changes;
    }

    private OutputShape shape(ChannelMix mix) {
        return new OutputShape(task.rateHz(), mix.weights().size(), task.depth(), conversion.sourceChain().frames(), task.options().quality());
    }

    private LoopChange.SeamSteps seam() {
        double crossfade = conversion.sourceChain().loop().map(LoopCarry::crossfadeFrames).orElse(0) * 1000.0 / task.file().rateHz();
        return new LoopChange.SeamSteps(crossfade, survey.flatMap(Answer::found).map(Measurement.Survey::seamDb).orElse(OptionalDouble.empty()),
                heard.seamDb());
    }

    private LevelPlan levels(int output, Leveling.Setting setting) {
        Optional<Levels> before = setsLevels() && heard.before().size() > output ? Optional.of(heard.before().get(output)) : Optional.empty(),
                after = setting.after().size() > output ? Optional.of(setting.after().get(output)) : Optional.empty();
        // Together, the loudest of all sounds is at the target; of each, what the list says is asked for.
        Optional<LevelTarget> asked = task.treatment().level().filter(t -> after.filter(l -> l.by(t.measure()).isPresent()).isPresent())
                .map(t -> task.treatment().together() || channels.mixes().size() > 1
                        ? new LevelTarget(t.measure(), after.get().by(t.measure()).getAsDouble())
                        : t);
        OptionalDouble ceiling = setsLevels() && task.treatment().ceilingDbtp().isPresent()
                ? OptionalDouble.of(task.treatment().ceilingDbtp().get())
                : OptionalDouble.empty();
        return new LevelPlan(before, after, asked, ceiling, task.treatment().limits().overs());
    }
}
