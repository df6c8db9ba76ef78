package ablecrate.planner;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.MetadataChange;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.RawChunk;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.Dither;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.MetadataChoice;
import ablecrate.option.MonoLaw;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PlannerTest {
    @TempDir Path folder;

    private static DestinationSheet sheet(String id) { return new SheetCatalogue().byId(id).orElseThrow(); }

    private PackingList plan(String destination, PackOptions options, Path... paths) throws Exception {
        return Planner.plan(Gatherer.readAll(Gatherer.find(List.of(paths), () -> false)), sheet(destination), options);
    }

    private PackingItem one(String destination, PackOptions options, Path path) throws Exception { return plan(destination, options, path).items().getFirst(); }

    private Path sound(String name, int rateHz, Depth depth, int channels, SoundMetadata metadata) throws Exception {
        double[][] planes = new double[channels][];
        for (int c = 0; c < channels; c++)
            planes[c] = sine(440 + c, 0.5, rateHz, rateHz / 5);
        return Sounds.write(folder.resolve(name), name.endsWith(".aif") ? "aiff" : "wav", rateHz, depth, metadata, planes);
    }

    @Test void aFileThatFitsIsKept() throws Exception {
        PackingItem item = one("files", PackOptions.DEFAULT, sound("a.wav", 44100, Depth.INT_16, 2, SoundMetadata.NONE));
        assertThat(item.verdict()).isEqualTo(Verdict.KEPT);
        assertThat(item.outputs()).singleElement().satisfies(o -> {
            assertThat(o.isVerbatim()).isTrue();
            assertThat(o.path()).isEqualTo("a.wav");
        });
    }

    /// 100 frames at 44.1 kHz are 108.84 at 48 kHz; 109 would sound 2.49 cents low, which the player is told to add. Arithmetic, and so on.
    @ParameterizedTest @CsvSource({"100,44100,48000,109,-2.49", "168,44100,48000,183,-1.35", "441,44100,48000,480,0",
        "64,96000,44100,29,23.72"}) void loopsStayWholeAndTuningPays(int loopFrames, int from, int to, long moved, double cents) throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(1000, 1000 + loopFrames), LoopMode.FORWARD)));
        PackingItem item = one("files", PackOptions.DEFAULT.withRate(Choice.of(to)), sound("loop.wav", from, Depth.INT_24, 1, metadata));
        assertThat(item.outputs().getFirst().metadata().loops().getFirst().frames().length()).isEqualTo(moved);
        assertThat(item.outputs().getFirst().metadata().mapping().fineTuneCents()).isCloseTo(-cents, within(0.01));
        assertThat(item.change(Property.LOOPS).orElseThrow().reason()).contains(loopFrames + " → " + moved + " frames long");
    }

    @Test void cuesAndTimeStampsMoveWithTheRate() throws Exception {
        Broadcast broadcast = new Broadcast("", "", "", "2026-01-01", "00:00:00", 44100L * 3600, 1, "", Optional.empty(), "");
        SoundMetadata metadata = SoundMetadata.NONE
                .withCues(List.of(new Cue(1, 441, 0, Optional.of("a"), Optional.empty()), new Cue(2, 1000, 0, Optional.empty(), Optional.empty())))
                .withBroadcast(Optional.of(broadcast));
        PackingItem item = one("session", PackOptions.DEFAULT, sound("c.wav", 44100, Depth.INT_16, 1, metadata));
        SoundMetadata after = item.outputs().getFirst().metadata();
        assertThat(after.cues()).extracting(Cue::frame).containsExactly(480L, 1088L); // 1088.44 rounded
        assertThat(after.broadcast().orElseThrow().timeReferenceFrames()).isEqualTo(48000L * 3600);
        assertThat(item.change(Property.CUES).orElseThrow().reason()).isEqualTo("2 cues moved, at most 0.4 frames");
        assertThat(item.change(Property.BROADCAST).orElseThrow().verdict()).isEqualTo(Verdict.CONVERTED);
    }

    @ParameterizedTest @CsvSource({"MID,'both sides folded to the middle, (L+R)/2'", "LEFT,right channel dropped",
        "RIGHT,left channel dropped"}) void aFoldToMonoSaysWhatIsLost(MonoLaw law, String reason) throws Exception {
        PackingItem item = one("four-track", PackOptions.DEFAULT.withMonoLaw(law), sound("s.wav", 44100, Depth.INT_16, 2, SoundMetadata.NONE));
        assertThat(item.change(Property.CHANNELS)).hasValueSatisfying(c -> assertThat(c).isEqualTo(new AudioChange.Folded(law, Optional.empty()))
                .returns(Verdict.REDUCED, Change::verdict).returns(new Change.Text("stereo", "mono", reason), Change::text)
                .returns(Optional.of(new Change.Numbers(2, 1, "channels")), Change::numbers));
    }

    @Test void ditherIsUsedOnlyWhereDepthFalls() throws Exception {
        Path stereo16 = sound("16.wav", 44100, Depth.INT_16, 2, SoundMetadata.NONE), deep = sound("24.wav", 44100, Depth.INT_24, 2, SoundMetadata.NONE),
                floating = sound("f.wav", 44100, Depth.FLOAT_32, 2, SoundMetadata.NONE);
        assertThat(dither(stereo16, PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_24)))).isEqualTo(Dither.NONE);
        assertThat(dither(deep, PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_16)))).isEqualTo(Dither.TPDF);
        assertThat(dither(deep, PackOptions.DEFAULT.withDepth(Choice.of(Depth.FLOAT_32)))).isEqualTo(Dither.NONE);
        assertThat(dither(floating, PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_24)))).isEqualTo(Dither.TPDF);
        assertThat(dither(stereo16, PackOptions.DEFAULT.withChannels(Optional.of(ChannelChoice.SPLIT)))).isEqualTo(Dither.NONE);
        // Half the sum of two 16-bit samples needs 17 bits.
        assertThat(dither(stereo16, PackOptions.DEFAULT.withChannels(Optional.of(ChannelChoice.MONO)))).isEqualTo(Dither.TPDF);
        assertThat(dither(stereo16, PackOptions.DEFAULT.withChannels(Optional.of(ChannelChoice.MONO)).withDepth(Choice.of(Depth.INT_24))))
                .isEqualTo(Dither.NONE);
        // Computed samples are finer than any integer depth.
        assertThat(dither(stereo16, PackOptions.DEFAULT.withRate(Choice.of(48000)))).isEqualTo(Dither.TPDF);
    }

    private Dither dither(Path path, PackOptions options) throws Exception { return one("files", options, path).outputs().getFirst().dither(); }

    @Test void splitChannelsBecomeFilesOfTheirOwn() throws Exception {
        PackOptions split = PackOptions.DEFAULT.withChannels(Optional.of(ChannelChoice.SPLIT));
        assertThat(one("files", split, sound("pair.wav", 44100, Depth.INT_16, 2, SoundMetadata.NONE)).outputs()).extracting(PlannedOutput::path)
                .containsExactly("pair-L.wav", "pair-R.wav");
        assertThat(one("session", split, sound("six.wav", 48000, Depth.INT_24, 6, SoundMetadata.NONE)).outputs()).hasSize(6);
        PackingItem blocked = one("session", PackOptions.DEFAULT, sound("six2.wav", 48000, Depth.INT_24, 6, SoundMetadata.NONE));
        assertThat(blocked.verdict()).isEqualTo(Verdict.BLOCKED);
        assertThat(blocked.reason()).isEqualTo("6 channels do not fit; split them into mono files");
    }

    @Test void whatAFormatCannotCarryIsNamedAndCounted() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE
                .withLoops(List.of(new Loop(new FrameRange(100, 900), LoopMode.BACKWARD, Loop.Use.SUSTAIN, 3, 0, 0),
                        Loop.sustain(new FrameRange(50, 800), LoopMode.FORWARD)))
                .withMapping(Mapping.NONE.withRootKey(Optional.of(60)).withFineTune(7.4));
        PackingItem item = one("files", PackOptions.DEFAULT.withContainer(Choice.of("aiff")), sound("w.wav", 44100, Depth.INT_16, 1, metadata));
        assertThat(item.change(Property.LOOPS).orElseThrow().reason()).contains("1 loop dropped", "1 loop that went back and forth, or backward, made forward",
                "play count of 1 loop made endless");
        assertThat(item.change(Property.MAPPING).orElseThrow())
                .isInstanceOf(MetadataChange.TuningMoved.class).returns(Verdict.ADJUSTED, Change::verdict)
                .returns(new Change.Text("+7.40 cents", "+7.00 cents", "fine tuning moved by 0.40 cents"), Change::text)
                .returns(Optional.of(new Change.Numbers(7.4, 7, "cents")), Change::numbers);
        assertThat(item.verdict()).isEqualTo(Verdict.REDUCED);
    }

    @Test void unknownChunksStayOnlyWhereTheAudioDoes() throws Exception {
        Path path = Sounds.write(folder.resolve("u.wav"), "wav", 44100, Depth.INT_16, SoundMetadata.NONE, List.of(new RawChunk("abcd", Bytes.of(new byte[10]))),
                sine(440, 0.5, 44100, 900));
        assertThat(one("files", PackOptions.DEFAULT, path).verdict()).isEqualTo(Verdict.KEPT);
        assertThat(one("session", PackOptions.DEFAULT, path).change(Property.CHUNKS).orElseThrow().reason())
                .isEqualTo("1 unknown chunk dropped: 'abcd' (10 bytes)");
        PackingItem chosen = one("session", PackOptions.DEFAULT.withMetadata(MetadataChoice.WITH_UNKNOWN), path);
        assertThat(chosen.change(Property.CHUNKS).orElseThrow().reason()).startsWith("1 unknown chunk kept as chosen: 'abcd' (10 bytes)");
        assertThat(chosen.outputs().getFirst().chunks()).extracting(ChunkInfo::id).contains("abcd");
    }

    /// Where only texts are left out the samples stay, and positions in unknown chunks with them.
    @Test void unknownChunksStayWhereOnlyMetadataChanges() throws Exception {
        Path path = Sounds.write(folder.resolve("t.wav"), "wav", 44100, Depth.INT_16, SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, "reed")),
                List.of(new RawChunk("abcd", Bytes.of(new byte[10]))), sine(440, 0.5, 44100, 900));
        MetadataChoice none = new MetadataChoice(new DestinationSheet.Keeps(false, false, false, false, false), false, false);
        PackingItem item = one("files", PackOptions.DEFAULT.withMetadata(none), path);
        assertThat(item.change(Property.TEXTS)).isPresent();
        assertThat(item.change(Property.CHUNKS)).isEmpty();
        assertThat(item.outputs().getFirst().chunks()).extracting(ChunkInfo::id).contains("abcd");
    }

    /// A loop that does not rule the ratio is rounded for itself: 100 frames are 108.84 at 48 kHz.
    @Test void otherLoopsAreRoundedToTheNearestFrame() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(0, 441), LoopMode.FORWARD),
                new Loop(new FrameRange(500, 600), LoopMode.FORWARD, Loop.Use.RELEASE, 0, 0, 0)));
        PackingItem item = one("session", PackOptions.DEFAULT.withContainer(Choice.of("wav")), sound("two.aif", 44100, Depth.INT_16, 1, metadata));
        assertThat(item.source().sound().orElseThrow().metadata().loops()).hasSize(2);
        assertThat(item.outputs().getFirst().metadata().loops()).extracting(l -> l.frames().length()).containsExactly(480L, 109L);
    }

    @Test void damagedFilesAreMendedAndSayWhatIsMissing() throws Exception {
        PackingItem cut = one("files", PackOptions.DEFAULT, Fixtures.path("malformed/wav_truncated_data.wav"));
        assertThat(cut.verdict()).isEqualTo(Verdict.REDUCED);
        assertThat(cut.reason()).contains("1,000 of 2,205 frames are there, the last 0.03 s is missing");
        assertThat(cut.outputs().getFirst().isVerbatim()).isFalse();
        assertThat(one("files", PackOptions.DEFAULT, Fixtures.path("malformed/wav_streamed_size0.wav")).verdict()).isEqualTo(Verdict.CONVERTED);
    }

    @Test void whatIsNoSoundIsBlockedWithTheReason() throws Exception {
        PackingItem item = one("files", PackOptions.DEFAULT, Fixtures.path("malformed/playlist_named.mp3"));
        assertThat(item.verdict()).isEqualTo(Verdict.BLOCKED);
        assertThat(item.reason()).isEqualTo("Playlist: it only points at sounds: 2 links, 2 to files that are not there");
        assertThat(item.outputs()).isEmpty();
    }

    @Test void anOptionAgainstTheDestinationIsRefusedWithWhatItTakes() {
        assertThatThrownBy(() -> plan("four-track", PackOptions.DEFAULT.withRate(Choice.of(48000)))).isInstanceOf(OptionConflict.class)
                .hasMessage("four-track does not take 48000 Hz; it takes 44100");
        assertThatThrownBy(() -> plan("files", PackOptions.DEFAULT.withNamePattern(Optional.of("(nmae)")))).isInstanceOf(OptionConflict.class)
                .hasMessageContaining("no word 'nmae'")
                .hasMessageContaining("(name)");
    }

    @Test void kitsHoldNineSoundsAndStartAnewWithEachFolder() throws Exception {
        for (int i = 1; i <= 11; i++)
            sound("kit/hit " + i + ".wav", 44100, Depth.INT_16, 1, SoundMetadata.NONE);
        sound("other/boom.wav", 44100, Depth.INT_16, 1, SoundMetadata.NONE);
        List<String> paths = plan("drum-pads", PackOptions.DEFAULT, folder).items().stream().map(i -> i.outputs().getFirst().path()).toList();
        assertThat(paths).startsWith("001-KIT/1-HIT_1.wav", "001-KIT/2-HIT_2.wav").contains("001-KIT/9-HIT_9.wav", "002-KIT/1-HIT_10.wav",
                "002-KIT/2-HIT_11.wav", "003-OTHER/1-BOOM.wav");
    }

    @Test void namesThatWouldMeetAreToldApart() throws Exception {
        for (String name : List.of("clockwork orchard 1.wav", "clockwork orchard 2.wav", "clockwork/Orchard 1.wav", "Übung.wav"))
            sound("n/" + name, 44100, Depth.INT_16, 1, SoundMetadata.NONE);
        List<String> paths = plan("four-track", PackOptions.DEFAULT, folder).items().stream().map(i -> i.outputs().getFirst().path().toLowerCase()).toList();
        assertThat(paths).doesNotHaveDuplicates().allSatisfy(p -> assertThat(Path.of(p).getFileName().toString()).matches("[a-z0-9_]{1,8}\\.wav"))
                .anyMatch(p -> p.endsWith("/ubung.wav"));
    }

    @Test void foldersAreRebuiltWhenAsked() throws Exception {
        sound("top/inner/a.wav", 44100, Depth.INT_16, 1, SoundMetadata.NONE);
        assertThat(one("files", PackOptions.DEFAULT.withMirror(Optional.of(true)), folder.resolve("top")).outputs().getFirst().path())
                .isEqualTo("top/inner/a.wav");
        assertThat(one("files", PackOptions.DEFAULT, folder.resolve("top")).outputs().getFirst().path()).isEqualTo("a.wav");
    }

    @Test void namePatternsNumberAndNameTheirSounds() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withMapping(Mapping.NONE.withRootKey(Optional.of(64)));
        sound("bells/ding.wav", 44100, Depth.INT_16, 1, metadata);
        assertThat(
                one("files", PackOptions.DEFAULT.withNamePattern(Optional.of("(number...)_(folder)_(name)_(root)_((x)")), folder).outputs().getFirst().path())
                .isEqualTo("001_bells_ding_64_(x).wav");
    }

    @Test void thousandsOfItemsArePlannedFromTheirHeaders() throws Exception {
        Path path = sound("x.wav", 44100, Depth.INT_16, 2, SoundMetadata.NONE);
        var item = Gatherer.readAll(Gatherer.find(List.of(path), () -> false)).getFirst();
        Files.delete(path); // only headers were needed, and they are read
        PackingList list = Planner.plan(new ArrayList<>(java.util.Collections.nCopies(10_000, item)), sheet("session"), PackOptions.DEFAULT);
        assertThat(list.totals().get(Verdict.CONVERTED) + list.totals().get(Verdict.ADJUSTED)).isEqualTo(10_000);
        assertThat(list.items().stream().map(i -> i.outputs().getFirst().path()).distinct().count()).isEqualTo(10_000);
    }
}
