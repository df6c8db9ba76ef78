package ablecrate.codec.mpeg;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Optional;

/// What the first frame of many MP3 files says of the stream instead of sound, big-endian, behind the side information:
///
/// | offset | type | field |
/// |-------:|------|-------|
/// | 0 | id | `Xing`, or `Info` at a constant bit rate |
/// | 4 | u32 | flags: 1 frames, 2 bytes, 4 table of places, 8 quality; each is there if its flag is set |
/// | 8 | u32 | frames of the stream, this one not counted |
/// | 12 | u32 | bytes of the stream, this one counted |
/// | 16 | 100 bytes | places of the hundredths of its length, in 256ths of its bytes |
/// | 116 | u32 | quality |
/// | 120 | 9 bytes | encoder, as text |
/// | 129 | u8 | method |
/// | 130 | u8 | low pass in 100 Hz |
/// | 131 | 8 bytes | levels |
/// | 139 | u8, u8 | flags; bit rate |
/// | 141 | 12 + 12 bits | frames that the encoder put before the sound, and after it |
/// | 144 | 12 bytes | of no interest here |
///
/// Source: common practice of encoders; offsets from memory, checked against files that libmp3lame wrote.
/// @param delay,padding −1 where the encoder does not say them
record InfoTag(long frames, int delay, int padding) {
    private static final int FRAMES = 1, BYTES = 2, PLACES = 4, QUALITY = 8, PLACES_BYTES = 100, DELAY_AT = 21;

    static Optional<InfoTag> read(MpegHeader header, byte[] frame) {
        int at = MpegHeader.BYTES + header.sideBytes();
        if (header.layer() != 3 || frame.length < at + 8) return Optional.empty();
        String id = new String(frame, at, 4, StandardCharsets.ISO_8859_1);
        if (!id.equals("Xing") && !id.equals("Info")) return Optional.empty();
        ByteBuffer in = ByteBuffer.wrap(frame);
        int flags = in.getInt(at + 4), next = at + 8;
        long frames = -1;
        if ((flags & FRAMES) != 0 && next + 4 <= frame.length) {
            frames = in.getInt(next) & 0xFFFF_FFFFL;
            next += 4;
        }
        next += ((flags & BYTES) != 0 ? 4 : 0) + ((flags & PLACES) != 0 ? PLACES_BYTES : 0) + ((flags & QUALITY) != 0 ? 4 : 0);
        // An encoder that says nothing leaves zeros here.
        if (next + DELAY_AT + 3 > frame.length || frame[next] == 0) return Optional.of(new InfoTag(frames, -1, -1));
        int b = next + DELAY_AT, delay = (frame[b] & 0xFF) << 4 | frame[b + 1] >> 4 & 15, padding = (frame[b + 1] & 15) << 8 | frame[b + 2] & 0xFF;
        return Optional.of(new InfoTag(frames, delay, padding));
    }
}
