package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.PartChange;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionValues;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// A hit behind a bit of room, cut off while it still rings.
class EdgesTest {
    private static final int RATE = 44_100, ATTACK = 7_001, FRAMES = 20_000, PRE_ROLL = 44;

    @TempDir Path folder;

    private double[] hit() {
        Random random = new Random(3);
        double[] plane = Sounds.signal(FRAMES, n -> 0.0002 * random.nextGaussian());
        for (int n = ATTACK; n < FRAMES; n++)
            plane[n] += 0.6 * Math.exp(-(n - ATTACK) / 4000.0) * Math.sin(2 * Math.PI * 330 * (n - ATTACK) / RATE + 1);
        return plane;
    }

    private Path write(double[] plane, List<Loop> loops) throws Exception {
        Path file = folder.resolve("in/lid.wav");
        Files.createDirectories(file.getParent());
        return Sounds.write(file, "wav", RATE, Depth.FLOAT_32, SoundMetadata.NONE.withLoops(loops), plane);
    }

    private PackingSlip.Item pack(Map<String, Object> said) throws Exception {
        var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)), new SheetCatalogue().find("files"),
                OptionValues.options(said), Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        return new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out")).items().getFirst();
    }

    private SoundFile written() throws Exception { return ((FileKind.Sound) FileKind.of(folder.resolve("out/lid.wav"))).read(folder.resolve("out/lid.wav")); }

    private double[] audio() throws Exception { return Sounds.readAll(written().open())[0]; }

    /// The pre-roll fades in; from the attack on every sample is the file's.
    @ParameterizedTest @CsvSource({"1, 44", "0, 0", "5, 221"}) void itStartsOnItsAttack(double preRollMs, int frames) throws Exception {
        double[] hit = hit();
        write(hit, List.of());
        PackingSlip.Item item = pack(Map.of("on-attack", "true", "pre-roll", preRollMs));
        assertThat(item.changes()).anySatisfy(c -> assertThat(c.reason()).contains("starts on its attack"));
        double[] audio = audio();
        int start = FRAMES - audio.length;
        assertThat(start + frames).as("the attack, within 0.2 ms").isCloseTo(ATTACK, within(9));
        for (int n = frames; n < audio.length; n++)
            assertThat(audio[n]).isEqualTo((float) hit[start + n]);
        if (frames > 0) assertThat(Math.abs(audio[0])).isLessThan(1e-5);
    }

    @Test void aLoopIsSparedAndAFileThatStartsOnItsAttackIsCopied() throws Exception {
        Loop loop = Loop.sustain(new FrameRange(ATTACK - 500, ATTACK + 3_000), LoopMode.FORWARD);
        write(hit(), List.of(loop));
        pack(Map.of("on-attack", "true"));
        assertThat(written().metadata().loops()).singleElement().satisfies(l -> assertThat(l.frames().start()).isZero());
        assertThat(FRAMES - written().frames()).isEqualTo(ATTACK - 500);
        double[] tight = new double[5_000];
        System.arraycopy(hit(), ATTACK, tight, 0, tight.length);
        Path file = write(tight, List.of());
        pack(Map.of("on-attack", "true", "existing", "replace"));
        assertThat(folder.resolve("out/lid.wav")).hasSameBinaryContentAs(file);
    }

    @Test void whereNothingBeginsItStaysAndThatIsTold() throws Exception {
        write(new double[FRAMES], List.of());
        assertThat(pack(Map.of("on-attack", "true")).changes())
                .anySatisfy(c -> assertThat(c.is(PartChange.AttackNotFound.class)).isTrue());
        assertThat(audio()).hasSize(FRAMES);
    }

    /// An end that steps to silence fades over 3 ms, a start that steps out of it over 1 ms; nothing else is touched.
    @Test void endsThatStepAreFadedAndOthersAreNot() throws Exception {
        double[] hit = hit();
        hit[0] = 0.3;
        write(hit, List.of());
        Map<String, Object> said = new HashMap<>(Map.of("clickless", "true"));
        assertThat(pack(said).changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("1 ms in").contains("3 ms out"));
        double[] audio = audio();
        assertThat(Math.abs(audio[0])).isLessThan(1e-6);
        assertThat(Math.abs(audio[FRAMES - 1])).isLessThan(1e-4);
        for (int n = PRE_ROLL; n < FRAMES - 133; n++)
            assertThat(audio[n]).isEqualTo((float) hit[n]);
        double[] calm = Sounds.signal(FRAMES, n -> hit[n] * Math.sin(Math.PI * n / (FRAMES - 1)));
        Path file = write(calm, List.of());
        said.put("existing", "replace");
        assertThat(pack(said).verdict()).isEqualTo("kept");
        assertThat(folder.resolve("out/lid.wav")).hasSameBinaryContentAs(file);
    }

    /// A loop that reaches the end is heard without a step there.
    @Test void aLoopAtTheEndIsNotFaded() throws Exception {
        double[] hit = hit();
        write(hit, List.of(Loop.sustain(new FrameRange(FRAMES - 4_000, FRAMES), LoopMode.FORWARD)));
        pack(Map.of("clickless", "true"));
        assertThat(audio()[FRAMES - 1]).isEqualTo((float) hit[FRAMES - 1]);
    }

    @ParameterizedTest @CsvSource({"pre-roll, -1", "pre-roll, 5000"}) void aPreRollHasBounds(String option, String value) {
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> OptionValues.options(Map.of(option, value)))
                .hasMessageContaining("what stays before an attack lasts from 0 to 1000 ms");
    }
}
