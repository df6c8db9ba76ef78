package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.Sample;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.planner.ListeningPlanner;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Stereo sounds of an instrument that become mono stay as loud beside those that always were.
class MonoInstrumentsTest {
    private static final int RATE = 44_100, MONO = 40, SAME = 50, WIDE = 60;

    @TempDir Path folder;

    private Path instrument(boolean hasMono) throws Exception {
        Path in = Files.createDirectories(folder.resolve("in"));
        Random random = new Random(4);
        double[] one = Sounds.signal(RATE, _ -> 0.1 * random.nextGaussian()), other = Sounds.signal(RATE, _ -> 0.1 * random.nextGaussian());
        Sounds.wav(in.resolve("mono.wav"), RATE, Depth.INT_24, one);
        Sounds.wav(in.resolve("same.wav"), RATE, Depth.INT_24, one, one);
        Sounds.wav(in.resolve("wide.wav"), RATE, Depth.INT_24, one, other);
        String stereo = "<region> sample=same.wav key=" + SAME + " pitch_keycenter=" + SAME + "\n<region> sample=wide.wav key=" + WIDE + " pitch_keycenter="
                + WIDE;
        return Files.writeString(in.resolve("bow.sfz"), (hasMono ? "<region> sample=mono.wav key=" + MONO + " pitch_keycenter=" + MONO + "\n" : "") + stereo);
    }

    private PackingSlip.Item pack(Path map, String container) throws Exception {
        PackOptions options = PackOptions.DEFAULT.withContainer(Choice.of(container)).withChannels(Optional.of(ChannelChoice.MONO))
                .withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)));
        var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(map), () -> false)), new SheetCatalogue().find("files"), options,
                Map.of(),
                new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        return new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out")).items().getFirst();
    }

    /// Power on both sides of half a second, in dB.
    private static double levelDb(InstrumentFile file, int key) throws Exception {
        Map<Integer, LoadedSound> loaded = new HashMap<>();
        for (int i = 0; i < file.samples().size(); i++)
            if (file.samples().get(i) instanceof Sample.Found(_, var sound)) loaded.put(i, LoadedSound.of(sound.open()));
        Voices voices = new Voices(file.instruments().getFirst(), i -> Optional.ofNullable(loaded.get(i)), RATE, new Random(1));
        voices.noteOn(key, 100);
        double[][] out = new double[2][RATE / 2];
        voices.render(out, out[0].length);
        double power = 0;
        for (double[] side : out)
            for (double x : side)
                power += x * x;
        return 10 * Math.log10(power);
    }

    @ParameterizedTest @ValueSource(strings = {"sf2", "dls", "sfz"}) void theirBalanceStays(String container) throws Exception {
        Path map = instrument(true);
        PackingSlip.Item item = pack(map, container);
        assertThat(item.changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("2 zones up to 6.1 dB louder"));
        InstrumentFile before = InstrumentFormats.byId("sfz").orElseThrow().read(map),
                after = InstrumentFormats.byId(container).orElseThrow().read(folder.resolve("out").resolve("bow." + container));
        double lost = levelDb(before, MONO) - levelDb(after, MONO);
        assertThat(lost).as("all of it is softer, as zones cannot go above what the format has").isGreaterThan(-0.1);
        for (int key : new int[]{SAME, WIDE})
            assertThat(levelDb(before, key) - levelDb(after, key)).as("key %d", key).isCloseTo(lost, within(0.15));
    }

    /// Nothing makes up for sides that cancel, and nothing else is raised for it.
    @Test void aSoundWhoseSidesCancelIsLeftAlone() throws Exception {
        instrument(false);
        double[] one = Sounds.signal(RATE, n -> 0.3 * Math.sin(0.05 * n)), other = Sounds.signal(RATE, n -> -0.3 * Math.sin(0.05 * n));
        Sounds.wav(folder.resolve("in").resolve("wide.wav"), RATE, Depth.INT_24, one, other);
        PackingSlip.Item item = pack(folder.resolve("in").resolve("bow.sfz"), "sf2");
        assertThat(item.changes()).noneSatisfy(c -> assertThat(c.reason()).contains("dB louder"))
                .noneSatisfy(c -> assertThat(c.reason()).contains("dB softer"));
    }

    /// What all of them lose is not made up for: nobody hears it beside anything.
    @Test void allOfThemAreSofterAlike() throws Exception {
        PackingSlip.Item item = pack(instrument(false), "sf2");
        assertThat(item.changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("1 zone up to 3.0 dB louder"));
    }
}
