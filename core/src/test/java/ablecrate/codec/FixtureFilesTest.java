package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.groups.Tuple.tuple;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.PcmPacker;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.chunk.ChunkScanner;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Duration;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/// Files that libsndfile 1.2.0 wrote, or that were put together byte by byte: what we read equals their table.
class FixtureFilesTest {
    @TempDir Path folder;

    static Stream<Map<String, String>> readable() {
        return Fixtures.table("manifest.tsv").stream().filter(r -> !r.get("pcm_bits").equals("-") && !r.get("file").startsWith("malformed"));
    }

    static SoundFile read(String name) throws Exception {
        Path path = Fixtures.path(name);
        return ((FileKind.Sound) FileKind.of(path)).format().read(path);
    }

    @ParameterizedTest @MethodSource("readable") void factsAndSamplesEqualTheTable(Map<String, String> row) throws Exception {
        SoundFile file = read(row.get("file"));
        assertThat(file.container()).isEqualTo(row.get("container"));
        assertThat(file.codec()).isEqualTo(row.get("codec"));
        assertThat(file.rateHz()).hasToString(row.get("rate"));
        assertThat(file.channels()).hasToString(row.get("channels"));
        assertThat(file.encoding().containerBits()).hasToString(row.get("bits"));
        assertThat(file.frames()).hasToString(row.get("frames"));
        assertThat(file.problems()).allMatch(p -> p.effect() == Problem.Effect.OWN);
        assertThat(pcmSha256(file, Integer.parseInt(row.get("pcm_bits")))).isEqualTo(row.get("pcm_sha256"));
    }

