package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;

/// A WAV file as devices with cards hold it, in memory.
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
        WaveFile wave = WaveFile.open(file, (code, rate, bits, channels) -> {
            if (!WaveFile.isPcm(code)) throw new Refused("only PCM is played, this is format " + code);
            if (!limits.bits().contains(bits)) throw new Refused(bits + " bit; plays " + limits.bits().stream().sorted().toList());
            if (!limits.ratesHz().contains(rate)) throw new Refused(rate + " Hz; plays " + limits.ratesHz().stream().sorted().toList());
            if (channels < 1 || channels > limits.channels()) throw new Refused(channels + " channels; plays up to " + limits.channels());
        });
        if (limits.seconds() > 0 && wave.frames() > limits.seconds() * wave.rateHz()) throw new Refused("longer than " + (int) limits.seconds() + " s");
        return new CardWave(wave.read(0, (int) wave.frames()), wave.rateHz(), wave.bits());
    }
}
