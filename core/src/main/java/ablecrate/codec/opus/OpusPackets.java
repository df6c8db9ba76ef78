package ablecrate.codec.opus;

import java.io.ByteArrayOutputStream;

/// Takes the packets of several streams apart that stand in one: all but the last say how long they are.
///
/// A packet is a byte that says how it is coded, whose lowest two bits tell how many frames there are, the frames' lengths, and the frames. One that
/// delimits itself has one length more, that of the last frame (of each, where all are alike) before the frames:
///
/// | bits | frames | lengths that stand there | one more |
/// |-----:|--------|--------------------------|----------|
/// | 0 | one | – | of the frame |
/// | 1 | two alike | – | of each |
/// | 2 | two | of the first | of the second |
/// | 3 | as the next byte says (6 bits; 0x40 padding follows, 0x80 each has a length) | of all but the last, or none | of the last, or of each |
///
/// A length is one byte below 252, else the second byte counts fours.
///
/// Source: RFC 6716, *Definition of the Opus Audio Codec* (2012), section 3 and appendix B.
final class OpusPackets {
    private static final int TWO_BYTES = 252, MANY = 48;

    private final byte[] bytes;
    private int at;

    OpusPackets(byte[] bytes) { this.bytes = bytes; }

    /// What is left: the last packet, which ends where all do.
    byte[] rest() { return java.util.Arrays.copyOfRange(bytes, at, bytes.length); }

    /// The next packet that delimits itself, without the length that only this needs.
    /// @return empty if it is damaged; what follows is then of no use
    byte[] delimited() {
        try {
            return next();
        } catch (IndexOutOfBoundsException | NegativeArraySizeException e) {
            at = bytes.length;
            return new byte[0];
        }
    }

    private byte[] next() {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        int coding = take(out);
        int frames = 1, padding = 0, lengths = 0;
        boolean haveLengths = false;
        switch (coding & 3) {
            case 1 -> frames = 2;
            case 2 -> {
                frames = 2;
                haveLengths = true;
            }
            case 3 -> {
                int count = take(out);
                frames = count & 0x3F;
                haveLengths = (count & 0x80) != 0;
                if ((count & 0x40) != 0)
                    for (int more = 255; more == 255;) {
                        more = take(out);
                        padding += more == 255 ? 254 : more;
                    }
            }
            default -> {}
        }
        if (frames == 0 || frames > MANY) throw new IndexOutOfBoundsException(frames + " frames");
        if (haveLengths)
            for (int i = 0; i < frames - 1; i++)
                lengths += length(out);
        int last = length(new ByteArrayOutputStream());
        int size = (haveLengths ? lengths + last : frames * last) + padding;
        java.util.Objects.checkFromIndexSize(at, size, bytes.length);
        out.write(bytes, at, size);
        at += size;
        return out.toByteArray();
    }

    private int take(ByteArrayOutputStream out) {
        int value = bytes[at++] & 0xFF;
        out.write(value);
        return value;
    }

    private int length(ByteArrayOutputStream out) {
        int first = take(out);
        return first < TWO_BYTES ? first : first + 4 * take(out);
    }
}
