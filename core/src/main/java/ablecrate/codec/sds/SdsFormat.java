package ablecrate.codec.sds;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.Losses;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.OutputShape;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundSink;
import ablecrate.codec.Capabilities;
import ablecrate.audio.Depth;
import ablecrate.codec.WrittenFormat;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/// MIDI sample dump as a file: the header message, then packets.
///
/// Header, 21 bytes; numbers of three bytes have 7 bits each, least first:
///
/// | offset | field | meaning |
/// |-------:|-------|---------|
/// | 0 | F0 7E cc 01 | dump header, channel cc |
/// | 4 | ss ss | number of the sound |
/// | 6 | ee | bits of a word, 8…28 |
/// | 7 | ff ff ff | period in ns |
/// | 10 | gg gg gg | length in words |
/// | 13 | hh hh hh | first word of the loop |
/// | 16 | ii ii ii | last word of the loop, inclusive |
/// | 19 | jj | 00 forward, 01 alternating, 7F none |
/// | 20 | F7 | |
///
/// Packet, 127 bytes: F0 7E cc 02 kk, 120 bytes of words, ll, F7; ll is the XOR of 7E cc 02 kk and the words. A word is unsigned and left-justified in
/// as many 7-bit bytes as it needs.
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard.
public final class SdsFormat implements WrittenFormat {
    static final int HEADER_BYTES = 21, PACKET_BYTES = 127, WORDS_AT = 5, WORD_BYTES = 120;
    private static final List<Integer> COMMON_RATES = List.of(8000, 11_025, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 88_200, 96_000);
    static final int NO_LOOP = 0x7F;
    /// Lengths have 21 bits; of 16-bit words that many bytes.
    private static final long MOST_BYTES = 2 * ((1L << 21) - 1);
    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.of(Depth.INT_16, Depth.INT_24), 1, MOST_BYTES,
            new Capabilities.Loops(1, 0, EnumSet.of(LoopMode.FORWARD, LoopMode.ALTERNATING), false), Capabilities.FineTune.NONE, false, false,
            new Capabilities.GainDb(0, 0), false, false, false, false, Set.of(), new Capabilities.Compressing(false, Set.copyOf(COMMON_RATES)));

    @Override public String id() { return "sds"; }

    @Override public String name() { return "MIDI sample dump"; }

    @Override public List<String> extensions() { return List.of("sds", "syx"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new SdsSink(shape, metadata, out);
    }

    @Override public boolean numbersSounds() { return true; }

    @Override public boolean recognises(byte[] head) { return head.length >= 4 && (head[0] & 0xFF) == 0xF0 && head[1] == 0x7E && head[3] == 1; }

    @Override public SoundFile read(Path path) throws IOException, FormatException {
        List<Problem> problems = new ArrayList<>();
        try (FileBytes file = new FileBytes(path)) {
            ChunkReader in = new ChunkReader("dump header", 0, file.read(0, HEADER_BYTES), ByteOrder.BIG_ENDIAN);
            in.array(6, "number");
            int bits = in.u8("bits"), periodNs = sevens(in), words = sevens(in), loopStart = sevens(in), loopLast = sevens(in), loopKind = in.u8("loop kind");
            if (bits < 8 || bits > 28) throw in.bad("words of " + bits + " bits, 8 to 28 exist", "The file is damaged; get it again.");
            if (periodNs < 100) throw in.bad("a period of " + periodNs + " ns", "The file is damaged; get it again.");
            int rateHz = rateHz(periodNs), packetWords = WORD_BYTES / Math.ceilDiv(bits, 7);
            long packets = packets(file, problems, packetWords, rateHz), frames = Math.min(words, packets * packetWords);
            if (frames == 0) throw new FormatException("the dump has no packet of audio", "", "It is incomplete; get it again.");
            if (frames < words) problems.add(Losses.cut(frames, words, rateHz));
            SoundMetadata metadata = SoundMetadata.NONE;
            // The end is inclusive in the dump.
            if (loopKind != NO_LOOP && loopStart <= loopLast && loopLast < frames)
                metadata = metadata
                        .withLoops(List.of(new Loop(new FrameRange(loopStart, loopLast + 1L), loopKind == 1 ? LoopMode.ALTERNATING : LoopMode.FORWARD,
                                Loop.Use.SUSTAIN, 0, 0, 0)));
            else
                if (loopKind != NO_LOOP && loopLast > 0 && loopLast < words && loopLast >= frames)
                    problems.add(
                            Problem.lost(String.format(Locale.ROOT, "the loop at %,d…%,d is left out, its audio is missing", loopStart, loopLast + 1), ""));
            SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.SIGNED, Math.ceilDiv(bits, 8), bits, ByteOrder.LITTLE_ENDIAN);
            return new SoundFile(path, file.size(), id(), "SDS", "PCM", encoding, rateHz, 1, frames,
                    new AudioPlace.Coded(Compression.lossless((long) bits * rateHz), new SdsAudio(bits, frames)), metadata, List.of(), problems);
        }
    }

    private static int sevens(ChunkReader in) throws FormatException {
        return in.u8("number") & 127 | (in.u8("number") & 127) << 7 | (in.u8("number") & 127) << 14;
    }

    /// Periods are whole nanoseconds, rounded by some and cut off by others: 44,100 Hz is 22,676 or 22,675.
    private static int rateHz(int periodNs) {
        for (int rate : COMMON_RATES)
            if (Math.round(1e9 / rate) == periodNs || (int) (1e9 / rate) == periodNs) return rate;
        return (int) Math.round(1e9 / periodNs);
    }

    /// @return how many whole packets follow the header
    private static long packets(FileBytes file, List<Problem> problems, int packetWords, int rateHz) throws IOException {
        Losses losses = new Losses(rateHz);
        long packets = 0, at = HEADER_BYTES;
        for (;; packets++, at += PACKET_BYTES) {
            byte[] packet = file.read(at, PACKET_BYTES);
            if (packet.length < PACKET_BYTES || (packet[0] & 0xFF) != 0xF0 || packet[1] != 0x7E || packet[3] != 2) break;
            int sum = 0;
            for (int i = 1; i < WORDS_AT + WORD_BYTES; i++)
                sum ^= packet[i];
            if ((sum & 127) != packet[WORDS_AT + WORD_BYTES]) losses.add(packets * packetWords, (packets + 1) * packetWords);
        }
        problems.addAll(losses.problems(0, packets * packetWords));
        byte[] next = file.read(at, 4);
        if (next.length == 4 && next[1] == 0x7E && next[3] == 1)
            problems.add(Problem.lost("more sounds follow in the same file; only the first is read", String.format(Locale.ROOT, "byte %,d", at)));
        return packets;
    }
}
