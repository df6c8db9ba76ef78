package ablecrate.codec.mpeg;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/// Streams of random frames that use what encoders seldom do: all blocks, mixed ones, intensity stereo, all layers. No sound that anybody made.
final class MpegStream {
    private static final int STEREO = 0, JOINT = 1, MONO = 3;
    private static final int[] FIRST_BITS = {0, 0, 0, 0, 3, 1, 1, 1, 2, 2, 2, 3, 3, 3, 4, 4}, SECOND_BITS = {0, 1, 2, 3, 0, 1, 2, 3, 1, 2, 3, 1, 2, 3, 2, 3};

    /// Bits one after the other.
    private static final class Bits {
        private final StringBuilder all = new StringBuilder();

        void bits(int value, int count) {
            for (int bit = count - 1; bit >= 0; bit--)
                all.append(value >> bit & 1);
        }

        void append(Bits more) { all.append(more.all); }

        int length() { return all.length(); }

        byte[] bytes() {
            byte[] out = new byte[(all.length() + 7) / 8];
            for (int i = 0; i < all.length(); i++)
                out[i / 8] |= (byte) (all.charAt(i) - '0' << 7 - i % 8);
            return out;
        }
    }

    private final Random random;
    private final int version, layer, rateBits, kbpsBits, mode;
    private final MpegHeader header;
    private final Map<Integer, String[][]> words = new HashMap<>();

    /// @param version 1, 2 or 25
    MpegStream(long seed, int version, int layer, int rateBits, int kbpsBits, int mode) throws IOException {
        random = new Random(seed);
        this.version = version;
        this.layer = layer;
        this.rateBits = rateBits;
        this.kbpsBits = kbpsBits;
        this.mode = mode;
        header = MpegHeader.read(head(0), 0, 4).orElseThrow();
        try (InputStream in = Codebook.class.getResourceAsStream("codebooks.txt")) {
            List<String[]> rows = new ArrayList<>();
            int number = 0;
            for (String line : new String(in.readAllBytes(), StandardCharsets.US_ASCII).split("\n"))
                if (line.startsWith("table")) {
                    words.put(number, rows.toArray(String[][]::new));
                    rows.clear();
                    number = Integer.parseInt(line.substring(6));
                } else
                    if (!line.startsWith("#")) rows.add(line.split(" "));
            words.put(number, rows.toArray(String[][]::new));
        }
    }

    MpegHeader header() { return header; }

    private byte[] head(int extension) {
        int versionBits = version == 1 ? 3 : version == 2 ? 2 : 0;
        return new byte[]{-1, (byte) (0xE0 | versionBits << 3 | 4 - layer << 1 | 1), (byte) (kbpsBits << 4 | rateBits << 2),
            (byte) (mode << 6 | extension << 4)};
    }

