package ablecrate.codec.caf;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.Losses;
import ablecrate.codec.PacketTable;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.alac.AlacAudio;
import ablecrate.codec.alac.AlacConfig;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/// Reads the headers of one CAF file. All is big-endian: `caff`, version, flags, then chunks of an id, a 64-bit size (−1: up to the end) and
/// contents.
///
/// `desc`, always first:
///
/// | offset | type | field |
/// |-------:|------|-------|
/// | 0 | f64 | rateHz |
/// | 8 | id | format: `lpcm`, `alac` |
/// | 12 | u32 | flags of `lpcm`: 1 float, 2 little-endian |
/// | 16 | u32 | bytesPerPacket |
/// | 20 | u32 | framesPerPacket |
/// | 24 | u32 | channels |
/// | 28 | u32 | bits |
///
/// `data` starts with an edit count of 4 bytes. `pakt`: s64 packets, s64 frames, s32 priming, s32 remainder, then each packet's size in 7-bit
/// bytes, most significant first, all but the last with the top bit set. `info`: u32 count, then names and texts, zero-terminated.
final class CafReader {
    private static final int FIRST = 8, MAX_CONTENTS = 64 << 20, MOST_CHUNKS = 1000;

    private final Path path;
    private final List<Problem> problems = new ArrayList<>();
    private final List<ChunkInfo> chunks = new ArrayList<>();

    CafReader(Path path) { this.path = path; }

    private record Description(int rateHz, String format, long flags, int packetBytes, int channels, int bits) {}

    SoundFile read() throws IOException, FormatException {
        try (FileBytes file = new FileBytes(path)) {
            long missing = scan(file);
            Description desc = description(reader(file, find("desc")));
            ChunkInfo data = find("data");
            SoundMetadata metadata = SoundMetadata.NONE;
            for (ChunkInfo chunk : chunks)
                if (chunk.id().equals("info")) metadata = metadata.withTexts(texts(reader(file, chunk)));
            if (desc.format().equals("alac")) return alac(file, desc, data, metadata, missing);
            if (!desc.format().equals("lpcm"))
                throw FormatException.unsupported("the audio is coded as '" + desc.format().strip() + "', which is not read", "'desc' chunk",
                        "Bring it as WAV.");
            boolean isFloat = (desc.flags() & 1) != 0, isLittle = (desc.flags() & 2) != 0;
            int bytes = desc.packetBytes() / desc.channels();
            if (bytes * desc.channels() != desc.packetBytes() || bytes < 1 || desc.bits() > 8 * bytes || isFloat && bytes != 4 && bytes != 8
                    || !isFloat && (bytes > 4 || desc.bits() < 1))
                throw new FormatException(desc.bits() + " bits in " + desc.packetBytes() + " bytes for " + desc.channels() + " channels", "'desc' chunk",
                        "The file is damaged; get it again.");
            SampleEncoding encoding = new SampleEncoding(isFloat ? SampleEncoding.Kind.FLOAT : SampleEncoding.Kind.SIGNED, bytes,
                    isFloat ? 8 * bytes : desc.bits(),
                    isLittle ? ByteOrder.LITTLE_ENDIAN : ByteOrder.BIG_ENDIAN);
            long frames = Math.max(0, data.bytes() - 4) / desc.packetBytes();
            if (missing >= desc.packetBytes()) problems.add(Losses.cut(frames, frames + missing / desc.packetBytes(), desc.rateHz()));
            String codec = isFloat ? "float" : isLittle ? "PCM little-endian" : "PCM big-endian";
            return new SoundFile(path, file.size(), CafFormat.ID, "CAF", codec, encoding, desc.rateHz(), desc.channels(), frames,
                    new AudioPlace.Interleaved(data.at() + 4), metadata, chunks, problems);
        }
    }

    /// @return bytes of audio that the file claims and does not have
    private long scan(FileBytes file) throws IOException, FormatException {
        long missing = 0;
        for (long at = FIRST; at + 12 <= file.size() && chunks.size() < MOST_CHUNKS;) {
            ChunkReader head = new ChunkReader("chunk", at, file.read(at, 12), ByteOrder.BIG_ENDIAN);
            String id = head.id("id");
            long declared = head.s64("size"), from = at + 12, there = file.size() - from;
            if (declared < 0 || declared > there) {
                if (declared != -1 && id.equals("data")) missing = declared - there;
                declared = there;
            }
            chunks.add(new ChunkInfo(id, from, declared));
            at = from + declared;
        }
        return Math.max(0, missing);
    }

    private ChunkInfo find(String id) throws FormatException {
        return chunks.stream().filter(c -> c.id().equals(id)).findFirst()
                .orElseThrow(() -> new FormatException("the file has no '" + id + "' chunk", "", "It is incomplete; get it again."));
    }

