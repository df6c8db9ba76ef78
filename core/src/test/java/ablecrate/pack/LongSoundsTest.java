package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.SheetCatalogue;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionValues;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// All workers make one long sound, and nobody can tell.
class LongSoundsTest {
    private static final int RATE = 32_000, SECONDS = 26;

    @TempDir Path folder;

    private Path pack(Path from, int workers, String container, String rate) throws Exception {
        Path into = folder.resolve(from.getFileName() + " to " + container + rate + " by " + workers);
        PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(from), () -> false)), new SheetCatalogue().find("files"),
                OptionValues.options(Map.of("container", container, "rate", rate)), Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        PackingSlip slip = new Packer(list, new SoundPath(), workers, new StopSignal(), _ -> {}, InstantSource.system()).packInto(into);
        assertThat(slip.items()).singleElement().satisfies(i -> {
            assertThat(i.outcome()).isEqualTo("packed");
            assertThat(i.misses()).isEmpty();
        });
        return into.resolve(slip.items().getFirst().outputs().getFirst().path());
    }

    @ParameterizedTest @CsvSource({"1, INT_16, 44100", "2, INT_24, 22050", "2, FLOAT_32, 16000"}) void theBytesAreThoseOfOneWorker(int channels, Depth depth,
            String rate) throws Exception {
        Random random = new Random(7);
        double[][] planes = new double[channels][];
        for (int channel = 0; channel < channels; channel++)
            planes[channel] = Sounds.signal(RATE * SECONDS, n -> 0.3 * Math.sin(n * n * 1e-7) + 0.1 * random.nextGaussian());
        Path wav = Sounds.wav(folder.resolve("long.wav"), RATE, depth, planes);
        for (String container : List.of("wav", "flac")) {
            Path alone = pack(wav, 1, container, rate), shared = pack(wav, 3, container, rate);
            assertThat(shared).as(container).hasSameBinaryContentAs(alone);
        }
        Path flac = pack(wav, 3, "flac", Integer.toString(RATE));
        assertThat(pack(flac, 3, "wav", rate)).as("from FLAC").hasSameBinaryContentAs(pack(flac, 1, "wav", rate));
    }
}
