package ablecrate.codec.aac;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.BitReader;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.PacketTable;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.codec.tags.Id3;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// AAC without a container: packets with a header each. Read only.
///
/// | bits | field |
/// |-----:|-------|
/// | 12 | sync, all ones |
/// | 4 | version, layer (0), 1 if no CRC follows |
/// | 2 | profile, less one |
/// | 4 | rate: a table |
/// | 1 | private |
/// | 3 | channels |
/// | 4 | of no interest here |
/// | 13 | bytes of the packet, header included |
/// | 13 | fullness, packets in it less one |
///
/// Source: ISO/IEC 13818-7, section 6.2.
public final class AdtsFormat implements SoundFormat {
    private static final int HEADER_BYTES = 7, LIKELY_DELAY = 1024, MOST_PACKETS = 1 << 26;

    @Override public String id() { return "aac"; }

    @Override public String name() { return "AAC"; }

    @Override public List<String> extensions() { return List.of("aac", "adts"); }

    @Override public boolean recognises(byte[] head) { return Header.read(head).isPresent(); }

    private record Header(int profile, int rateIndex, int channels, int headerBytes, int bytes) {
        static Optional<Header> read(byte[] raw) {
            if (raw.length < HEADER_BYTES || (raw[0] & 0xFF) != 0xFF || (raw[1] & 0xF6) != 0xF0) return Optional.empty();
            BitReader in = new BitReader(raw);
            in.skip(15);
            boolean hasCrc = !in.flag();
            int profile = in.bits(2) + 1, rate = in.bits(4);
            in.skip(1);
            int channels = in.bits(3);
            in.skip(4);
            int bytes = in.bits(13), headerBytes = hasCrc ? HEADER_BYTES + 2 : HEADER_BYTES;
            return AacConfig.rateHz(rate) > 0 && channels > 0 && bytes > headerBytes
                    ? Optional.of(new Header(profile, rate, channels, headerBytes, bytes))
                    : Optional.empty();
        }

        boolean goesWith(Header other) { return profile == other.profile && rateIndex == other.rateIndex && channels == other.channels; }

        /// 5 bits of profile, 4 of rate, 4 of channels.
        Bytes config() { return Bytes.of((byte) (profile << 3 | rateIndex >> 1), (byte) (rateIndex << 7 | channels << 3)); }
    }

    @Override public SoundFile read(Path path) throws IOException, FormatException {
        List<Problem> problems = new ArrayList<>();
        List<ChunkInfo> chunks = new ArrayList<>();
        SoundMetadata metadata = SoundMetadata.NONE;
        try (FileBytes file = new FileBytes(path)) {
            int tag = Id3.length(file.read(0, Id3.HEADER_BYTES));
            if (tag > 0) {
                metadata = metadata.withTexts(Map.copyOf(Id3.read(file.read(0, tag)).texts()));
                chunks.add(new ChunkInfo("ID3v2", 0, tag));
            }
            List<Long> places = new ArrayList<>();
            List<Integer> sizes = new ArrayList<>();
            Header kind = null;
            long at = tag, lostAt = -1, passedOver = 0, bytes = 0;
            while (at + HEADER_BYTES <= file.size() && places.size() < MOST_PACKETS) {
                Optional<Header> header = Header.read(file.read(at, HEADER_BYTES));
                long next = header.map(Header::bytes).orElse(0) + at;
                boolean isPacket = header.isPresent() && (kind == null || kind.goesWith(header.get())) && next <= file.size()
                        && (next + HEADER_BYTES > file.size() || Header.read(file.read(next, HEADER_BYTES)).isPresent());
                if (!isPacket) {
                    if (lostAt < 0) lostAt = at;
                    passedOver++;
                    at++;
                    continue;
                }
                kind = header.get();
                places.add(at + kind.headerBytes());
                sizes.add(kind.bytes() - kind.headerBytes());
                bytes += kind.bytes();
                at = next;
            }
            if (kind == null) throw new FormatException("no packet of AAC is whole", "", "The file is damaged or no audio; get it again.");
            if (passedOver > 0)
                problems.add(Problem.lost(String.format(Locale.ROOT, "%,d bytes are no audio and are passed over", passedOver),
                        String.format(Locale.ROOT, "byte %,d", lostAt)));
            PacketTable packets = PacketTable.of(places.stream().mapToLong(Long::longValue).toArray(), sizes.stream().mapToInt(Integer::intValue).toArray());
            AacAudio.Shape shape = AacAudio.probe(kind.config(), file, packets);
            int times = shape.frames() == 2 * LIKELY_DELAY ? 2 : 1, rateHz = AacConfig.rateHz(kind.rateIndex()) * times;
            long frames = (long) packets.packets() * shape.frames();
            Compression compression = new Compression(true, Math.round(8.0 * bytes * rateHz / frames),
                    new Compression.Start.Unknown((long) LIKELY_DELAY * times));
            return new SoundFile(path, file.size(), id(), "ADTS", times == 2 ? "HE-AAC" : "AAC-LC",
                    new SampleEncoding(SampleEncoding.Kind.FLOAT, 4, 32, ByteOrder.LITTLE_ENDIAN), rateHz, shape.channels(), frames,
                    new AudioPlace.Coded(compression, new AacAudio(kind.config(), shape.channels(), shape.frames(), packets)), metadata, chunks, problems);
        }
    }
}