    private static String pcmSha256(SoundFile file, int bits) throws Exception {
        double[][] planes = Sounds.readAll(file.open());
        var kind = bits == 8 ? SampleEncoding.Kind.UNSIGNED : SampleEncoding.Kind.SIGNED;
        byte[] packed = new byte[planes.length * planes[0].length * bits / 8];
        new PcmPacker(new SampleEncoding(kind, bits / 8, bits, ByteOrder.LITTLE_ENDIAN)).pack(planes, planes[0].length, packed);
        return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(packed));
    }

    @Test void theSamplerChunkIsReadToTheValue() throws Exception {
        SoundMetadata metadata = read("metadata/wav_instrument.wav").metadata();
        assertThat(metadata.loops()).extracting(Loop::frames, Loop::mode, Loop::playCount).containsExactly(
                tuple(new FrameRange(2000, 6000), LoopMode.FORWARD, 0L),
                tuple(new FrameRange(6500, 8000), LoopMode.ALTERNATING, 3L));
        assertThat(metadata.mapping().rootKey()).contains(69);
        // The chunk says that the sample sounds 7 cents sharp; a player takes that back.
        assertThat(metadata.mapping().fineTuneCents()).isCloseTo(-7, within(1e-6));
    }

    @Test void instCueAdtlAndInfoAreReadToTheValue() throws Exception {
        SoundFile file = read("metadata/wav_smpl_inst_cue_adtl.wav");
        SoundMetadata metadata = file.metadata();
        assertThat(metadata.loops()).extracting(l -> l.frames().start()).containsExactly(2000L, 6500L, 100L);
        assertThat(metadata.loops().get(2).mode()).isEqualTo(LoopMode.BACKWARD);
        assertThat(metadata.mapping().keys()).contains(new Span(60, 72));
        assertThat(metadata.mapping().velocities()).contains(new Span(1, 100));
        assertThat(metadata.mapping().gainDb()).contains(-3.0);
        assertThat(metadata.cues()).containsExactly(new Cue(1, 1000, 0, Optional.of("Attack"), Optional.of("A note")),
                new Cue(2, 2500, 1500, Optional.of("Region"), Optional.empty()), new Cue(3, 7000, 0, Optional.of("End é"), Optional.empty()));
        assertThat(metadata.texts()).isEqualTo(Map.of(TextField.NAME, "Loop tone", TextField.COMMENT, "Synthetic fixture", TextField.COPYRIGHT, "CC0"));
        assertThat(file.chunks()).extracting(ChunkInfo::id).containsExactly("fmt ", "data", "cue ", "LIST", "smpl", "inst", "LIST");
    }

    @ParameterizedTest @ValueSource(strings = {"metadata/wav_bext.wav", "metadata/rf64_bext.wav"}) void broadcastDataIsReadToTheValue(String name)
            throws Exception {
        var b = read(name).metadata().broadcast().orElseThrow();
        assertThat(b.description()).isEqualTo("Synthetic 441 Hz loop tone, test fixture");
        assertThat(b.originator()).isEqualTo("Fixture generator");
        assertThat(b.originatorReference()).isEqualTo("FIXTURE-0001");
        assertThat(b.originationDate() + " " + b.originationTime()).isEqualTo("2001-02-03 04:05:06");
        assertThat(b.timeReferenceFrames()).isEqualTo(4453727296L);
        assertThat(b.version()).isEqualTo(2);
        assertThat(b.umidHex()).startsWith("0102030405").hasSize(128);
        assertThat(b.loudness()).contains(new ablecrate.instrument.Broadcast.StatedLoudness(-23.01, 1.2, -6.02, -22.05, -22.5));
        assertThat(b.codingHistory()).startsWith("A=ANALOGUE,M=mono,T=synthetic\r\n");
    }

    @Test void aiffMarkersAndInstrumentAreReadToTheValue() throws Exception {
        SoundMetadata metadata = read("metadata/aiff_inst_mark.aif").metadata();
        assertThat(metadata.loops()).containsExactly(new Loop(new FrameRange(2000, 6000), LoopMode.FORWARD, Loop.Use.SUSTAIN, 0, 0, 0),
                new Loop(new FrameRange(6500, 8000), LoopMode.ALTERNATING, Loop.Use.RELEASE, 0, 0, 0));
        assertThat(metadata.mapping()).isEqualTo(
                new ablecrate.instrument.Mapping(Optional.of(69), 7, Optional.of(new Span(60, 72)), Optional.of(new Span(1, 100)), Optional.of(-3.0)));
        assertThat(metadata.texts()).isEqualTo(Map.of(TextField.NAME, "Loop tone"));
        assertThat(read("metadata/aiff_cue.aif").metadata().cues()).extracting(Cue::frame).containsExactly(1000L, 2500L, 7000L);
    }

    /// Written to another depth, every chunk of metadata has the bytes that it had.
    @ParameterizedTest @CsvSource({"metadata/wav_instrument.wav,data", "metadata/wav_cue.wav,data", "metadata/wav_instrument_cue.wav,data",
        "metadata/wav_bext.wav,data",
        "metadata/rf64_bext.wav,data", "metadata/wav_smpl_inst_cue_adtl.wav,data", "metadata/aiff_cue.aif,SSND",
        "metadata/aiff_inst_mark.aif,SSND"}) void factsAreWrittenBackByteForByte(String name, String audioId) throws Exception {
        SoundFile source = read(name);
        List<RawChunk> before = ChunkScanner.contents(source.path(), source.chunks(), audioId);
        double[][] planes = Sounds.readAll(source.open());
        Path written = Sounds.write(folder.resolve("again"), source.formatId(), source.rateHz(), Depth.INT_32, source.metadata(), before, planes);
        SoundFile again = SoundFormats.of(source).read(written);
        assertThat(again.metadata()).isEqualTo(source.metadata());
        List<RawChunk> after = ChunkScanner.contents(written, again.chunks(), audioId);
        for (RawChunk chunk : before)
            if (SoundFormats.of(source).role(chunk.id()) == ChunkRole.FACT) assertThat(after).as(name + " " + chunk.id()).contains(chunk);
    }

    static Stream<Map<String, String>> allMalformedSounds() {
        return Fixtures.table("manifest.tsv").stream().filter(r -> r.get("file").startsWith("malformed"));
    }

    /// One clear message, no exception text, no hang, nothing large allocated (the tests run in a small heap).
    @ParameterizedTest @MethodSource("allMalformedSounds") void malformedFilesGetOneClearMessage(Map<String, String> row) {
        Path path = Fixtures.path(row.get("file"));
        Gathered item = Assertions.assertTimeoutPreemptively(Duration.ofSeconds(5),
                () -> Gatherer.read(new Gathered(path, path.getFileName(), new Gathered.Content.Unread())));
        String message = switch (item.content()) {
            case Gathered.Content.Links(ablecrate.library.Playlist list) -> "Playlist: " + list.told();
            case Gathered.Content.Refused(_, String name, String reason) -> name + ": " + reason;
            case Gathered.Content.Sound(SoundFile file) -> String.join("; ", file.problems().stream().map(Problem::text).toList());
            case Gathered.Content.Instruments(InstrumentFile file) -> file.problems().isEmpty() ? "" : file.problems().getFirst().text();
            case Gathered.Content.Unread() -> "";
        };
        assertThat(message).isNotBlank().doesNotContain("Exception", "null", "java.").hasSizeLessThan(400);
    }

    @ParameterizedTest @CsvSource({"wav_truncated_data,1000", "wav_streamed_size0,2205", "wav_streamed_ffffffff,2205", "wav_odd_chunk_no_pad,2205",
        "wav_odd_data_no_pad,2205",
        "wav_chunk_past_end_before_data,2205", "wav_chunk_past_end_after_data,2205", "wav_smpl_4e9_loops,2205", "wav_loop_past_end,2205",
        "wav_loop_reversed,2205"}) void whatIsThereOfADamagedFileIsSaved(String name, long frames) throws Exception {
        SoundFile file = read("malformed/" + name + ".wav");
        assertThat(file.frames()).isEqualTo(frames);
        double[][] planes = Sounds.readAll(file.open());
        // The tone of the malformed files, 0.5 sin(2πn/100); the 8-bit one in its coarser steps.
        double tolerance = file.encoding().containerBytes() == 1 ? 0x1p-7 : 0x1p-15;
        for (int n = 0; n < frames; n++)
            assertThat(planes[0][n]).isCloseTo(0.5 * Math.sin(2 * Math.PI * n / 100), within(tolerance));
    }

    @Test void brokenLoopsAreLeftOutAndToldWithTheirPlace() throws Exception {
        SoundFile past = read("malformed/wav_loop_past_end.wav"), reversed = read("malformed/wav_loop_reversed.wav");
        assertThat(past.metadata().loops()).isEmpty();
        assertThat(past.problems()).singleElement().satisfies(p -> {
            assertThat(p.text()).contains("ends at frame 999999", "last frame 2204");
            assertThat(p.place()).startsWith("'smpl' chunk, byte ");
        });
        assertThat(reversed.problems()).extracting(Problem::text).singleElement().asString().contains("from frame 2000 to 100");
        assertThat(read("malformed/wav_smpl_4e9_loops.wav").metadata().loops()).hasSize(1);
        assertThat(read("malformed/wav_odd_data_no_pad.wav").metadata().loops()).extracting(Loop::frames).containsExactly(new FrameRange(100, 2000));
    }

    @ParameterizedTest @CsvSource({"playlist_named.mp3,playlist", "midi_named.wav,midi", "empty.wav,empty",
        "text_named.wav,text"}) void otherFilesAreNamedForWhatTheyAre(String name, String kind) throws Exception {
        assertThat(FileKind.of(Fixtures.path("malformed/" + name))).isInstanceOfSatisfying(FileKind.Other.class, o -> assertThat(o.id()).isEqualTo(kind));
    }

    @ParameterizedTest @CsvSource({"sfz_path_climb.sfz,sfz", "sf2_bad_bag_index.sf2,sf2"}) void instrumentsAreKnownHoweverDamaged(String name, String id)
            throws Exception {
        assertThat(InstrumentFormats.of(Fixtures.path("malformed/" + name))).hasValueSatisfying(f -> assertThat(f.id()).isEqualTo(id));
    }

    @Test void everyFixtureIsToldApartWithoutFault() throws Exception {
        try (Stream<Path> files = Files.walk(Fixtures.path("lossless").getParent())) {
            for (Path file : files.filter(Files::isRegularFile).toList())
                assertThat(FileKind.of(file)).as(file.toString()).isNotNull();
        }
    }

    /// The same packets in fragments, once with the first of them in front (libavformat 59.27.100, `frag_keyframe`, 50 ms each), once with all of them behind
    /// (`empty_moov+default_base_moof`).
    @ParameterizedTest @ValueSource(strings = {"made/fragments.m4a", "made/fragments_alone.m4a"}) void anMpeg4FileInFragmentsIsReadAsOneInOnePiece(String name)
            throws Exception {
        SoundFile whole = SoundFormats.byId("m4a").orElseThrow().read(Fixtures.path("lossless/x44_alac16.m4a")),
                inFragments = SoundFormats.byId("m4a").orElseThrow().read(Fixtures.path(name));
        assertThat(inFragments.problems()).isEmpty();
        assertThat(inFragments.frames()).isEqualTo(whole.frames());
        assertThat(Sounds.readAll(inFragments.open())).isDeepEqualTo(Sounds.readAll(whole.open()));
        byte[] bytes = Files.readAllBytes(Fixtures.path(name));
        Path cut = Files.write(folder.resolve("cut.m4a"), Arrays.copyOf(bytes, bytes.length * 2 / 3));
        SoundFile half = SoundFormats.byId("m4a").orElseThrow().read(cut);
        assertThat(half.frames()).isLessThan(whole.frames());
        assertThat(Sounds.readAll(half.open())[0]).startsWith(Arrays.copyOf(Sounds.readAll(whole.open())[0], 2000));
    }
}
