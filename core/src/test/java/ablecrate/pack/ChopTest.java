package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.Verdict;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.Chop;
import ablecrate.option.Finds;
import ablecrate.option.OptionValues;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// A clip of eight hits, an eighth apart at 120 beats a minute, cut in every way.
class ChopTest {
    private static final int RATE = 44_100, EIGHTH = 11_025, FRAMES = 8 * EIGHTH, PRE_ROLL = 44, FADE_OUT = 132;

    @TempDir Path folder;

    private final double[][] clip = new double[2][FRAMES];
    {
        Random random = new Random(6);
        for (int hit = 0; hit < 8; hit++)
            for (int n = 0; n < 9000; n++)
                for (double[] plane : clip)
                    plane[hit * EIGHTH + n] = 0.5 * Math.exp(-n / 1000.0) * random.nextGaussian() / 4;
    }

    private Path clip(SoundMetadata metadata) throws Exception {
        Path file = folder.resolve("in").resolve("windmill.wav");
        Files.createDirectories(file.getParent());
        return Sounds.write(file, "wav", RATE, Depth.INT_24, metadata, clip);
    }

    private PackingSlip pack(Path file, Chop chop, Choice<String> container) throws Exception { return pack(file, Finds.NONE.withChop(chop), container); }

    private PackingSlip pack(Path file, Finds finds, Choice<String> container) throws Exception {
        return new Packer(plan(file, finds, container), new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    private static PackingList plan(Path file, Finds finds, Choice<String> container) throws Exception {
        PackOptions options = PackOptions.DEFAULT.withContainer(container).withTreatment(Treatment.NONE.withFinds(finds));
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file.getParent()), () -> false)), new SheetCatalogue().find("files"), options,
                Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
    }

    private List<SoundFile> written() throws Exception { return Sounds.files(folder.resolve("out")); }

    /// Laid one behind the other, slices are the clip; what differs lies in the fades of 1 and 3 ms.
    @ParameterizedTest @ValueSource(strings = {"onsets", "grid:1/8", "8", "gaps",
        "at:0,11025,22050,33075,44100,55125,66150,77175"}) void slicesLaidBackAreTheClip(String said) throws Exception {
        PackingSlip slip = pack(clip(SoundMetadata.NONE), chop(said), Choice.asDestination());
        assertThat(slip.items()).singleElement().satisfies(i -> {
            assertThat(i.verdict()).as("no slice is the file").isEqualTo("converted");
            assertThat(i.changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("all 8 sounds: e.g. from "));
        });
        List<SoundFile> slices = written();
        assertThat(slices).hasSize(8);
        assertThat(slices).extracting(s -> s.path().getFileName().toString()).startsWith("windmill 01.wav").endsWith("windmill 08.wav");
        double[][] source = Sounds.readAll(((FileKind.Sound) FileKind.of(folder.resolve("in/windmill.wav"))).read(folder.resolve("in/windmill.wav")).open());
        long at = 0;
        for (SoundFile slice : slices) {
            double[][] audio = Sounds.readAll(slice.open());
            for (int n = at == 0 ? 0 : PRE_ROLL; n < audio[0].length - FADE_OUT; n++)
                assertThat(audio[1][n]).as(slice.path().getFileName() + ", frame " + n).isEqualTo(source[1][(int) at + n]);
            if (at > 0) assertThat(Math.abs(audio[0][0])).as("no click at the start").isLessThan(1e-3);
            at += audio[0].length;
        }
        assertThat(at).as("nothing is lost between slices").isEqualTo(FRAMES);
    }

    private static Chop chop(String said) throws Exception {
        return OptionValues.treatment(Map.of("chop", said)).finds().chop();
    }

    @Test void aKeyForEachSliceFromTheFirstKeyOn() throws Exception {
        pack(clip(SoundMetadata.NONE), Chop.by(Chop.By.ONSETS), Choice.of("sfz"));
        Path map;
        try (Stream<Path> files = Files.walk(folder.resolve("out"))) {
            map = files.filter(f -> f.toString().endsWith(".sfz")).findFirst().orElseThrow();
        }
        InstrumentFile read = InstrumentFormats.byId("sfz").orElseThrow().read(map);
        assertThat(read.instruments()).singleElement().satisfies(i -> assertThat(i.name()).isEqualTo("windmill"));
        List<Zone> zones = read.instruments().getFirst().zones();
        assertThat(zones).extracting(z -> z.get(Parameter.KEYS).low()).containsExactly(36, 37, 38, 39, 40, 41, 42, 43);
        assertThat(zones).allMatch(z -> z.get(Parameter.ONE_SHOT)).extracting(Zone::sample).doesNotHaveDuplicates();
    }

    /// Bars are counted from the downbeat; what lies before the first line of the grid is a slice too.
    @Test void barsAndGridBeginAtTheDownbeat() throws Exception {
        Map<String, Object> beats = Map.of("bpm", "120", "downbeat", "0.1");
        Map<String, Object> cut = new HashMap<>(beats), bars = new HashMap<>(beats);
        cut.put("chop", "grid:1/4");
        bars.put("part", List.of("bar1-bar1.3"));
        Path file = clip(SoundMetadata.NONE);
        assertThat(plan(file, OptionValues.treatment(cut).finds(), Choice.asDestination()).items().getFirst().source().pieces())
                .extracting(Gathered.Piece::place)
                .containsExactly(0L, 4_410L, 26_460L, 48_510L, 70_560L);
        assertThat(plan(file, OptionValues.treatment(bars).finds(), Choice.asDestination()).items().getFirst().outputs().getFirst().sourceChain().part())
                .isEqualTo(new FrameRange(4_410, 4_410 + RATE));
        assertThatThrownBy(() -> OptionValues.treatment(Map.of("downbeat", "-1"))).hasMessageContaining("a downbeat lies 0 to 36000 s from the start");
    }

    /// The audio stays; a cue that is there already stays as it is, and is not doubled.
    @Test void slicesBecomeCuePointsOfTheClip() throws Exception {
        Path file = clip(SoundMetadata.NONE.withCues(List.of(new Cue(7, EIGHTH + 20, 0, Optional.of("gate"), Optional.empty()))));
        PackingSlip slip = pack(file, OptionValues.treatment(Map.of("chop", "grid:1/8", "bpm", "120", "as-cues", "true")).finds(), Choice.asDestination());
        assertThat(slip.items()).singleElement().satisfies(i -> assertThat(i.changes())
                .anySatisfy(c -> assertThat(c.before() + " → " + c.after()).isEqualTo("1 cue → 8 cues")));
        SoundFile written = written().getFirst();
        assertThat(written.metadata().cues()).extracting(Cue::frame).containsExactly(EIGHTH + 20L, 0L, 2L * EIGHTH, 3L * EIGHTH, 4L * EIGHTH, 5L * EIGHTH,
                6L * EIGHTH, 7L * EIGHTH);
        assertThat(written.metadata().cues().getFirst().label()).contains("gate");
        assertThat(written.metadata().cues().get(2).label()).contains("windmill 03");
        assertThat(Sounds.readAll(written.open())).isDeepEqualTo(Sounds.readAll(((FileKind.Sound) FileKind.of(file)).read(file).open()));
        assertThat(plan(file, OptionValues.treatment(Map.of("chop", "cues", "as-cues", "true")).finds(), Choice.asDestination()).items().getFirst().verdict())
                .as("its own cues change nothing").isEqualTo(Verdict.KEPT);
    }

    @Test void theWholeClipHasAKeyBehindItsSlices() throws Exception {
        Path file = clip(SoundMetadata.NONE);
        pack(file, OptionValues.treatment(Map.of("chop", "onsets", "whole-key", "true", "rhythm", "played")).finds(), Choice.of("sfz"));
        InstrumentFile read = InstrumentFormats.byId("sfz").orElseThrow().read(folder.resolve("out/windmill.sfz"));
        Zone last = read.instruments().getFirst().zones().getLast();
        assertThat(read.instruments().getFirst().zones()).hasSize(9);
        assertThat(last.get(Parameter.KEYS).low()).isEqualTo(44);
        assertThat(Sounds.readAll(read.sound(last.sample()).orElseThrow().open()))
                .isDeepEqualTo(Sounds.readAll(((FileKind.Sound) FileKind.of(file)).read(file).open()));
        Track track = MidiSystem.getSequence(folder.resolve("out/windmill.mid").toFile()).getTracks()[0];
        assertThat(IntStream.range(0, track.size()).mapToObj(i -> track.get(i).getMessage()).filter(m -> m.getStatus() == ShortMessage.NOTE_ON)
                .map(m -> (int) m.getMessage()[1])).as("and no note of its own").containsExactly(36, 37, 38, 39, 40, 41, 42, 43);
    }

    @Test void cuesOfTheFileAreItsPlaces() throws Exception {
        SoundMetadata cues = SoundMetadata.NONE
                .withCues(List.of(new Cue(1, 0, 0, Optional.of("one"), Optional.empty()), new Cue(2, 30_000, 0, Optional.of("two"), Optional.empty())));
        pack(clip(cues), Chop.by(Chop.By.CUES), Choice.asDestination());
        assertThat(written()).extracting(SoundFile::frames).containsExactly(30_000L - PRE_ROLL, FRAMES - 30_000L + PRE_ROLL);
    }

    /// What has no such places stays whole.
    @Test void aClipWithoutPlacesIsPackedAsItIs() throws Exception {
        Path file = clip(SoundMetadata.NONE);
        pack(file, Chop.by(Chop.By.CUES), Choice.asDestination());
        assertThat(folder.resolve("out/windmill.wav")).hasSameBinaryContentAs(file);
    }

    /// Hits of which every other hardly stands out of the hiss.
    @Test void softOnsetsCountWithMoreSensitivityOnly() throws Exception {
        Random random = new Random(9);
        for (double[] plane : clip)
            for (int n = 0; n < FRAMES; n++)
                plane[n] = plane[n] * (n / EIGHTH % 2 == 0 ? 1 : 0.006) + 0.0006 * random.nextGaussian();
        Path file = clip(SoundMetadata.NONE);
        for (Map.Entry<String, Integer> slices : Map.of("1", 4, "3", 8).entrySet())
            assertThat(plan(file, OptionValues.treatment(Map.of("chop", "onsets", "sensitivity", slices.getKey())).finds(), Choice.asDestination())
                    .items().getFirst().outputs()).as("sensitivity %s", slices.getKey()).hasSize(slices.getValue());
    }

    private static Finds parts(String... said) throws Exception {
        return OptionValues.treatment(Map.of("part", List.of(said), "bpm", "120")).finds();
    }

    /// The clip is a bar of two seconds.
    @Test void partsAreTheFramesOfTheClip() throws Exception {
        SoundMetadata cues = SoundMetadata.NONE.withCues(List.of(new Cue(1, 22_050, 0, Optional.of("gate"), Optional.empty()),
                new Cue(2, 40_000, 0, Optional.of("owl"), Optional.empty()), new Cue(3, 50_000, 100, Optional.of("bell"), Optional.empty())));
        PackingSlip slip = pack(clip(cues), parts("half=bar1-bar1.3", "0:0.5-0:1.25", "100f-end", "cue:gate", "last=cue:bell", "bar1.4-bar9"),
                Choice.asDestination());
        assertThat(slip.items()).singleElement().satisfies(i -> assertThat(i.error()).isEmpty());
        Map<String, FrameRange> wanted = Map.of("half", new FrameRange(0, 44_100), "windmill 02", new FrameRange(22_050, 55_125), "windmill 03",
                new FrameRange(100, FRAMES), "gate", new FrameRange(22_050, 40_000), "last", new FrameRange(50_000, 50_100), "windmill 06",
                new FrameRange(66_150, FRAMES));
        double[][] source = Sounds.readAll(((FileKind.Sound) FileKind.of(folder.resolve("in/windmill.wav"))).read(folder.resolve("in/windmill.wav")).open());
        List<SoundFile> written = written();
        assertThat(written).hasSize(wanted.size());
        for (SoundFile part : written) {
            FrameRange frames = wanted.get(part.path().getFileName().toString().replace(".wav", ""));
            assertThat(Sounds.readAll(part.open())[1]).as(part.path().getFileName() + ", to the frame and without fades")
                    .isEqualTo(Arrays.copyOfRange(source[1], (int) frames.start(), (int) frames.end()));
        }
        assertThat(written.stream().filter(p -> p.path().endsWith("gate.wav")).findFirst().orElseThrow().metadata().cues()).as("with the cues that lie in it")
                .extracting(Cue::frame).containsExactly(0L);
    }

    /// It keeps its name; a loop that lies in the rest goes with it.
    @Test void ofOnePartTheSoundIsThatPart() throws Exception {
        pack(clip(SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(60_000, 70_000), LoopMode.FORWARD)))), parts("0:0-0:1"),
                Choice.asDestination());
        assertThat(written()).singleElement().satisfies(s -> {
            assertThat(s.path()).isEqualTo(folder.resolve("out/windmill.wav"));
            assertThat(s.frames()).isEqualTo(RATE);
            assertThat(s.metadata().loops()).isEmpty();
        });
    }

    @Test void partsThatAClipDoesNotHaveAreTold() throws Exception {
        Path file = clip(SoundMetadata.NONE);
        assertThat(pack(file, parts("bar3-bar5"), Choice.asDestination()).items()).singleElement().satisfies(i -> {
            assertThat(i.verdict()).isEqualTo("blocked");
            assertThat(i.changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("nothing lies in part bar3-bar5 of a sound of 2.000 s"));
        });
        assertThat(pack(file, parts("0:0-0:1", "cue:owl", "0:1-0:2"), Choice.asDestination()).items()).singleElement().satisfies(i -> {
            assertThat(i.verdict()).isEqualTo("reduced");
            assertThat(i.changes()).anySatisfy(c -> assertThat(c.reason()).contains("no cue point is called 'owl'"));
        });
        assertThat(written()).hasSize(2);
    }

    @ParameterizedTest @ValueSource(strings = {"bar0-bar2", "0:5", "cue:", "a-b", "=0:1-0:2", "0:1-0:2-0:3", "bar2.5-bar3",
        "-5f-9f"}) void whatIsNoPartIsRefused(
                String said) {
        assertThatThrownBy(() -> parts(said)).hasMessageContaining("--part: '" + said + "' is no part of a clip, as 0:12.5-0:20");
    }

    @Test void slicesAndPartsDoNotGoTogether() {
        assertThatThrownBy(() -> OptionValues.treatment(Map.of("part", List.of("0:1-0:2"), "chop", "onsets"))).hasMessageContaining("not both");
    }
}