    private static ChunkReader reader(FileBytes file, ChunkInfo chunk) throws IOException {
        return new ChunkReader(chunk.id(), chunk.at(), file.read(chunk.at(), (int) Math.min(chunk.bytes(), MAX_CONTENTS)), ByteOrder.BIG_ENDIAN);
    }

    private static Description description(ChunkReader in) throws FormatException {
        double rate = Double.longBitsToDouble(in.s64("rateHz"));
        String format = in.id("format");
        long flags = in.u32("flags"), packetBytes = in.u32("bytesPerPacket");
        in.u32("framesPerPacket");
        long channels = in.u32("channels"), bits = in.u32("bits");
        if (!(rate >= 1 && rate <= 10_000_000)) throw in.bad("a rate of " + rate + " Hz", "The file is damaged; get it again.");
        if (channels < 1 || channels > 0xFFFF || packetBytes > 8L * channels || format.equals("lpcm") && packetBytes == 0)
            throw in.bad(channels + " channels in " + packetBytes + " bytes", "The file is damaged; get it again.");
        return new Description((int) Math.round(rate), format, flags, (int) packetBytes, (int) channels, (int) Math.min(bits, 64));
    }

    private SoundFile alac(FileBytes file, Description desc, ChunkInfo data, SoundMetadata metadata, long missing) throws IOException, FormatException {
        AlacConfig config = AlacConfig.read(new ChunkReader("kuki", find("kuki").at(), cookie(file.read(find("kuki").at(), 64)), ByteOrder.BIG_ENDIAN));
        ChunkReader table = reader(file, find("pakt"));
        long packets = table.s64("packets"), claimed = table.s64("frames");
        table.u32("priming");
        table.u32("remainder");
        if (packets < 1 || packets > table.remaining())
            throw table.bad(packets + " packets in a table of " + table.remaining() + " bytes", "The file is damaged; get it again.");
        int[] sizes = new int[(int) packets];
        long at = data.at() + 4, held = 0;
        for (int i = 0; i < sizes.length; i++) {
            for (int b = 0x80; (b & 0x80) != 0;) {
                b = table.u8("size");
                sizes[i] = sizes[i] << 7 | b & 127;
            }
            if (sizes[i] < 0) throw table.bad("a packet of " + sizes[i] + " bytes", "The file is damaged; get it again.");
            at += sizes[i];
            if (at <= data.end()) held++;
        }
        if (held == 0) throw new FormatException("no packet of audio is whole", "'data' chunk", "The file is incomplete; get it again.");
        long all = Math.clamp(claimed, 1, packets * config.frameLength()), frames = held == packets ? all : held * config.frameLength();
        if (held < packets) problems.add(Losses.cut(frames, all, desc.rateHz()));
        int bytes = Math.ceilDiv(config.bitDepth(), 8);
        SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.SIGNED, bytes, config.bitDepth(), ByteOrder.LITTLE_ENDIAN);
        PacketTable places = PacketTable.contiguous(data.at() + 4, Arrays.copyOf(sizes, (int) held));
        return new SoundFile(path, file.size(), CafFormat.ID, "CAF", "ALAC", encoding, desc.rateHz(), config.channels(), frames,
                new AudioPlace.Coded(Compression.lossless((data.bytes() - 4) * 8 * desc.rateHz() / frames), new AlacAudio(config, places)), metadata, chunks,
                problems);
    }

    /// The settings alone, or wrapped into the atoms `frma` and `alac`.
    private static byte[] cookie(byte[] raw) {
        boolean isWrapped = raw.length >= 24 + 24 && new String(raw, 4, 4, StandardCharsets.ISO_8859_1).equals("frma");
        return isWrapped ? Arrays.copyOfRange(raw, 24, raw.length) : raw;
    }

    private static Map<TextField, String> texts(ChunkReader in) throws FormatException {
        Map<String, TextField> names = Map.of("title", TextField.NAME, "artist", TextField.ARTIST, "album", TextField.PRODUCT, "comments", TextField.COMMENT,
                "copyright", TextField.COPYRIGHT, "genre", TextField.GENRE, "year", TextField.DATE, "tempo", TextField.TEMPO, "key signature",
                TextField.MUSICAL_KEY, "encoding application", TextField.SOFTWARE);
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        in.u32("count");
        String[] parts = new String(in.array(in.remaining(), "texts"), StandardCharsets.UTF_8).split("\0", -1);
        for (int i = 0; i + 1 < parts.length; i += 2)
            if (names.containsKey(parts[i]) && !parts[i + 1].isBlank()) texts.put(names.get(parts[i]), parts[i + 1]);
        return texts;
    }
}
