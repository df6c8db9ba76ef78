package ablecrate.codec.riff;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Broadcast;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Optional;
import java.util.stream.IntStream;

/// The `bext` chunk: 602 bytes, little-endian, then the coding history.
///
/// | offset | size | field |
/// |-------:|-----:|-------|
/// | 0 | 256 | description |
/// | 256 | 32 | originator |
/// | 288 | 32 | originatorReference |
/// | 320 | 10 | originationDate, yyyy-mm-dd |
/// | 330 | 8 | originationTime, hh:mm:ss |
/// | 338 | u64 | timeReference, frames since midnight |
/// | 346 | u16 | version |
/// | 348 | 64 | UMID (from version 1) |
/// | 412 | 5 × s16 | integrated loudness, range, max true peak, max momentary, max short-term, × 100 (version 2) |
/// | 422 | 180 | reserved |
/// | 602 | rest | coding history, lines end in CR LF |
///
/// Source: EBU Tech 3285, version 2 (2011), section 2.3. The value 7FFF says "not stated".
final class BextChunk {
    private static final int FIXED_BYTES = 602, TIME_REFERENCE_AT = 338, VERSION_AT = 346, LOUDNESS_AT = 412, NOT_STATED = 0x7FFF;

    private BextChunk() {}

    static Broadcast read(ChunkReader in) throws FormatException {
        String description = in.text(256, "description"), originator = in.text(32, "originator");
        String reference = in.text(32, "originatorReference"), date = in.text(10, "originationDate"), time = in.text(8, "originationTime");
        long timeReference = Math.max(0, in.s64("timeReference"));
        int version = in.u16("version");
        byte[] umid = in.array(64, "umid");
        int[] loudness = new int[5];
        boolean isStated = version >= 2;
        for (int i = 0; i < 5; i++) {
            loudness[i] = in.s16("loudness");
            isStated &= loudness[i] != NOT_STATED;
        }
        in.array(180, "reserved");
        String history = in.text(in.remaining(), "codingHistory");
        boolean hasUmid = !Arrays.equals(umid, new byte[64]);
        return new Broadcast(description, originator, reference, date, time, timeReference, version,
                hasUmid ? HexFormat.of().formatHex(umid) : "",
                isStated
                        ? Optional.of(new Broadcast.StatedLoudness(loudness[0] / 100.0, loudness[1] / 100.0, loudness[2] / 100.0,
                                loudness[3] / 100.0, loudness[4] / 100.0))
                        : Optional.empty(),
                history);
    }

    /// @param source the chunk of a source of the same format; all but the time reference and the loudness stays to the bit
    static byte[] write(Broadcast broadcast, Optional<Bytes> source) {
        if (source.isPresent() && source.get().size() >= FIXED_BYTES) {
            byte[] raw = source.get().toArray();
            byte[] time = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u64(broadcast.timeReferenceFrames()).toArray();
            System.arraycopy(time, 0, raw, TIME_REFERENCE_AT, time.length);
            // Figures that are stated in part only are nobody's claim; they stay.
            if (isStated(raw)) System.arraycopy(loudness(broadcast), 0, raw, LOUDNESS_AT, 10);
            return raw;
        }
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).text(broadcast.description(), 256).text(broadcast.originator(), 32)
                .text(broadcast.originatorReference(), 32).text(broadcast.originationDate(), 10).text(broadcast.originationTime(), 8)
                .u64(broadcast.timeReferenceFrames()).u16(broadcast.version())
                .bytes(broadcast.umidHex().isEmpty() ? new byte[64] : HexFormat.of().parseHex(broadcast.umidHex()));
        out.bytes(loudness(broadcast));
        return out.bytes(new byte[180]).text(broadcast.codingHistory(), broadcast.codingHistory().length() + 1).toArray();
    }

    private static byte[] loudness(Broadcast broadcast) {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN);
        double[] values = broadcast.loudness().map(l -> new double[]{l.integratedLufs(), l.rangeLu(), l.maxTruePeakDbtp(), l.maxMomentaryLufs(),
            l.maxShortTermLufs()}).orElse(new double[0]);
        for (int i = 0; i < 5; i++)
            out.u16(values.length == 0 ? broadcast.version() >= 2 ? NOT_STATED : 0 : (int) Math.rint(values[i] * 100));
        return out.toArray();
    }

    private static boolean isStated(byte[] chunk) {
        ByteBuffer fields = ByteBuffer.wrap(chunk).order(ByteOrder.LITTLE_ENDIAN);
        return fields.getShort(VERSION_AT) >= 2 && IntStream.range(0, 5).noneMatch(i -> fields.getShort(LOUDNESS_AT + 2 * i) == NOT_STATED);
    }
}
