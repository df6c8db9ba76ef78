package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.Depth;
import ablecrate.destination.DeviceLimits;
import ablecrate.Sounds;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.play.LoadedSound;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.signal.Recent;
import ablecrate.signal.SoundPath;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Made instruments that are too much for a device: what is made of them fits, and sounds more like them than what simple plans make.
class FitterTest {
    @TempDir Path folder;

    private static Fit.Fitted one(FitTask task) throws Exception { return MadeInstrument.fit(task).instruments().getFirst(); }

    @Test void whatFitsIsLeftAlone() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 3, 4);
        assertThat(made.task(MadeInstrument.limits(3, 3, 1, 0)).isOver()).isFalse();
        assertThat(made.task(MadeInstrument.limits(3, 2, 1, 0)).isOver()).isTrue();
        assertThat(made.task(MadeInstrument.limits(0, 0, 0, 100_000)).isOver()).as("memory").isTrue();
    }

    @ParameterizedTest @ValueSource(ints = {2, 4}) void layersThatStayStandInForTheOthers(int most) throws Exception {
        Fit.Fitted fitted = one(MadeInstrument.ofLayers(folder, 8).task(MadeInstrument.limits(0, 0, most, 0)));
        assertThat(fitted.fits()).isTrue();
        assertThat(fitted.need().layers()).isLessThanOrEqualTo(most);
        assertThat(fitted.harm().meanDb()).isLessThan(0.4 * fitted.simpleDb().get("the first layers"))
                .isLessThan(0.6 * fitted.simpleDb().get("layers thinned evenly"));
        for (int velocity = 1; velocity <= 127; velocity++)
            assertThat(covering(fitted.after().zones(), 60, velocity)).as("zones at velocity %d", velocity).hasSize(1);
        assertThat(fitted.steps()).singleElement().satisfies(s -> {
            assertThat(s.kind()).isEqualTo(FitStep.Kind.LAYERS);
            assertThat(s.before()).isEqualTo(8);
            assertThat(s.harmDb()).isCloseTo(fitted.harm().meanDb(), within(1e-9));
        });
    }

    private static List<Zone> covering(List<Zone> zones, int key, int velocity) { return zones.stream().filter(z -> z.covers(key, velocity)).toList(); }

    /// What was heard for one amount of memory serves for others, and leaves nothing of the first behind.
    @Test void anotherAmountOfMemoryIsFittedAsIfItWereTheFirst() throws Exception {
        MadeInstrument made = MadeInstrument.ofLayers(folder, 8);
        Recent recent = new Recent();
        for (long bytes : new long[]{600_000, 330_000, 450_000}) {
            FitTask task = made.task(MadeInstrument.limits(0, 0, 4, bytes));
            Fit again = (Fit) task.measure(new SoundPath(), recent, () -> false, _ -> {}).orElseThrow();
            assertThat(again.bytes()).isLessThanOrEqualTo(bytes);
            assertThat(again).as("%d bytes", bytes).isEqualTo(MadeInstrument.fit(task));
        }
    }

    /// It may be given up at any time, and leaves nothing half for the next.
    @Test void whatIsNotWantedAnyMoreIsGivenUp() throws Exception {
        FitTask task = MadeInstrument.ofRoots(folder, 6, 4).task(MadeInstrument.limits(0, 4, 0, 150_000));
        Recent recent = new Recent();
        for (int asked : new int[]{0, 10, 40, 100}) {
            AtomicInteger asks = new AtomicInteger();
            assertThat(task.measure(new SoundPath(), recent, () -> asks.incrementAndGet() > asked, _ -> {})).as("after %d questions", asked).isEmpty();
            assertThat(asks.get()).as("it is asked on and on").isLessThan(asked + 300);
        }
        List<Double> parts = Collections.synchronizedList(new ArrayList<>());
        assertThat(task.measure(new SoundPath(), recent, () -> false, parts::add).orElseThrow()).isEqualTo(MadeInstrument.fit(task));
        assertThat(parts).as("how far it is").isSorted().endsWith(1.0);
    }

    /// Where the colour changes at once, a root stays on both sides.
    @Test void rootsThatStayAreThoseThatSoundLikeTheirNeighbours() throws Exception {
        Fit.Fitted fitted = one(MadeInstrument.ofRoots(folder, 8, 3).task(MadeInstrument.limits(0, 2, 0, 0)));
        assertThat(fitted.need().samples()).isEqualTo(2);
        List<Zone> zones = fitted.after().zones();
        assertThat(covering(zones, 48 + 3 * 4 - 1, 80).getFirst().sample()).as("below the change").isLessThan(4);
        assertThat(covering(zones, 48 + 3 * 4, 80).getFirst().sample()).as("above it").isGreaterThanOrEqualTo(4);
        assertThat(fitted.harm().meanDb()).isLessThanOrEqualTo(fitted.simpleDb().get("thinned evenly, levels matched") + 1e-9);
        for (int key = 48; key < 48 + 24; key++)
            assertThat(covering(zones, key, 80)).as("key %d", key).hasSize(1);
    }

    /// No other choice of samples is heard as much better, of all that there are: two sounds together, of which one is soft, and some of which share samples.
    @Test void noOtherSamplesSoundMoreLikeTheSource() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 5, 4);
        for (int i = 0; i < 3; i++)
            made.zone(new Span(48 + 7 * i, i == 2 ? 67 : 54 + 7 * i), new Span(1, 127), 50 + 7 * i, MadeInstrument.tone(50 + 7 * i, -3, 2500, 2.5, 0.004));
        made.beside(0, 2);
        FitTask task = made.task(MadeInstrument.limits(0, 4, 0, 0));
        Fit.Fitted fitted = one(task);
        Notes notes = new Notes(s -> MadeInstrument.loaded(task, s), FitTask.Format.ANY);
        Foretold foretold = new Foretold(notes, false);
        NoteSet measured = new NoteSet(made.instrument(), notes, 72);
        List<Row> rows = Row.of(Stack.layers(made.instrument()), false);
        List<HeardNote[]> beside = Row.beside(rows, foretold);
        List<Row.Runs> runs = IntStream.range(0, rows.size())
                .mapToObj(r -> rows.get(r).runs(foretold, 0, FitRules.NONE, FitTask.Format.ANY, CountFitter.wholes(rows.get(r)), beside.get(r))).toList();
        double best = Double.MAX_VALUE;
        for (int mask = 0; mask < 1 << 8; mask++) {
            int some = mask;
            if (Integer.bitCount(mask) != 4) continue;
            List<List<Stack>> built = runs.stream().map(r -> r.build(r.runs().of(IntStream.range(0, r.row().stacks().size())
                    .filter(i -> r.row().stacks().get(i).samples().stream().allMatch(s -> (some >> s & 1) == 1)).toArray()), Row.APART_DB[0])).toList();
            if (built.stream().noneMatch(List::isEmpty)) best = Math.min(best, measured.harm(CountFitter.of(made.instrument(), built), notes).meanDb());
        }
        assertThat(fitted.harm().meanDb()).isBetween(best - 0.01, 1.05 * best);
        fitted.simpleDb().forEach((plan, harm) -> assertThat(fitted.harm().meanDb()).as(plan).isLessThanOrEqualTo(harm));
        assertThat(FitTask.samples(fitted.after()).stream().filter(s -> s < 5).count()).as("of the loud ones").isEqualTo(3);
    }

    /// One key of twelve plays its neighbour's sample as well: that takes no room, and no more of them go for it.
    @Test void samplesThatSeveralPlayAreCountedOnce() throws Exception {
        Fit.Fitted fitted = one(MadeInstrument.ofRoots(folder, 12, 3).beside(4, 5).task(MadeInstrument.limits(0, 7, 0, 0)));
        assertThat(fitted.fits()).isTrue();
        assertThat(fitted.need().samples()).isBetween(6, 7);
    }

    @Test void zonesMergeWhereTheyAreCounted() throws Exception {
        Fit.Fitted fitted = one(MadeInstrument.ofRoots(folder, 8, 3).task(MadeInstrument.limits(3, 0, 0, 0)));
        assertThat(fitted.need().zones()).isLessThanOrEqualTo(3);
        assertThat(fitted.fits()).isTrue();
    }

    @ParameterizedTest @ValueSource(ints = {3, 8}) void memoryGoesWhereItIsHeard(int part) throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 6, 4);
        long bytes = made.task(DeviceLimits.NONE).bytesOfAll() / part;
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, bytes)));
        Fit.Fitted fitted = fit.instruments().getFirst();
        assertThat(fit.bytes()).isLessThanOrEqualTo(bytes).isGreaterThan(bytes / 4);
        assertThat(fitted.fits()).isTrue();
        fitted.simpleDb().forEach((plan, harm) -> assertThat(fitted.harm().meanDb()).as(plan).isLessThanOrEqualTo(harm + 1e-9));
        Harm harm = fitted.harm();
        assertThat(harm.notes()).as("each note by itself").hasSizeGreaterThan(10).doesNotHaveDuplicates()
                .allMatch(n -> n.db() <= harm.worstDb()).contains(new Harm.Note(harm.worstKey(), harm.worstVelocity(), harm.worstDb()));
        assertThat(harm.notes().stream().mapToDouble(Harm.Note::db).average().orElseThrow()).as("of one layer").isCloseTo(harm.meanDb(), within(1e-6));
        assertThat(fitted.steps().stream().mapToLong(FitStep::savedBytes).sum()).as("saved by all steps").isEqualTo(fit.bytesBefore() - fit.bytes());
        assertThat(fit.curve()).extracting(Fit.Point::bytes).isSorted();
    }

    /// Three instruments of other sizes: the curve tells what each amount costs, whether all share it, those of a bank of two, or each has so much.
    @ParameterizedTest @ValueSource(ints = {3, 2, 1}) void theCurveSpeaksOfTheMemoryThatIsShort(int sharing) throws Exception {
        FitTask all = MadeInstrument.ofRoots(folder, 6, 4).task(DeviceLimits.NONE);
        List<Zone> zones = all.instruments().getFirst().zones();
        List<Instrument> instruments = Stream.of(zones.subList(0, 3), zones.subList(3, 5), zones.subList(5, 6))
                .map(part -> new Instrument(About.named("part of " + part.size()), Optional.empty(), List.of(new ZoneGroup("", part)))).toList();
        long whole = all.bytes(instruments.subList(0, sharing), Map.of());
        DeviceLimits limits = sharing == 1 ? DeviceLimits.NONE.withInstrumentBytes(whole) : DeviceLimits.NONE.withTotalBytes(whole);
        FitTask half = task(all, instruments, limits.withMemory(whole / 2), sharing);
        assertThat(half.fullest()).isEqualTo(whole);
        Fit.Point middle = MadeInstrument.fit(half).curve().stream().filter(p -> p.bytes() > whole / 4).findFirst().orElseThrow();
        assertThat(MadeInstrument.fit(half).curve().getLast().bytes()).as("the most that is asked for").isBetween(whole * 9 / 10, whole);
        FitTask task = task(all, instruments, limits.withMemory(middle.bytes()), sharing);
        Fit given = MadeInstrument.fit(task);
        assertThat(given.fullest(task)).isBetween(middle.bytes() * 2 / 3, middle.bytes());
        long[] each = given.kept().stream().mapToLong(f -> f.need().bytes()).toArray();
        assertThat(given.fullest(task)).isEqualTo(Math.max(Arrays.stream(each, 0, sharing).sum(), Arrays.stream(each, sharing, each.length).max().orElse(0)));
        assertThat(given.instruments().stream().mapToDouble(f -> f.harm().meanDb()).average().orElseThrow()).as("measured, of what was foretold")
                .isCloseTo(middle.harmDb(), within(0.5 + middle.harmDb() / 3));
    }

    private static FitTask task(FitTask all, List<Instrument> instruments, DeviceLimits limits, int inFile) {
        FitTask.Format format = new FitTask.Format(all.format().carried(), all.format().mostGainDb(), 0, false, false, inFile);
        return new FitTask(instruments, all.sounds(), limits, all.ratesHz(), all.takesMono(), format, all.rules());
    }

    /// The ends of sounds that ring are heard: they are not left out while there is room for more of them.
    @Test void endsThatAreHeardStayAsLongAsThereIsRoom() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 4, 4);
        long bytes = made.task(DeviceLimits.NONE).bytesOfAll() * 2 / 3;
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, bytes), FitStep.Kind.RATE, FitStep.Kind.ROOTS));
        assertThat(fit.bytes()).isBetween(bytes * 3 / 4, bytes);
        assertThat(fit.instruments().getFirst().steps()).extracting(FitStep::kind).containsExactly(FitStep.Kind.TAILS);
        assertThat(fit.curve().getLast().bytes()).as("nothing left out costs nothing").isGreaterThan(bytes);
    }

    /// A sound that rings for six seconds is worth its end, though a note that is pressed shortly ends before.
    @Test void theEndOfALongSoundIsNotLeftOutForNothing() throws Exception {
        double[] tone = MadeInstrument.tone(60, -6, 1000, 6, 0.05);
        for (int n = 0; n < tone.length; n++)
            tone[n] *= Math.exp(1.2 * n / MadeInstrument.RATE);
        double[] cut = Arrays.copyOf(tone, (int) (2.2 * MadeInstrument.RATE));
        MadeInstrument made = new MadeInstrument(folder);
        for (double[] sound : List.of(tone, cut))
            made.zone(new Span(60, 60), new Span(1, 127), 60, sound);
        FitTask task = made.task(DeviceLimits.NONE);
        Notes notes = new Notes(s -> MadeInstrument.loaded(task, s), FitTask.Format.ANY);
        List<HeardNote> heard = made.instrument().zones().stream().map(z -> notes.heard(List.of(z), 60, 100)).toList();
        assertThat(heard.getFirst().harm(heard.getLast())).isGreaterThan(3);
        assertThat(heard.getFirst().harm(heard.getFirst())).isZero();
    }

    /// Sixteen bits instead of twenty-four are heard least of all, and no more sounds get them than have to. Those that are too soft for sixteen keep theirs.
    @Test void fewerBitsComeBeforeAllElse() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 5, 4).in(Depth.INT_24, Depth.INT_16);
        made.zone(new Span(68, 71), new Span(1, 127), 68, MadeInstrument.tone(68, -6, 1000, 2.5, 0.0003)).in(Depth.INT_24, Depth.INT_16);
        long bytes = made.task(DeviceLimits.NONE).bytesOfAll() * 3 / 4;
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, bytes), FitStep.Kind.RATE));
        assertThat(fit.bytes()).isBetween(bytes * 9 / 10, bytes);
        assertThat(fit.instruments().getFirst().steps()).singleElement().satisfies(s -> {
            assertThat(s.kind()).isEqualTo(FitStep.Kind.DEPTH);
            assertThat(s.after()).isEqualTo(5);
            assertThat(s.harmDb()).isLessThan(0.05);
        });
        assertThat(fit.sizes().get(5).depth()).as("of the soft one").isEmpty();
        Fit other = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, bytes), FitStep.Kind.RATE, FitStep.Kind.DEPTH));
        assertThat(other.instruments().getFirst().steps()).extracting(FitStep::kind).isNotEmpty().doesNotContain(FitStep.Kind.DEPTH);
        assertThat(other.instruments().getFirst().harm().meanDb()).isGreaterThan(fit.instruments().getFirst().harm().meanDb());
    }

    /// What lies behind a loop is never heard: it goes first, and costs nothing.
    @Test void deadSoundGoesForNothing() throws Exception {
        double[] tone = MadeInstrument.tone(60, -6, 1000, 2, 0.1);
        MadeInstrument made = new MadeInstrument(folder).zone(new Span(48, 72), new Span(1, 127), 60, tone).looped(20_000, 40_000);
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, 100_000)));
        assertThat(fit.sizes().values()).singleElement().satisfies(s -> {
            assertThat(s.frames()).as("up to the end of the loop").isEqualTo(40_000);
            assertThat(s.rateHz()).isEqualTo(MadeInstrument.RATE);
        });
        assertThat(fit.instruments().getFirst().harm().meanDb()).isLessThan(0.01);
    }

    @Test void forbiddenStepsAreNotTaken() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 6, 4);
        long bytes = made.task(DeviceLimits.NONE).bytesOfAll() / 2;
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, bytes), FitStep.Kind.ROOTS, FitStep.Kind.TAILS));
        assertThat(fit.instruments().getFirst().steps()).extracting(FitStep::kind).containsOnly(FitStep.Kind.RATE);
        assertThat(fit.instruments().getFirst().need().samples()).isEqualTo(6);
        Fit.Fitted none = one(made.task(MadeInstrument.limits(0, 3, 0, 0), FitStep.Kind.ROOTS));
        assertThat(none.lacking()).isEqualTo("6 samples of 3");
    }

    /// The root that goes first by itself stays where it has to, and so do the softest and the loudest layer.
    @Test void whatHasToStayStays() throws Exception {
        MadeInstrument roots = MadeInstrument.ofRoots(folder.resolve("roots"), 8, 3);
        Set<Integer> free = Set.copyOf(FitTask.samples(one(roots.task(MadeInstrument.limits(0, 3, 0, 0))).after()));
        int gone = IntStream.range(0, 8).filter(i -> !free.contains(i)).findFirst().orElseThrow(), root = 48 + 3 * gone;
        Fit.Fitted kept = one(roots.task(MadeInstrument.limits(0, 3, 0, 0), new FitRules(Set.of(), Set.of(root), Set.of())));
        assertThat(FitTask.samples(kept.after())).hasSize(3).contains(gone);
        assertThat(kept.after().zones().stream().filter(z -> z.get(Parameter.KEYS).contains(root))).allSatisfy(z -> assertThat(z.sample()).isEqualTo(gone));
        MadeInstrument layers = MadeInstrument.ofLayers(folder.resolve("layers"), 8);
        Fit.Fitted ends = one(layers.task(MadeInstrument.limits(0, 0, 3, 0), new FitRules(Set.of(), Set.of(), Set.of(1, 127))));
        assertThat(FitTask.samples(ends.after())).hasSize(3).contains(0, 7);
        assertThat(ends.fits()).isTrue();
        assertThat(new FitRules(Set.of(), Set.of(48), Set.of()).hold(roots.instrument(),
                roots.instrument().mapZones(z -> z.sample() == 0 ? List.of() : List.of(z))))
                .as("silence is no root").isFalse();
        Fit.Fitted tooMany = one(roots.task(MadeInstrument.limits(0, 3, 0, 0), new FitRules(Set.of(), Set.of(48, 51, 54, 57), Set.of())));
        assertThat(tooMany.fits()).as(tooMany.lacking()).isFalse();
        MadeInstrument memory = MadeInstrument.ofRoots(folder.resolve("memory"), 6, 4);
        long bytes = memory.task(DeviceLimits.NONE).bytesOfAll() / 8;
        assertThat(FitTask.samples(one(memory.task(MadeInstrument.limits(0, 0, 0, bytes), new FitRules(Set.of(), Set.of(68), Set.of()))).after())).contains(5);
    }

    /// Simple plans keep to what is forbidden as well, and nothing that memory asks for breaks what is counted.
    @Test void noRateIsLoweredAndNoZoneIsAddedUnasked() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 6, 4);
        long bytes = made.task(DeviceLimits.NONE).bytesOfAll() / 2;
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(4, 0, 0, bytes), FitStep.Kind.RATE));
        assertThat(fit.instruments().getFirst().fits()).isTrue();
        assertThat(fit.instruments().getFirst().need().zones()).isLessThanOrEqualTo(4);
        assertThat(fit.instruments().getFirst().steps()).extracting(FitStep::kind).doesNotContain(FitStep.Kind.RATE);
        assertThat(fit.sizes().values()).allSatisfy(s -> assertThat(s.rateHz()).isEqualTo(MadeInstrument.RATE));
        FitTask far = made.task(new DeviceLimits(0, 0, 0, 2, List.of(), DeviceLimits.Playing.ANY, 0, 0, 0), FitStep.Kind.KEYS);
        assertThat(one(far).lacking()).isEqualTo("sounds that would be moved too far");
        assertThat(one(made.task(new DeviceLimits(0, 0, 0, 2, List.of(), DeviceLimits.Playing.ANY, 0, 0, 0))).after().zones())
                .allSatisfy(z -> assertThat(z.get(Parameter.KEYS).high() - z.get(Parameter.ROOT_KEY)).isLessThanOrEqualTo(2));
    }

    /// Both sides of a pair stay, or go.
    @Test void pairsStayPairs() throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        for (int i = 0; i < 4; i++)
            for (int side = 0; side < 2; side++)
                made.zone(new Span(48 + 4 * i, 51 + 4 * i), new Span(1, 127), 48 + 4 * i, MadeInstrument.tone(48 + 4 * i, -6 - side, 1000, 2, 0.1));
        Fit.Fitted fitted = one(made.task(MadeInstrument.limits(0, 5, 0, 0)));
        assertThat(fitted.need().samples()).isEqualTo(4);
        for (int key = 48; key < 64; key++) {
            List<Zone> sounding = covering(fitted.after().zones(), key, 80);
            assertThat(sounding).as("key %d", key).hasSize(2);
            assertThat(sounding.get(0).sample() / 2).as("of one pair").isEqualTo(sounding.get(1).sample() / 2);
        }
    }

    /// No neighbour stands in for the sound of a pad.
    @Test void kitsAreNotThinned() throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        for (int i = 0; i < 5; i++)
            made.zone(new Span(36 + i, 36 + i), new Span(1, 127), 36 + i, MadeInstrument.tone(40 + 7 * i, -6, 1000, 1, 0.1));
        FitTask task = made.task(MadeInstrument.limits(0, 3, 0, 0));
        FitTask kit = new FitTask(task.instruments().stream().map(i -> i.mapZones(z -> List.of(z.with(Parameter.ONE_SHOT, true)))).toList(), task.sounds(),
                task.limits(),
                List.of(), true, task.format(), task.rules());
        Fit.Fitted fitted = one(kit);
        assertThat(fitted.after().zones()).allSatisfy(z -> assertThat(z.get(Parameter.KEYS).size()).isEqualTo(1));
        assertThat(fitted.lacking()).isEqualTo("5 samples of 3");
        assertThat(fitted.isKit()).isTrue();
    }

    /// One side is shared out to both at equal power: its zone is 3 dB louder where the sides are the same, and nothing is lost.
    @Test void sidesThatAreTheSameBecomeOneAndStayAsLoud() throws Exception {
        double[] tone = MadeInstrument.tone(60, -6, 1000, 1, 0.1);
        MadeInstrument made = new MadeInstrument(folder).zone(new Span(48, 72), new Span(1, 127), 60, tone, tone);
        FitTask task = made.task(MadeInstrument.limits(0, 0, 0, made.task(DeviceLimits.NONE).bytesOfAll() / 2), FitStep.Kind.RATE, FitStep.Kind.TAILS);
        Fit.Fitted fitted = one(task);
        assertThat(fitted.after().zones()).singleElement().satisfies(z -> assertThat(z.get(Parameter.GAIN)).isCloseTo(3.01, within(0.005)));
        assertThat(fitted.harm().meanDb()).isLessThan(0.05);
        assertThat(fitted.harm().worstLevelDb()).isLessThan(0.01);
        double room = -20 * Math.log10(task.sounds().getFirst().orElseThrow().load().peak());
        FitTask full = new FitTask(task.instruments(), task.sounds(), task.limits(), List.of(), true,
                new FitTask.Format(FitTask.Format.ANY.carried(), 1 - room, 0, false, false, 0),
                task.rules());
        assertThat(one(full).after().zones().getFirst().get(Parameter.GAIN)).as("as far as there is room").isCloseTo(1, within(0.005));
    }

    @Test void whatIsLostBySidesThatDiffer() {
        double[] left = Sounds.sine(440, 0.5, 44_100, 44_100), right = Sounds.sine(550, 0.5, 44_100, 44_100), turned = Sounds.sine(440, -0.5, 44_100, 44_100);
        assertThat(Fold.of(new LoadedSound(new double[][]{left, right}, 44_100)).softerDb()).isCloseTo(6.02, within(0.01));
        assertThat(Fold.of(new LoadedSound(new double[][]{left, turned}, 44_100)).softerDb()).as("nothing makes up for sides that cancel").isZero();
    }

    /// Of two neighbours the louder one stays where a format cannot make the softer one as loud, and no gain is asked for that it cannot say.
    @Test void whatStandsInIsAsLoudAsTheFormatAllows() throws Exception {
        MadeInstrument made = new MadeInstrument(folder).zone(new Span(57, 59), new Span(1, 127), 58, MadeInstrument.tone(58, -6, 1000, 2, 0.2))
                .zone(new Span(60, 65), new Span(1, 127), 61, MadeInstrument.tone(61, -6, 1000, 2, 0.05))
                .zone(new Span(66, 66), new Span(1, 127), 66, MadeInstrument.tone(66, -6, 1000, 2, 0.2));
        FitTask any = made.task(MadeInstrument.limits(0, 2, 0, 0)),
                softer = new FitTask(any.instruments(), any.sounds(), any.limits(), List.of(), true,
                        new FitTask.Format(FitTask.Format.ANY.carried(), 0, 0, false, false, 0), any.rules());
        for (Zone zone : one(softer).after().zones())
            assertThat(zone.get(Parameter.GAIN) + 20 * Math.log10(softer.sounds().get(zone.sample()).orElseThrow().load().peak()))
                    .as("no more than the headroom of its sound").isLessThan(0.01);

        FitTask full = made.task(MadeInstrument.limits(0, 1, 0, 0));
        FitTask one = new FitTask(full.instruments(), full.sounds(), full.limits(), List.of(), true,
                new FitTask.Format(FitTask.Format.ANY.carried(), -20, 0, false, false, 0), full.rules());
        assertThat(one(one).after().zones()).extracting(Zone::sample).as("the loud one, though the soft one has more keys").doesNotContain(1);
    }

    /// Banks count their zones: neighbours that differ little in level are one first, and all of a sound's where that is not enough.
    @Test void zonesOfABankAreJoinedWhereItHasNoRoomForThem() throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        for (int i = 0; i < 8; i++)
            made.zone(new Span(36 + 3 * i, 38 + 3 * i), new Span(1, 127), 37 + 3 * i, MadeInstrument.tone(37 + 3 * i, -8, 1000, 2.5, 0.02 + 0.02 * (i % 3)));
        FitTask task = made.task(MadeInstrument.limits(0, 0, 0, made.task(DeviceLimits.NONE).bytesOfAll() / 4), FitStep.Kind.RATE, FitStep.Kind.TAILS);
        Fit.Fitted free = one(task);
        assertThat(free.after().zones()).hasSizeGreaterThan(FitTask.samples(free.after()).size());
        FitTask tight = new FitTask(task.instruments(), task.sounds(), task.limits(), List.of(), true,
                new FitTask.Format(FitTask.Format.ANY.carried(), Parameter.MOST_GAIN, 3, false, false, 0),
                task.rules());
        Fit.Fitted joined = one(tight);
        assertThat(joined.after().zones()).hasSizeLessThanOrEqualTo(3);
        assertThat(joined.after().zones().stream().mapToInt(z -> z.get(Parameter.KEYS).size()).sum()).as("keys that sound").isEqualTo(24);
    }
}
