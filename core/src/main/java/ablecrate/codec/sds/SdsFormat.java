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
import ablecrate.codec.chunk.FileBytes;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// MIDI sample dump as a file: the messages as they would be sent; the header ([DumpHeader]), then packets ([DumpPacket]), then what else is said of the
/// sound ([DumpExtension]).
public final class SdsFormat implements WrittenFormat {
    private static final List<Integer> COMMON_RATES = List.of(8000, 11_025, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 88_200, 96_000);
    /// Lengths have 21 bits; of 16-bit words that many bytes.
    private static final long MOST_BYTES = 2 * ((1L << 21) - 1);
    private static final int MOST_EXTENSION_BYTES = 1 << 14;
    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.of(Depth.INT_8, Depth.INT_12, Depth.INT_16, Depth.INT_24), 1, MOST_BYTES,
            new Capabilities.Loops(1, 0, EnumSet.of(LoopMode.FORWARD, LoopMode.ALTERNATING), false), Capabilities.FineTune.NONE, false, false,
            new Capabilities.GainDb(0, 0), 0, false, false, false, Set.of(), new Capabilities.Compressing(false, Set.copyOf(COMMON_RATES)));

    @Override public String id() { return "sds"; }

    @Override public String name() { return "MIDI sample dump"; }

    @Override public List<String> extensions() { return List.of("sds", "syx"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new SdsSink(shape, metadata, out);
    }

    @Override public boolean numbersSounds() { return true; }

    @Override public boolean recognises(byte[] head) { return DumpHeader.isHeader(head); }

    @Override public SoundFile read(Path path) throws IOException, FormatException {
        List<Problem> problems = new ArrayList<>();
        try (FileBytes file = new FileBytes(path)) {
            DumpHeader header = header(file);
            int rateHz = rateHz(header.periodNs()), packetWords = DumpPacket.words(header.bits());
            long packets = packets(file, problems, packetWords, rateHz), frames = Math.min(header.words(), packets * packetWords);
            if (frames == 0) throw new FormatException("the dump has no packet of audio", "", "It is incomplete; get it again.");
            if (frames < header.words()) problems.add(Losses.cut(frames, header.words(), rateHz));
            SoundMetadata metadata = metadata(header, following(file, DumpHeader.BYTES + packets * DumpPacket.BYTES, problems), frames, problems);
            SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.SIGNED, Math.ceilDiv(header.bits(), 8), header.bits(), ByteOrder.LITTLE_ENDIAN);
            return new SoundFile(path, file.size(), id(), "SDS", "PCM", encoding, rateHz, 1, frames,
                    new AudioPlace.Coded(Compression.lossless((long) header.bits() * rateHz), new SdsAudio(header.bits(), frames)), metadata, List.of(),
                    problems);
        }
    }

    private static DumpHeader header(FileBytes file) throws IOException, FormatException {
        byte[] head = file.read(0, DumpHeader.BYTES);
        String damaged = "The file is damaged; get it again.";
        if (head.length < DumpHeader.BYTES) throw new FormatException("the dump header has " + head.length + " of its 21 bytes", "", damaged);
        DumpHeader header = DumpHeader.read(head);
        if (header.fault().isPresent()) throw new FormatException(header.fault().get(), "dump header", damaged);
        return header;
    }

    private static SoundMetadata metadata(DumpHeader header, List<DumpExtension> more, long frames, List<Problem> problems) {
        List<Loop> loops = new ArrayList<>();
        add(header.loop(), header.words(), frames, loops, problems);
        SoundMetadata metadata = SoundMetadata.NONE;
        for (DumpExtension each : more)
            switch (each) {
            case DumpExtension.FurtherLoop loop -> {
                // Loop 0 is that of the header.
                if (loop.loop() > 0) add(loop.points(), header.words(), frames, loops, problems);
            }
            case DumpExtension.Name name -> metadata = metadata.withTexts(Map.of(TextField.NAME, name.text()));
            }
        return metadata.withLoops(loops);
    }

    private static void add(DumpHeader.LoopPoints points, int words, long frames, List<Loop> loops, List<Problem> problems) {
        if (points.kind() == DumpHeader.LoopPoints.OFF) return;
        // The end is inclusive in the dump.
        if (points.start() <= points.last() && points.last() < frames)
            loops.add(new Loop(new FrameRange(points.start(), points.last() + 1L),
                    points.kind() == DumpHeader.LoopPoints.ALTERNATING ? LoopMode.ALTERNATING : LoopMode.FORWARD, Loop.Use.SUSTAIN, 0, 0, 0));
        else
            if (points.last() > 0 && points.last() < words)
                problems.add(Problem.lost(
                        String.format(Locale.ROOT, "the loop at %,d…%,d is left out, its audio is missing", points.start(), points.last() + 1), ""));
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
        long packets = 0;
        for (;; packets++) {
            byte[] packet = file.read(DumpHeader.BYTES + packets * DumpPacket.BYTES, DumpPacket.BYTES);
            if (packet.length < DumpPacket.BYTES || (packet[0] & 0xFF) != 0xF0 || packet[1] != 0x7E || packet[3] != 2) break;
            if (!DumpPacket.isWhole(packet)) losses.add(packets * packetWords, (packets + 1) * packetWords);
        }
        problems.addAll(losses.problems(0, packets * packetWords));
        return packets;
    }

    /// What is said of the sound behind its packets.
    private static List<DumpExtension> following(FileBytes file, long at, List<Problem> problems) throws IOException {
        List<DumpExtension> all = DumpExtension.all(file.read(at, MOST_EXTENSION_BYTES));
        long behind = at + all.stream().mapToLong(e -> e.bytes().length).sum();
        if (DumpHeader.isHeader(file.read(behind, 4)))
            problems.add(Problem.lost("more sounds follow in the same file; only the first is read", String.format(Locale.ROOT, "byte %,d", behind)));
        return all;
    }
}
