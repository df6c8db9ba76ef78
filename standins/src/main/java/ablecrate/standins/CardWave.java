package ablecrate.standins;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;

/// A WAV file as devices with cards read it: integer samples in a plain RIFF file. Chunks that are not known are passed over.
/// Source: IBM and Microsoft, *Multimedia Programming Interface and Data Specifications 1.0*, 1991.
/// @param planes `[channel][frame]`, full scale is 1
public record CardWave(double[][] planes, int rateHz, int bits) {
    private static final long MOST_BYTES = 1L << 30;

    /// What a device takes.
    record Limits(Set<Integer> ratesHz, Set<Integer> bits, int channels, double seconds) {}

    int frames() { return planes[0].length; }

    long bytes() { return (long) planes.length * frames() * bits / 8; }

    /// @throws Refused in the device's words
    static CardWave read(Path file, Limits limits) throws IOException, Refused {
        if (Files.size(file) > MOST_BYTES) throw new Refused("file too large");
        ByteBuffer all = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
        if (all.limit() < 12 || !id(all, 0).equals("RIFF") || !id(all, 8).equals("WAVE")) throw new Refused("not a WAV file");
        int channels = 0, rate = 0, bits = 0;
        for (int at = 12; at + 8 <= all.limit();) {
            String id = id(all, at);
            long size = Integer.toUnsignedLong(all.getInt(at + 4));
            if (at + 8 + size > all.limit()) throw new Refused("file is cut off in its '" + id + "' chunk");
            if (id.equals("fmt ")) {
                if (size < 16) throw new Refused("no format");
                int code = Short.toUnsignedInt(all.getShort(at + 8));
                if (code != 1 && code != 0xFFFE) throw new Refused("only PCM is played, this is format " + code);
                channels = all.getShort(at + 10);
                rate = all.getInt(at + 12);
                bits = all.getShort(at + 22);
                if (!limits.bits().contains(bits)) throw new Refused(bits + " bit; plays " + limits.bits().stream().sorted().toList());
                if (!limits.ratesHz().contains(rate)) throw new Refused(rate + " Hz; plays " + limits.ratesHz().stream().sorted().toList());
                if (channels < 1 || channels > limits.channels()) throw new Refused(channels + " channels; plays up to " + limits.channels());
            }
            if (id.equals("data")) {
                if (channels == 0) throw new Refused("no format before the audio");
                int width = bits / 8, frames = (int) (size / ((long) width * channels));
                if (frames == 0) throw new Refused("no audio");
                if (limits.seconds() > 0 && frames > limits.seconds() * rate) throw new Refused("longer than " + (int) limits.seconds() + " s");
                return new CardWave(samples(all, at + 8, channels, frames, width), rate, bits);
            }
            at += (int) Math.min(Integer.MAX_VALUE, 8 + size + (size & 1));
        }
        throw new Refused("no audio");
    }

    private static String id(ByteBuffer all, int at) { return new String(all.array(), at, 4, StandardCharsets.ISO_8859_1); }

    private static double[][] samples(ByteBuffer all, int start, int channels, int frames, int width) {
        double[][] planes = new double[channels][frames];
        int at = start;
        for (int frame = 0; frame < frames; frame++)
            for (int channel = 0; channel < channels; channel++, at += width)
                planes[channel][frame] = width == 2 ? all.getShort(at) / 32_768.0 : (all.get(at + 2) << 16 | (all.getShort(at) & 0xFFFF)) / 8_388_608.0;
        return planes;
    }
}
