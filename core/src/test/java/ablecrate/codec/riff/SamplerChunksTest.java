package ablecrate.codec.riff;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.Bytes;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Problem;
import ablecrate.codec.Quality;
import ablecrate.codec.RawChunk;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Byte by byte against the documents. Source: *Multimedia Programming Interface and Data Specifications 1.0* (1991);
/// *New Multimedia Data Types and Data Techniques* (1994); both from memory.
class SamplerChunksTest {
    private static ByteBuffer little(byte[] bytes) { return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN); }

    private static SmplChunk read(byte[] bytes, long frames, List<Problem> problems) throws Exception {
        return SmplChunk.read(new ChunkReader("smpl", 0, bytes, ByteOrder.LITTLE_ENDIAN), frames, problems);
    }

    /// 10⁹ / rate in nanoseconds: 22676 for 44.1 kHz, 20833 for 48 kHz.
    @ParameterizedTest @CsvSource({"44100,22676", "48000,20833", "96000,10417", "22050,45351"}) void theSamplePeriodIsTheRateInNanoseconds(int rateHz,
            long period) {
        assertThat(little(SmplChunk.EMPTY.with(Mapping.NONE, List.of(), rateHz).toBytes()).getInt(8)).isEqualTo((int) period);
    }

    /// A loop that plays frames 1000 … 1999 ends at 1999 on disk and at 2000 in the program.
    @Test void theEndOnDiskIsTheLastFramePlayed() throws Exception {
        Loop loop = Loop.sustain(new FrameRange(1000, 2000), LoopMode.ALTERNATING).withPlayCount(3);
        byte[] bytes = SmplChunk.EMPTY.with(Mapping.NONE, List.of(loop), 44100).toBytes();
        assertThat(bytes).hasSize(36 + 24);
        ByteBuffer b = little(bytes);
        assertThat(b.getInt(28)).as("loop count").isEqualTo(1);
        assertThat(new int[]{b.getInt(40), b.getInt(44), b.getInt(48), b.getInt(56)}).as("mode, start, end, play count").containsExactly(1, 1000, 1999, 3);
        List<Problem> problems = new ArrayList<>();
        assertThat(read(bytes, 2000, problems).loops()).containsExactly(loop);
        assertThat(problems).isEmpty();
    }

    /// The chunk tells how the sample sounds, the program what a player does: 25 cents sharp is fraction 0x40000000, and −25.
    @ParameterizedTest @CsvSource({"60,-25,60,40000000", "60,0,60,0", "60,25,59,BFFFFFFF", "61,-49.999,61,7FFF583A",
        "0,-10,0,1999999A"}) void fineTuningTurnsItsSign(int root, double cents, int note, String fraction) throws Exception {
        Mapping mapping = Mapping.NONE.withRootKey(Optional.of(root)).withFineTune(cents);
        byte[] bytes = SmplChunk.EMPTY.with(mapping, List.of(), 44100).toBytes();
        assertThat(little(bytes).getInt(12)).isEqualTo(note);
        long found = little(bytes).getInt(16) & 0xFFFF_FFFFL, wanted = Long.parseLong(fraction, 16);
        assertThat((double) found).isCloseTo(wanted, within(2.0));
        SmplChunk back = read(bytes, 1, new ArrayList<>());
        assertThat(back.rootKey()).contains(root);
        assertThat(back.fineTuneCents()).isCloseTo(cents, within(1e-6));
    }

    @Test void whatCannotBeALoopIsLeftOutAndTold() throws Exception {
        Loop good = Loop.sustain(new FrameRange(10, 20), LoopMode.FORWARD), far = Loop.sustain(new FrameRange(10, 900), LoopMode.FORWARD);
        byte[] bytes = SmplChunk.EMPTY.with(Mapping.NONE, List.of(good, far), 44100).toBytes();
        ByteBuffer b = little(bytes);
        b.putInt(28, 7); // claims more loops than it holds
        b.putInt(40, 9); // an unknown mode
        List<Problem> problems = new ArrayList<>();
        SmplChunk read = read(bytes, 100, problems);
        assertThat(read.loops()).singleElement().satisfies(l -> assertThat(l.mode()).isEqualTo(LoopMode.FORWARD));
        assertThat(problems).extracting(Problem::text).anyMatch(t -> t.contains("claims 7 loops and holds 2")).anyMatch(t -> t.contains("unknown mode 9"))
                .anyMatch(t -> t.contains("ends at frame 899, past the last frame 99"));
    }

    /// A second loop behind the first is the one after release; one inside of it is not.
    @Test void aLaterLoopIsTheOneAfterRelease() throws Exception {
        List<Loop> loops = List.of(Loop.sustain(new FrameRange(100, 200), LoopMode.FORWARD), Loop.sustain(new FrameRange(200, 300), LoopMode.FORWARD),
                Loop.sustain(new FrameRange(120, 150), LoopMode.FORWARD));
        assertThat(read(SmplChunk.EMPTY.with(Mapping.NONE, loops, 44100).toBytes(), 400, new ArrayList<>()).loops()).extracting(Loop::use)
                .containsExactly(Loop.Use.SUSTAIN, Loop.Use.RELEASE, Loop.Use.SUSTAIN);
    }

    /// Seven bytes: unshifted note, fine tune, gain, keys, velocities; what a player does, so the sign stays.
    @Test void theInstChunkHasSevenBytes() throws Exception {
        Mapping mapping = new Mapping(Optional.of(64), -25, Optional.of(new Span(60, 71)), Optional.of(new Span(1, 80)), Optional.of(-6.0));
        assertThat(InstChunk.of(mapping).toBytes()).containsExactly(64, -25, -6, 60, 71, 1, 80);
        InstChunk read = InstChunk.read(new ChunkReader("inst", 0, InstChunk.of(mapping).toBytes(), ByteOrder.LITTLE_ENDIAN));
        assertThat(read.keys()).isEqualTo(new Span(60, 71));
        assertThat(read.velocities()).isEqualTo(new Span(1, 80));
    }

    @Test void instHoldsWhatItCan() {
        Mapping extreme = new Mapping(Optional.empty(), 80, Optional.empty(), Optional.empty(), Optional.of(-400.0));
        assertThat(InstChunk.of(extreme).toBytes()).containsExactly(60, 50, -128, 0, 127, 1, 127);
    }

    /// What only these chunks can say is named, so that it can be told where it is lost.
    @Test void whatHasNoFieldIsNamed() {
        RawChunk date = text("ICRD", "2026"), again = text("ICMT", "second"), other = text("IXYZ", "odd");
        assertThat(InfoList.own(List.of(date, text("ICMT", "first"), again, other))).containsExactly("a second text 'ICMT' (second)", "text 'IXYZ' (odd)");
        byte[] region = ByteBuffer.allocate(26).order(ByteOrder.LITTLE_ENDIAN).putInt(1).putInt(500).put(20, (byte) 'v').put(21, (byte) 'e').array();
        assertThat(AssociatedData.own(List.of(new RawChunk("ltxt", Bytes.of(region)), new RawChunk("ltxt", Bytes.of(Arrays.copyOf(region, 20))))))
                .containsExactly("text of a region (ve)");
        assertThat(new SmplChunk(0, 0, 22_676, 60, 0, 25, 1, List.of(), Bytes.of((byte) 1, (byte) 2)).own()).containsExactly("2 bytes of a sampler's own data",
                "an SMPTE offset");
    }

    private static RawChunk text(String id, String text) { return new RawChunk(id, ListEntries.text(text)); }

    /// The fine tuning that pays for a loop's new length stands in both chunks.
    @Test void theInstrumentChunkFollowsTheTuning() {
        Mapping mapping = Mapping.NONE.withRootKey(Optional.of(60)).withFineTune(-20).withRanges(Optional.of(new Span(0, 127)), Optional.of(new Span(1, 127)))
                .withGain(Optional.of(-3.0));
        SoundMetadata metadata = SoundMetadata.NONE.withMapping(mapping);
        OutputShape shape = new OutputShape(44_100, 1, Depth.INT_16, 1000, Quality.DEFAULT);
        List<RawChunk> first = RiffMetadata.chunks(shape, metadata, List.of());
        assertThat(inst(first)[1]).isEqualTo((byte) -20);
        assertThat(inst(RiffMetadata.chunks(shape, metadata, first))[1]).isEqualTo((byte) -20);
        assertThat(inst(RiffMetadata.chunks(shape, SoundMetadata.NONE.withMapping(mapping.withFineTune(-35)), first))[1]).isEqualTo((byte) -35);
    }

    private static byte[] inst(List<RawChunk> chunks) {
        return chunks.stream().filter(c -> c.id().equals("inst")).findFirst().orElseThrow().contents().toArray();
    }

    /// Half a semitone up is half a semitone down from the key below, which is how the chunk is read (keys are counted from the lower one).
    @Test void halfASemitoneIsTheSameWrittenAndRead() throws Exception {
        Mapping half = Mapping.NONE.withRootKey(Optional.of(60)).tunedBy(50);
        SmplChunk back = read(SmplChunk.EMPTY.with(half, List.of(), 44_100).toBytes(), 1, new ArrayList<>());
        assertThat(back.rootKey()).isEqualTo(half.rootKey());
        assertThat(back.fineTuneCents()).isEqualTo(half.fineTuneCents());
    }

    /// An hour after midnight at 48 kHz is 172,800,000 frames, at 96 kHz 345,600,000; two hundred hours need the upper half.
    @ParameterizedTest @CsvSource({"172800000", "34560000000"}) void productionNotesFollowRateAndDepth(long frames) {
        String notes = "<BWFXML>\n<SCENE>Mill, käuzchen</SCENE><SPEED><FILE_SAMPLE_RATE>48000</FILE_SAMPLE_RATE><AUDIO_BIT_DEPTH>16</AUDIO_BIT_DEPTH>"
                + "<TIMESTAMP_SAMPLE_RATE>48000</TIMESTAMP_SAMPLE_RATE><TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>%d</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>"
                + "<TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO>%d</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO></SPEED></BWFXML>";
        OutputShape shape = new OutputShape(96_000, 1, Depth.INT_24, 1000, Quality.DEFAULT);
        byte[] before = String.format(notes, frames >>> 32, frames & 0xFFFF_FFFFL).getBytes(StandardCharsets.UTF_8);
        String after = new String(
                RiffMetadata.chunks(shape, SoundMetadata.NONE, List.of(new RawChunk("iXML", Bytes.of(before)))).getFirst().contents().toArray(),
                StandardCharsets.UTF_8);
        String expected = notes.replace(">48000<", ">96000<").replace(">16<", ">24<");
        assertThat(after).isEqualTo(String.format(expected, 2 * frames >>> 32, 2 * frames & 0xFFFF_FFFFL));
        String cut = new String(RiffMetadata.later(new RawChunk("iXML", Bytes.of(before)), 1000).contents().toArray(), StandardCharsets.UTF_8);
        assertThat(cut).as("what is cut off its start makes it later").isEqualTo(String.format(notes, frames + 1000 >>> 32, frames + 1000 & 0xFFFF_FFFFL));
    }
}
