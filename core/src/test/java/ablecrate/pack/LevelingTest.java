package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.Fade;
import ablecrate.option.ItemEdit;
import ablecrate.option.LevelTarget;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.change.Property;
import ablecrate.planner.ListeningPlanner;
import ablecrate.option.Treatment;
import ablecrate.change.Verdict;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LevelingTest {
    @TempDir Path folder;

    private final SoundPath path = new SoundPath();

    private PackingList plan(Path sounds, PackOptions options, Map<Path, ItemEdit> edits) throws Exception {
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(sounds), () -> false)), new SheetCatalogue().find("files"), options, edits,
                new Measurements(path), () -> false, (_, _) -> {});
    }

    private PackingSlip pack(PackingList list) throws Exception {
        return new Packer(list, path, 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    private Path sound(String name, int rateHz, int frames, SoundMetadata metadata, IntToDoubleFunction formula) throws Exception {
        Path file = folder.resolve("in").resolve(name);
        Files.createDirectories(file.getParent());
        return Sounds.write(file, "wav", rateHz, Depth.INT_24, metadata, Sounds.signal(frames, formula));
    }

    private static Levels measure(Path file) throws Exception {
        var sound = SoundFormats.byId("wav").orElseThrow().read(file);
        double[][] audio = Sounds.readAll(sound.open());
        LevelMeter meter = new LevelMeter(sound.rateHz(), audio.length);
        meter.add(audio, 0, audio[0].length);
        return meter.finish();
    }

    private static PackOptions options(Treatment treatment) { return PackOptions.DEFAULT.withTreatment(treatment); }

    private static Treatment level(LevelMeasure measure, double value) { return Treatment.NONE.withLevel(Optional.of(new LevelTarget(measure, value))); }

    /// Forty clips with peaks from −20 to 0 dBFS: each at the target within 0.1 LU, or named as held by the ceiling; none over the ceiling.
    @Test void fortyClipsComeOutAtOneLoudness() throws Exception {
        Random random = new Random(40);
        int[] rates = {22050, 44100, 48000, 96000};
        for (int clip = 0; clip < 40; clip++) {
            double peak = Math.pow(10, -clip / 40.0), hz = 80 + random.nextInt(3000), decay = 1 + 20 * random.nextDouble(), noise = random.nextDouble() * 0.3;
            int rateHz = rates[clip % 4], frames = rateHz / 10 + random.nextInt(2 * rateHz);
            sound("clip" + clip + ".wav", rateHz, frames, SoundMetadata.NONE, n -> peak * 0.95 * Math.exp(-decay * n / rateHz)
                    * ((1 - noise) * Math.sin(2 * Math.PI * hz * n / rateHz) + noise * (2 * random.nextDouble() - 1)));
        }
        PackingList list = plan(folder.resolve("in"), options(level(LevelMeasure.LUFS_M, -10.1).withCeiling(Optional.of(-0.5))).withRate(Choice.of(48000)),
                Map.of());
        PackingSlip slip = pack(list);
        assertThat(slip.isAllPacked()).isTrue();
        int held = 0;
        for (int i = 0; i < 40; i++) {
            PackingItem item = list.items().get(i);
            Levels after = measure(folder.resolve("out").resolve(item.outputs().getFirst().path()));
            assertThat(after.truePeakDbtp().orElseThrow()).isLessThanOrEqualTo(-0.45);
            boolean isNamed = item.change(Property.LEVEL).orElseThrow().reason().contains("limiter holds -0.5 dBTP");
            if (isNamed)
                held++;
            else
                assertThat(after.loudnessMomentaryMaxLufs().orElseThrow()).as(item.source().fileName()).isCloseTo(-10.1, within(0.1));
            var table = slip.items().get(i).outputs().getFirst().levels().orElseThrow();
            assertThat(table.after().loudnessMomentaryMaxLufs().orElseThrow()).isCloseTo(after.loudnessMomentaryMaxLufs().orElseThrow(), within(0.01));
            assertThat(table.before().samplePeakDbfs().orElseThrow()).isBetween(-21.5, 0.5);
        }
        assertThat(held).isBetween(1, 39);
    }

    @Test void layersLeveledTogetherKeepTheirSteps() throws Exception {
        double[] steps = {0, -3.21, -7.5, -14.03};
        for (int layer = 0; layer < steps.length; layer++) {
            double gain = 0.3 * Math.pow(10, steps[layer] / 20);
            sound("harp/v" + layer + ".wav", 44100, 44100, SoundMetadata.NONE, n -> gain * Math.sin(0.05 * n) * Math.exp(-n / 20_000.0));
        }
        PackingList list = plan(folder.resolve("in"), options(level(LevelMeasure.LUFS_M, -3).withTogether(true).withCeiling(Optional.of(-1.0))), Map.of());
        pack(list);
        double[] after = new double[steps.length];
        for (int i = 0; i < steps.length; i++)
            after[i] = measure(folder.resolve("out").resolve(list.items().get(i).outputs().getFirst().path())).loudnessMomentaryMaxLufs().orElseThrow();
        for (int i = 0; i < steps.length; i++)
            assertThat(after[i] - after[0]).isCloseTo(steps[i], within(0.01));
        assertThat(measure(folder.resolve("out").resolve(list.items().getFirst().outputs().getFirst().path())).truePeakDbtp().orElseThrow()).isCloseTo(-1,
                within(0.05));
    }

    /// Silence goes, at a zero crossing; loop and cue stay on the sound they were on.
    @Test void trimmingTakesMetadataAlong() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(20_000, 21_000), LoopMode.FORWARD)))
                .withCues(List.of(new Cue(1, 12_000, 0, Optional.empty(), Optional.empty())));
        Path file = sound("a.wav", 44100, 60_000, metadata,
                n -> n < 10_000 || n >= 40_000 ? 0.00001 * Math.sin(n) : 0.5 * Math.sin(2 * Math.PI * (n - 10_000) / 100));
        PackingItem item = plan(file, options(Treatment.NONE.withTrim(Optional.of(-60.0))), Map.of()).items().getFirst();
        FrameRange part = item.outputs().getFirst().sourceChain().part();
        assertThat(part.start()).isBetween(9_500L, 10_000L);
        assertThat(part.end()).isBetween(40_000L, 40_700L);
        SoundMetadata after = item.outputs().getFirst().metadata();
        assertThat(after.loops().getFirst().frames()).isEqualTo(new FrameRange(20_000 - part.start(), 21_000 - part.start()));
        assertThat(after.cues().getFirst().frame()).isEqualTo(12_000 - part.start());
        PackingItem drawn = plan(file, options(Treatment.NONE), Map.of(file, ItemEdit.NONE.withPart(Optional.of(new FrameRange(20_500, 60_000))))).items()
                .getFirst();
        assertThat(drawn.outputs().getFirst().sourceChain().part().start()).as("never into the loop").isEqualTo(20_000);
    }

    @Test void aFadeThatEatsTheAttackIsTold() throws Exception {
        Path click = sound("click.wav", 48000, 24_000, SoundMetadata.NONE, n -> 0.8 * Math.exp(-n / 100.0) * Math.cos(0.3 * n));
        assertThat(plan(click, options(Treatment.NONE.withFadeIn(Fade.NONE_IN.withMs(8))), Map.of()).items().getFirst().changes()).extracting(c -> c.reason())
                .anyMatch(r -> r.startsWith("the fade-in eats the attack"));
        Path soft = sound("soft.wav", 48000, 24_000, SoundMetadata.NONE, n -> 0.8 * Math.sin(0.05 * n) * Math.min(1, n / 9000.0));
        assertThat(plan(soft, options(Treatment.NONE.withFadeIn(Fade.NONE_IN.withMs(3))), Map.of()).items().getFirst().changes()).extracting(c -> c.reason())
                .noneMatch(r -> r.contains("attack"));
    }

    @Test void sidesThatCancelAreTold() throws Exception {
        double[] left = Sounds.sine(300, 0.5, 44100, 44100), right = Sounds.signal(44100, n -> -left[n]);
        Path file = Sounds.write(folder.resolve("wide.wav"), "wav", 44100, Depth.INT_16, SoundMetadata.NONE, left, right);
        PackOptions mono = PackOptions.DEFAULT.withChannels(Optional.of(ablecrate.destination.ChannelChoice.MONO));
        assertThat(plan(file, mono, Map.of()).items().getFirst().changes())
                .anyMatch(c -> c.verdict() == Verdict.REDUCED && c.reason().startsWith("the sides cancel"));
        ItemEdit leftOnly = ItemEdit.NONE.withMonoLaw(Optional.of(ablecrate.option.MonoLaw.LEFT));
        assertThat(plan(file, mono, Map.of(file, leftOnly)).items().getFirst().changes()).noneMatch(c -> c.reason().startsWith("the sides cancel"));
    }

    @Test void anOffsetIsTakenOff() throws Exception {
        Path file = sound("offset.wav", 44100, 44_100, SoundMetadata.NONE, n -> 0.1 + 0.3 * Math.sin(2 * Math.PI * n / 441));
        PackingList list = plan(file, options(Treatment.NONE.withOffsetRemoved(true)), Map.of());
        pack(list);
        assertThat(measure(folder.resolve("out/offset.wav")).dcOffset()).isCloseTo(0, within(1e-6));
    }

    /// A loop with a step gets none when its end is blended into what leads to its start.
    @Test void aCrossfadeTakesTheStepOutOfTheSeam() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(10_000, 20_037), LoopMode.FORWARD)));
        Path file = sound("pad.wav", 44100, 30_000, metadata, n -> 0.4 * Math.sin(n * 0.04) + 0.2 * Math.sin(n * 0.0613 + 1));
        PackingItem item = plan(file, options(Treatment.NONE.withLoopCrossfade(50)), Map.of()).items().getFirst();
        String told = item.change(Property.LOOPS).orElseThrow().reason();
        assertThat(told).matches("crossfade of 50 ms; step at the seam -1\\.\\d dB → -7\\d\\.\\d dB");
    }
}
