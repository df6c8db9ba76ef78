package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.change.Property;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionValues;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/// Three sounds become one, and three again.
class JoinTest {
    @TempDir Path folder;

    private Path in, out;

    @BeforeEach void folders() throws Exception {
        in = Files.createDirectories(folder.resolve("in"));
        out = folder.resolve("out");
    }

    private Path sound(String name, int rateHz, Depth depth, SoundMetadata metadata, int channels, int frames) throws Exception {
        double[] plane = Sounds.signal(frames, n -> 0.5 * Math.sin(n * 0.01 * (name.length() + 1)) * Math.exp(-n / 3000.0));
        double[][] planes = new double[channels][];
        Arrays.setAll(planes, c -> Sounds.signal(frames, n -> plane[n] / (c + 1)));
        return Sounds.write(in.resolve(name + ".wav"), "wav", rateHz, depth, metadata, planes);
    }

    private static PackingList plan(Path from, DestinationSheet sheet, Map<String, Object> said) throws Exception {
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(from), () -> false)), sheet, OptionValues.options(said), Map.of(),
                new Measurements(new SoundPath()), () -> false, (_, _) -> {});
    }

    private PackingSlip pack(Path from, Path into, Map<String, Object> said) throws Exception {
        return new Packer(plan(from, new SheetCatalogue().find("files"), said), new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system())
                .packInto(into);
    }

    private static SoundFile read(Path file) throws Exception { return ((FileKind.Sound) FileKind.of(file)).read(file); }

    /// Each stretch is the sound as it would have been packed alone.
    @Test void soundsOfMixedRatesLieOneBehindTheOther() throws Exception {
        sound("a bell", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 10_000);
        sound("b gate", 48_000, Depth.FLOAT_32, SoundMetadata.NONE, 2, 12_000);
        sound("c owl", 22_050, Depth.INT_24, SoundMetadata.NONE, 1, 5_000);
        Map<String, Object> said = new HashMap<>(Map.of("depth", "64f", "channels", "stereo", "rate", "48000", "level", "peak:-3"));
        pack(in, folder.resolve("alone"), said);
        said.putAll(Map.of("join", "night", "join-gap", "250"));
        PackingSlip slip = pack(in, out, said);
        assertThat(slip.items()).singleElement().satisfies(i -> {
            assertThat(i.error()).isEmpty();
            assertThat(i.changes()).anySatisfy(c -> assertThat(c.after()).isEqualTo("one of 1.204 s"))
                    .anySatisfy(c -> assertThat(c.before() + " → " + c.after()).isEqualTo("16 bit, 24 bit, 32 bit float → 64 bit float"));
        });
        SoundFile night = read(out.resolve("night.wav"));
        double[][] all = Sounds.readAll(night.open());
        List<Cue> cues = night.metadata().cues();
        assertThat(cues).extracting(c -> c.label().orElseThrow()).containsExactly("a bell", "b gate", "c owl");
        long at = 0;
        for (Cue cue : cues) {
            double[][] alone = Sounds.readAll(read(folder.resolve("alone").resolve(cue.label().orElseThrow() + ".wav")).open());
            assertThat(cue.frame()).isEqualTo(at);
            assertThat(cue.lengthFrames()).isEqualTo(alone[0].length);
            assertThat(Arrays.copyOfRange(all[1], (int) at, (int) at + alone[1].length)).as(cue.label().orElseThrow()).isEqualTo(alone[1]);
            at += alone[0].length;
            if (cue != cues.getLast()) {
                assertThat(Arrays.copyOfRange(all[0], (int) at, (int) at + 12_000)).as("a quarter of a second of silence").containsOnly(0);
                at += 12_000;
            }
        }
        assertThat(at).isEqualTo(night.frames());
    }

    @Test void takenApartByItsCuesTheyAreTheSameAgainBitForBit() throws Exception {
        for (String name : List.of("a bell", "b gate", "c owl"))
            sound(name, 44_100, Depth.INT_24, SoundMetadata.NONE, 2, 3_000 + 777 * name.length());
        pack(in, out, Map.of("join", "night"));
        pack(out, folder.resolve("apart"), Map.of("part", List.of("cues")));
        for (String name : List.of("a bell", "b gate", "c owl"))
            assertThat(Sounds.readAll(read(folder.resolve("apart/night").resolve(name + ".wav")).open())).as(name)
                    .isDeepEqualTo(Sounds.readAll(read(in.resolve(name + ".wav")).open()));
    }

    /// Loops lie where their sounds do, and come back with them.
    @Test void loopsGoAlongAndComeBack() throws Exception {
        Loop bell = Loop.sustain(new FrameRange(1_000, 3_000), LoopMode.FORWARD), owl = Loop.sustain(new FrameRange(500, 900), LoopMode.ALTERNATING);
        sound("a bell", 44_100, Depth.INT_16, SoundMetadata.NONE.withLoops(List.of(bell)), 1, 4_000);
        sound("b gate", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 2_000);
        sound("c owl", 44_100, Depth.INT_16, SoundMetadata.NONE.withLoops(List.of(owl)), 1, 1_500);
        pack(in, out, Map.of("join", "night", "join-gap", "10"));
        assertThat(read(out.resolve("night.wav")).metadata().loops()).extracting(l -> l.frames().start(), l -> l.frames().end(), Loop::mode)
                .containsExactly(tuple(1_000L, 3_000L, LoopMode.FORWARD), tuple(4_000L + 441 + 2_000 + 441 + 500, 7_782L, LoopMode.ALTERNATING));
        pack(out, folder.resolve("apart"), Map.of("part", List.of("cues")));
        Path apart = folder.resolve("apart/night");
        assertThat(read(apart.resolve("a bell.wav")).metadata().loops()).containsExactly(bell);
        assertThat(read(apart.resolve("b gate.wav")).metadata().loops()).isEmpty();
        assertThat(read(apart.resolve("c owl.wav")).metadata().loops()).containsExactly(owl);
    }

    /// A format that holds one loop would show one of many as that of the whole.
    @Test void whereNotAllLoopsHaveRoomNoneGoes() throws Exception {
        Loop loop = Loop.sustain(new FrameRange(1_000, 3_000), LoopMode.FORWARD);
        sound("a", 44_100, Depth.INT_16, SoundMetadata.NONE.withLoops(List.of(loop)), 1, 4_000);
        sound("bb", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 2_000);
        PackingSlip slip = pack(in, out, Map.of("join", "night", "container", "aiff"));
        assertThat(slip.items().getFirst().changes().getFirst().reason()).endsWith("lost: loops of 1, key mapping of 1");
        assertThat(read(out.resolve("night.aif")).metadata().loops()).isEmpty();
    }

    /// What all of them say is true of the one; it starts when the first does.
    @Test void commonTextsAndTheFirstTimeStampStay() throws Exception {
        for (int i = 0; i < 2; i++)
            sound(i == 0 ? "a" : "bb", 48_000, Depth.INT_16,
                    SoundMetadata.NONE.withBroadcast(Optional.of(Broadcast.starting(96_000 + 10_000 * i)))
                            .withTexts(Map.of(TextField.ARTIST, "Orchard", TextField.COMMENT, "take " + i)),
                    1, 2_000);
        PackingSlip slip = pack(in, out, Map.of("join", "night"));
        assertThat(slip.items().getFirst().changes().getFirst().reason()).endsWith("lost: texts of 2, time stamp of 1");
        SoundMetadata night = read(out.resolve("night.wav")).metadata();
        assertThat(night.broadcast().orElseThrow().timeReferenceFrames()).isEqualTo(96_000);
        assertThat(night.texts()).containsOnly(Map.entry(TextField.ARTIST, "Orchard"), Map.entry(TextField.NAME, "night"));
    }

    private static DestinationSheet sheet(String accepts, String card) throws Exception {
        return SheetCatalogue.read("""
                {"id": "long-player", "name": "Long player", "accepts": {%s}, "card": {%s}}""".formatted(accepts, card), "test");
    }

    /// What one file does not hold goes on in the next, and that is told before.
    @Test void whatAFileHasNoRoomForGoesOnInAnother() throws Exception {
        for (String name : List.of("a", "bb", "ccc", "dddd"))
            sound(name, 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 30_000);
        // Two sounds and a gap last 1.5 s, three 2.3 s.
        PackingList list = plan(in, sheet("\"maxSeconds\": 2", ""), Map.of("join", "night", "join-gap", "100", "join-contents", "csv"));
        assertThat(list.items()).extracting(i -> i.change(Property.STRUCTURE).orElseThrow().after()).containsExactly("one of 1.461 s", "one of 1.461 s");
        assertThat(list.items()).extracting(i -> i.changes().stream().filter(FileChange.JoinedInFiles.class::isInstance).findFirst().orElseThrow().text())
                .containsExactly(new Change.Text("one sound", "file 1 of 2", "Long player takes up to 2 s"), new Change.Text("one sound", "file 2 of 2", ""));
        new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
        assertThat(read(out.resolve("night-1.wav")).metadata().cues()).extracting(c -> c.label().orElseThrow()).containsExactly("a", "bb");
        assertThat(read(out.resolve("night-2.wav")).metadata().cues()).extracting(c -> c.label().orElseThrow()).containsExactly("ccc", "dddd");
        assertThat(Files.readAllLines(out.resolve("night-2.csv"))).hasSize(3).last().asString().startsWith("2,dddd,night-2.wav,34410,");
        assertThat(plan(in, sheet("", "\"fileBytes\": 1200000"), Map.of("join", "night")).items()).as("by bytes").hasSize(2);
    }

    /// 4 GiB of WAV are the most that all readers take. Lengths alone are planned: nothing of that size is written.
    @Test void aWavOfMoreThanFourGigabytesGoesOnInAnother() throws Exception {
        Path hour = sound("hour", 48_000, Depth.INT_24, SoundMetadata.NONE, 2, 100);
        try (RandomAccessFile file = new RandomAccessFile(hour.toFile(), "rw")) {
            // Sparse: 3,600 s of silence behind a header that says so.
            long data = 3_600L * 48_000 * 6, header = file.length() - 600;
            file.setLength(header + data);
            file.seek(4);
            file.writeInt(Integer.reverseBytes((int) (header + data - 8)));
            file.seek(header - 4);
            file.writeInt(Integer.reverseBytes((int) data));
        }
        for (int i = 2; i <= 5; i++)
            Files.createLink(in.resolve("hour" + i + ".wav"), hour);
        PackingList list = plan(in, new SheetCatalogue().find("files"), Map.of("join", "night"));
        assertThat(list.items()).extracting(i -> i.outputs().getFirst().shape().frames()).containsExactly(4 * 172_800_000L, 172_800_000L);
        assertThat(list.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("WAV takes files of up to 4,294,967,295 bytes"));
        assertThat(plan(in, new SheetCatalogue().find("files"), Map.of("join", "night", "container", "flac")).items()).as("no limit").hasSize(1);
    }

    /// What is told to come first does, the others follow as they would; what is not there is told.
    @Test void someComeFirst() throws Exception {
        for (String name : List.of("a bell", "b gate", "c owl", "d oven"))
            sound(name, 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 500);
        PackingSlip slip = pack(in, out, Map.of("join", "night", "join-first", List.of("in/d oven.wav", "c*", "moon")));
        assertThat(read(out.resolve("night.wav")).metadata().cues()).extracting(c -> c.label().orElseThrow()).containsExactly("d oven", "c owl", "a bell",
                "b gate");
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("none of the joined sounds is called moon"));
    }

    @Test void anotherRunWritesItOnlyWhereOneOfThemChanged() throws Exception {
        sound("a bell", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 2_000);
        sound("b gate", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 2_000);
        Map<String, Object> said = Map.of("join", "night", "existing", "update");
        pack(in, out, said);
        assertThat(pack(in, out, said).outcomes()).containsOnlyKeys("skipped");
        sound("b gate", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 3_000);
        assertThat(pack(in, out, said).outcomes()).containsOnlyKeys("packed");
        assertThat(read(out.resolve("night.wav")).frames()).isEqualTo(5_000);
    }

    /// What the one has no place for is told; what cannot be joined goes alone.
    @Test void whatIsLostAndWhatDoesNotGoInIsTold() throws Exception {
        sound("a", 44_100, Depth.INT_16, SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(100, 900), LoopMode.FORWARD))), 1, 2_000);
        sound("bb", 44_100, Depth.INT_16, SoundMetadata.NONE.withCues(List.of(new Cue(7, 50, 0, Optional.of("turn"), Optional.empty()))), 1, 1_000);
        sound("six", 44_100, Depth.INT_16, SoundMetadata.NONE, 6, 1_000);
        PackingSlip slip = pack(in, out, Map.of("join", "night", "join-order", "length"));
        assertThat(slip.items()).hasSize(2);
        assertThat(slip.items().getFirst().verdict()).isEqualTo("reduced");
        assertThat(slip.items().getFirst().changes().getFirst().reason())
                .isEqualTo("one after another, a cue point at each; lost: key mapping of 1");
        assertThat(read(out.resolve("night.wav")).metadata().cues()).as("the shortest first, with its own").extracting(Cue::frame).containsExactly(0L, 50L,
                1_000L);
        assertThat(out.resolve("six.wav")).exists();
    }

    /// Beside it, as a table to the frame and as a cue sheet to 1/75 s.
    @Test void listsTellWhatLiesWhere() throws Exception {
        sound("a bell", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 10_000);
        sound("b, \"gate\"", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 2_700_000);
        sound("c owl", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 5_000);
        PackingSlip slip = pack(in, out, Map.of("join", "night", "join-contents", "both"));
        assertThat(slip.items().getFirst().sidecars()).extracting(PackingSlip.SidecarFile::path).containsExactly("night.csv", "night.cue");
        assertThat(slip.items().getFirst().sidecars()).flatExtracting(PackingSlip.SidecarFile::checks).allMatch(PackingSlip.Check::ok)
                .extracting(PackingSlip.Check::measured).contains("3 tracks, at most 2.1 ms from their frames, as its steps are 1/75 s");
        assertThat(Files.readString(out.resolve("night.csv")).split("\r\n")).containsExactly(
                "number,name,file,startFrame,frames,startSeconds,seconds,rateHz,source",
                "1,a bell,night.wav,0,10000,0.000000,0.226757,44100,in/a bell.wav",
                "2,\"b, \"\"gate\"\"\",night.wav,10000,2700000,0.226757,61.224490,44100,\"in/b, \"\"gate\"\".wav\"",
                "3,c owl,night.wav,2710000,5000,61.451247,0.113379,44100,in/c owl.wav");
        assertThat(Files.readString(out.resolve("night.cue")).split("\r\n")).containsExactly("TITLE \"night\"", "FILE \"night.wav\" WAVE", "  TRACK 01 AUDIO",
                "    TITLE \"a bell\"", "    INDEX 01 00:00:00", "  TRACK 02 AUDIO", "    TITLE \"b, 'gate'\"", "    INDEX 01 00:00:17", "  TRACK 03 AUDIO",
                "    TITLE \"c owl\"", "    INDEX 01 01:01:34");
    }

    @Test void aCueSheetOfMoreThanItHoldsIsToldAndNotWritten() throws Exception {
        for (int i = 0; i < 100; i++)
            sound("bell " + i, 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 100);
        PackingSlip slip = pack(in, out, Map.of("join", "night", "join-contents", "both"));
        assertThat(slip.items().getFirst().sidecars()).extracting(PackingSlip.SidecarFile::path).containsExactly("night.csv");
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("no cue sheet: it holds 99 sounds, not 100"));
    }

    /// A recorder that takes mono alone, and sides in files of their own.
    @Test void theSidesOfTheOneAreFilesOfTheirOwnWhereTheDestinationTakesMonoAlone() throws Exception {
        sound("a", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 2_000);
        sound("bb", 44_100, Depth.INT_16, SoundMetadata.NONE, 2, 1_000);
        var outputs = plan(in, new SheetCatalogue().find("four-track"), Map.of("join", "night", "channels", "split")).items().getFirst().outputs();
        assertThat(outputs).hasSize(2).allMatch(o -> o.shape().channels() == 1);
    }

    /// What goes away while it is joined fails the one line with its name; nothing waits for it.
    @Test @Timeout(60) void aSoundThatIsGoneWhileItIsJoinedIsTold() throws Exception {
        sound("a", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 100_000);
        Path gone = sound("bb", 44_100, Depth.INT_16, SoundMetadata.NONE, 1, 100_000);
        PackingList list = plan(in, new SheetCatalogue().find("files"), Map.of("join", "night"));
        Files.delete(gone);
        PackingSlip slip = new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
        assertThat(slip.items()).singleElement().satisfies(i -> {
            assertThat(i.outcome()).isEqualTo("failed");
            assertThat(i.error().orElseThrow()).contains("bb.wav");
        });
        assertThat(out.resolve("night.wav")).doesNotExist();
    }

    @Test void aPathIsNoName() {
        assertThatThrownBy(() -> OptionValues.options(Map.of("join", "../night"))).hasMessageContaining("'../night' is a path; say a name");
    }
}
