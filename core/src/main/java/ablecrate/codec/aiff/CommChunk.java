package ablecrate.codec.aiff;

import ablecrate.audio.Depth;
import ablecrate.audio.SampleEncoding;
import ablecrate.audio.SampleEncoding.Kind;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;
import java.util.List;
import java.util.Locale;

/// The `COMM` chunk, big-endian.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | s16 | channels | |
/// | 2 | u32 | frames | |
/// | 6 | s16 | bits | 1…32, left-justified in whole bytes |
/// | 8 | 80-bit float | rate | frames per second |
/// | 18 | id | compression | AIFF-C only: `NONE`, `sowt`, `fl32`… |
/// | 22 | pstring | name | AIFF-C only |
///
/// Sources: AIFF 1.3, Common Chunk; AIFF-C draft (1991), Extended Common Chunk.
///
/// Quirks: floats come as `fl32` and as `FL32`; a rate may have a fraction (22 254.545… Hz of early computers).
record CommChunk(int channels, long frames, SampleEncoding encoding, int rateHz, String compression) {
    static CommChunk read(ChunkReader in, boolean isAifc, List<Problem> problems) throws FormatException {
        int channels = in.s16("channels");
        long frames = in.u32("frames");
        int bits = in.s16("bits");
        String ratePlace = in.place();
        double rate = ExtendedFloat.read(in.array(ExtendedFloat.BYTES, "rate"));
        String compression = isAifc ? in.id("compression") : "NONE";
        if (channels < 1) throw in.bad("the file says it has " + channels + " channels", "The header is damaged; get the file again.");
        if (!(rate >= 1 && rate <= 10_000_000))
            throw new FormatException(String.format(Locale.ROOT, "the file says its rate is %s Hz", Double.isNaN(rate) ? "not a number," : rate(rate)),
                    ratePlace, "The header is damaged; get the file again.");
        int rateHz = (int) Math.rint(rate);
        if (rate != rateHz) problems.add(Problem.note(String.format(Locale.ROOT, "the rate is %.3f Hz; taken as %d Hz", rate, rateHz), ratePlace));
        SampleEncoding encoding = switch (compression.toLowerCase(Locale.ROOT)) {
            case "none", "twos" -> integer(in, Kind.SIGNED, bits, ByteOrder.BIG_ENDIAN);
            case "sowt" -> integer(in, Kind.SIGNED, bits, ByteOrder.LITTLE_ENDIAN);
            case "raw " -> new SampleEncoding(Kind.UNSIGNED, 1, 8, ByteOrder.BIG_ENDIAN);
            case "in24" -> new SampleEncoding(Kind.SIGNED, 3, 24, ByteOrder.BIG_ENDIAN);
            case "in32" -> new SampleEncoding(Kind.SIGNED, 4, 32, ByteOrder.BIG_ENDIAN);
            case "fl32" -> new SampleEncoding(Kind.FLOAT, 4, 32, ByteOrder.BIG_ENDIAN);
            case "fl64" -> new SampleEncoding(Kind.FLOAT, 8, 64, ByteOrder.BIG_ENDIAN);
            default -> throw in.unsupported("the audio inside is compressed as '" + compression + "'", "This version cannot decode it; get it as PCM.");
        };
        return new CommChunk(channels, frames, encoding, rateHz, compression);
    }

    private static String rate(double rate) {
        return Double.isInfinite(rate) || Math.abs(rate) > 1e9 ? "beyond any real one:" + (rate < 0 ? " -" : " ") + "huge" : Double.toString(rate);
    }

    private static SampleEncoding integer(ChunkReader in, Kind kind, int bits, ByteOrder order) throws FormatException {
        if (bits < 1 || bits > 32) throw in.bad("samples of " + bits + " bits", "Expected 1 to 32; the header is damaged, get the file again.");
        return new SampleEncoding(kind, (bits + 7) / 8, bits, order);
    }

    /// For people: the coding by its name, and what the name means.
    String codec() {
        return switch (compression) {
            case "NONE", "twos", "in24", "in32" -> "PCM";
            case "sowt" -> "sowt (little-endian PCM)";
            case "raw " -> "PCM unsigned";
            default -> compression;
        };
    }

    static SampleEncoding encodingOf(Depth depth) {
        return new SampleEncoding(depth.isFloat() ? Kind.FLOAT : Kind.SIGNED, depth.bytes(), depth.bits(), ByteOrder.BIG_ENDIAN);
    }

    static byte[] write(OutputShape shape) {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.BIG_ENDIAN).u16(shape.channels()).u32(shape.frames()).u16(shape.depth().bits())
                .bytes(ExtendedFloat.write(shape.rateHz()));
        if (shape.depth().isFloat()) {
            String name = shape.depth() == Depth.FLOAT_32 ? "32-bit floating point" : "64-bit floating point";
            out.id(shape.depth() == Depth.FLOAT_32 ? "fl32" : "fl64").u8(name.length()).id(name); // 21 characters and the count: even
        }
        return out.toArray();
    }
}
