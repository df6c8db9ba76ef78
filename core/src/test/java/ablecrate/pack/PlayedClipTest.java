package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionValues;
import ablecrate.plan.PackingItem;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Four hits, the third 40 ms late, heard as their slices play them.
class PlayedClipTest {
    private static final int RATE = 48_000, BEAT = RATE / 2, LATE = 1_920, FADE_IN = 48, FADE_OUT = 144;
    private static final int[] HITS = {0, BEAT, 2 * BEAT + LATE, 3 * BEAT};

    @TempDir Path folder;

    private final double[] clip = new double[4 * BEAT];

    @BeforeEach void hits() {
        for (int hit : HITS)
            for (int n = 0; n < 12_000; n++)
                clip[hit + n] = 0.5 * Math.exp(-n / 2000.0) * Math.cos(n * 0.07);
    }

    private List<PlayedClip> played(Map<String, Object> said) throws Exception { return played(said, Optional.empty()); }

    private List<PlayedClip> played(Map<String, Object> said, Optional<FrameRange> part) throws Exception {
        Path file = Sounds.write(folder.resolve("windmill 120bpm.wav"), "wav", RATE, Depth.INT_24, SoundMetadata.NONE, clip);
        PackingItem line = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find("files"),
                OptionValues.options(said), Map.of(file, ItemEdit.NONE.withPart(part)), new Measurements(new SoundPath()), () -> false, (_, _) -> {}).items()
                .getFirst();
        return PlayedClip.of(line, new SoundPath());
    }

    private static double[] read(FrameSource source) throws Exception {
        try (source) {
            double[][] planes = new double[source.channels()][5 * BEAT];
            // In blocks of another length than any of the pieces.
            int got = 0;
            for (int now; (now = source.read(planes, got, Math.min(1_000, planes[0].length - got))) > 0;)
                got += now;
            return Arrays.copyOf(planes[0], got);
        }
    }

    @Test void laidWhereTheyWereCutSlicesAreTheClip() throws Exception {
        List<PlayedClip> ways = played(Map.of("chop", "onsets"));
        assertThat(ways).extracting(PlayedClip::side).containsExactly("Result");
        double[] heard = read(ways.getFirst().from(0)), later = read(ways.getFirst().from(0.3));
        for (int i = 0; i < HITS.length; i++)
            for (int n = HITS[i]; n < (i + 1 < HITS.length ? HITS[i + 1] - FADE_IN - FADE_OUT : clip.length); n++)
                assertThat(heard[n]).as("frame %d", n).isCloseTo(clip[n], within(1e-6));
        assertThat(later).as("from another place on").containsExactly(Arrays.copyOfRange(heard, 14_400, heard.length), within(1e-9));
    }

    /// A clip on a key of its own is not heard over its slices, also where only a part of it is used.
    @Test void theWholeClipIsNoneOfItsSlices() throws Exception {
        for (Map<String, Object> said : List.<Map<String, Object>>of(Map.of("chop", "onsets", "container", "sfz"),
                Map.of("chop", "onsets", "container", "sfz", "whole-key", true)))
            assertThat(played(said, Optional.of(new FrameRange(1_000, 80_000))).getFirst().sounds()).as("%s", said).hasSize(3);
    }

    /// In its own rhythm the third hit is late; on the grid it is not.
    @Test void midiFilesArePlayedAsTheyWillBeWritten() throws Exception {
        List<PlayedClip> ways = played(Map.of("chop", "onsets", "rhythm", "both", "quantise", "1/4"));
        assertThat(ways).extracting(PlayedClip::side).containsExactly("By MIDI", "On the grid");
        for (int way = 0; way < 2; way++) {
            double[] heard = read(ways.get(way).from(0));
            int third = 2 * BEAT + (way == 0 ? LATE : 0), within = (int) (RATE * 1e-4);
            assertThat(Sounds.rms(heard, third - 400, third - FADE_IN - within)).as("before it").isLessThan(0.005);
            assertThat(Sounds.rms(heard, third + within, third + 400)).as("from it on").isGreaterThan(0.1);
        }
    }

    @Test void whatIsNotInPiecesIsHeardOtherwise() throws Exception { assertThat(played(Map.of())).isEmpty(); }
}