    byte[] frames(int count) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int i = 0; i < count; i++) {
            int extension = mode == JOINT ? random.nextInt(4) : 0;
            byte[] head = head(extension);
            MpegHeader now = MpegHeader.read(head, 0, 4).orElseThrow();
            byte[] body = layer == 3 ? layer3(now) : lower(now), frame = Arrays.copyOf(head, now.bytes());
            System.arraycopy(body, 0, frame, 4, Math.min(body.length, frame.length - 4));
            out.write(frame);
        }
        return out.toByteArray();
    }

    /// Few bits to most subbands, as there is room for few.
    private byte[] lower(MpegHeader now) {
        Bits out = new Bits();
        int channels = now.channels(), bands = layer == 1 ? 32 : BitAllocation.bands(now), bound = now.isJoint() ? Math.min(bands, now.sharedBand()) : bands;
        int[][] steps = new int[2][32];
        int left = 8 * (now.bytes() - 4) - 700;
        for (int band = 0; band < bands; band++)
            for (int channel = 0; channel < (band < bound ? channels : 1); channel++) {
                int bits = layer == 1 ? 4 : Integer.numberOfTrailingZeros(BitAllocation.steps(now, band).length), code = random.nextInt(Math.min(1 << bits, 6));
                steps[channel][band] = layer == 1 ? code == 0 ? 0 : (2 << code) - 1 : BitAllocation.steps(now, band)[code];
                int cost = 36 * (Integer.SIZE - Integer.numberOfLeadingZeros(steps[channel][band]));
                if (cost > left) {
                    code = 0;
                    steps[channel][band] = 0;
                } else
                    left -= cost;
                out.bits(code, bits);
                if (band >= bound) steps[1][band] = steps[0][band];
            }
        int[][] shared = new int[2][32];
        for (int band = 0; band < bands && layer == 2; band++)
            for (int channel = 0; channel < channels; channel++)
                if (steps[channel][band] > 0) out.bits(shared[channel][band] = random.nextInt(4), 2);
        for (int band = 0; band < bands; band++)
            for (int channel = 0; channel < channels; channel++)
                for (int i = 0; steps[channel][band] > 0 && i < (layer == 1 ? 1 : new int[]{3, 2, 1, 2}[shared[channel][band]]); i++)
                    out.bits(15 + random.nextInt(40), 6);
        for (int read = 0; read < 12; read++)
            for (int band = 0; band < bands; band++)
                for (int channel = 0; channel < (band < bound ? channels : 1); channel++)
                    samples(out, steps[channel][band]);
        return out.bytes();
    }

    private void samples(Bits out, int steps) {
        if (steps == 0) return;
        if (layer == 2 && BitAllocation.isGrouped(steps))
            out.bits(random.nextInt(steps * steps * steps), steps == 3 ? 5 : steps == 5 ? 7 : 10);
        else
            for (int i = 0; i < (layer == 1 ? 1 : 3); i++)
                out.bits(random.nextInt(steps), Integer.SIZE - Integer.numberOfLeadingZeros(steps));
    }

    private byte[] layer3(MpegHeader now) {
        Bits side = new Bits(), main = new Bits();
        int channels = now.channels(), granules = version == 1 ? 2 : 1, room = 8 * (now.bytes() - 4 - now.sideBytes()) / granules / channels;
        side.bits(0, version == 1 ? 9 : 8);
        side.bits(0, version == 1 ? channels == 1 ? 5 : 3 : channels);
        int[] types = {random.nextInt(4), random.nextInt(4)};
        // Of long blocks the second granule may share scale factors with the first.
        boolean mayShare = types[0] != 2 && types[1] != 2;
        int[] shared = new int[channels];
        for (int channel = 0; channel < channels && version == 1; channel++)
            side.bits(shared[channel] = mayShare ? random.nextInt(16) : 0, 4);
        for (int granule = 0; granule < granules; granule++) {
            int type = types[granule], isMixed = type == 2 && version == 1 ? random.nextInt(2) : 0;
            for (int channel = 0; channel < channels; channel++)
                granule(side, main, now, type, isMixed, room, channel == 1 && now.isIntensity(), granule == 1 ? shared[channel] : 0);
        }
        byte[] first = side.bytes(), second = main.bytes(), all = Arrays.copyOf(first, first.length + second.length);
        System.arraycopy(second, 0, all, first.length, second.length);
        return all;
    }

    private void granule(Bits side, Bits main, MpegHeader now, int type, int isMixed, int room, boolean isPlaces, int shared) {
        int book = new int[]{1, 2, 5, 7, 10, 13, 15, 17, 26}[random.nextInt(9)],
                code = version == 1 ? random.nextInt(16) : random.nextInt(512);
        Bits bits = new Bits();
        BandLayout layout = BandLayout.of(now)[type != 2 ? BandLayout.LONG : isMixed == 1 ? BandLayout.MIXED : BandLayout.SHORT];
        factors(bits, type, code, layout, isPlaces, shared);
        int lines = 0, most = isPlaces ? 120 : 400;
        while (lines < most && bits.length() < room - 120) {
            pair(bits, book);
            lines += 2;
        }
        side.bits(bits.length(), 12);
        side.bits(lines / 2, 9);
        side.bits(150 + random.nextInt(20), 8);
        side.bits(code, version == 1 ? 4 : 9);
        boolean switches = type != 0;
        side.bits(switches ? 1 : 0, 1);
        if (switches) {
            side.bits(type, 2);
            side.bits(isMixed, 1);
            for (int region = 0; region < 2; region++)
                side.bits(book, 5);
            for (int window = 0; window < 3; window++)
                side.bits(random.nextInt(8), 3);
        } else {
            for (int region = 0; region < 3; region++)
                side.bits(book, 5);
            side.bits(random.nextInt(16), 4);
            side.bits(random.nextInt(8), 3);
        }
        if (version == 1) side.bits(random.nextInt(2), 1);
        side.bits(random.nextInt(2), 1);
        side.bits(0, 1);
        main.append(bits);
    }

    /// @param shared a bit for each group of bands of which nothing is said
    private void factors(Bits out, int type, int code, BandLayout layout, boolean isPlaces, int shared) {
        if (version == 1) {
            int told = type == 2 ? layout.bands() - 3 : 21, half = type == 2 ? told - 18 : 11;
            for (int band = 0; band < told; band++)
                if ((shared >> (band < 6 ? 3 : band < 11 ? 2 : band < 16 ? 1 : 0) & 1) == 0)
                    value(out, band < half ? FIRST_BITS[code] : SECOND_BITS[code], isPlaces);
            return;
        }
        int[] lengths, counts;
        if (isPlaces) {
            int c = code >> 1;
            if (c < 180) {
                lengths = new int[]{c / 36, c % 36 / 6, c % 6};
                counts = type == 2 ? new int[]{12, 12, 12} : new int[]{7, 7, 7};
            } else if (c < 244) {
                lengths = new int[]{(c - 180) >> 4, (c - 180) >> 2 & 3, c - 180 & 3};
                counts = type == 2 ? new int[]{12, 9, 9} : new int[]{6, 6, 6};
            } else {
                lengths = new int[]{(c - 244) / 3, (c - 244) % 3};
                counts = type == 2 ? new int[]{15, 12} : new int[]{8, 8};
            }
        } else {
            if (code < 400) {
                lengths = new int[]{(code >> 4) / 5, (code >> 4) % 5, code >> 2 & 3, code & 3};
                counts = type == 2 ? new int[]{9, 9, 9, 9} : new int[]{6, 5, 5, 5};
            } else if (code < 500) {
                int c = code - 400;
                lengths = new int[]{(c >> 2) / 5, (c >> 2) % 5, c & 3};
                counts = type == 2 ? new int[]{9, 9, 12} : new int[]{6, 5, 7};
            } else {
                lengths = new int[]{(code - 500) / 3, (code - 500) % 3};
                counts = type == 2 ? new int[]{18, 18} : new int[]{11, 10};
            }
        }
        for (int part = 0; part < counts.length; part++)
            for (int i = 0; i < counts[part]; i++)
                value(out, lengths[part], isPlaces);
    }

    private void value(Bits out, int bits, boolean isPlaces) {
        // Places above 7 stand for nothing in the first version; in the others the largest does, which decoders do not agree on.
        out.bits(random.nextInt(!isPlaces ? 1 << bits : version == 1 ? Math.min(1 << bits, 8) : Math.clamp((1 << bits) - 1, 1, 7)), bits);
    }

    private void pair(Bits out, int book) {
        String[][] table = words.get(book < 16 ? book : book < 24 ? 16 : 24);
        int x = random.nextInt(4) == 0 ? random.nextInt(table.length) : random.nextInt(2), y = random.nextInt(8) == 0 ? random.nextInt(table.length) : 0;
        for (char bit : table[x][y].toCharArray())
            out.bits(bit - '0', 1);
        int more = book < 16 ? 0 : Codebook.of(book).moreBits();
        for (int amount : new int[]{x, y}) {
            if (amount == 15 && more > 0) out.bits(random.nextInt(1 << more), more);
            if (amount > 0) out.bits(random.nextInt(2), 1);
        }
    }
}
