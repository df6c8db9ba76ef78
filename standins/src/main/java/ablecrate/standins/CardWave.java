package ablecrate.standins;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.ref.SoftReference;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/// A sound of a card: its header is known at once, its audio once it is played. Asked from any thread.
public final class CardWave {
    private static final long MOST_BYTES = 1L << 30;

    private final Path file;
    private final HostSound audio;
    private final int bits;
    private final WaveFile.Own own;
    /// Given back where memory is short.
    private SoftReference<double[][]> planes = new SoftReference<>(null);

    /// What a device takes.
    record Limits(Set<Integer> ratesHz, Set<Integer> bits, int channels, double seconds) {}

    /// @param own what it says of how it is played
    CardWave(Path file, HostSound audio, int bits, WaveFile.Own own) {
        this.file = file;
        this.audio = audio;
        this.bits = bits;
        this.own = own;
    }

    /// Where it lies.
    public Path file() { return file; }

    WaveFile.Own own() { return own; }

    int rateHz() { return audio.rateHz(); }

    int channels() { return audio.channels(); }

    int frames() { return (int) audio.frames(); }

    long bytes() { return (long) channels() * frames() * bits / 8; }

    /// `[channel][frame]`, full scale is 1
    /// @throws UncheckedIOException if the card is gone
    synchronized double[][] planes() {
        return Optional.ofNullable(planes.get()).orElseGet(() -> {
            try {
                double[][] read = audio.read(0, frames());
                planes = new SoftReference<>(read);
                return read;
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /// Its first loop.
    /// @throws Refused if it does not lie inside, or a device does not play its kind
    Preset.Loop loop(boolean alternates) throws Refused {
        Preset.Loop loop = own.loop();
        if (loop.end() == 0) return loop;
        if (own.loopType() != 0 && !(alternates && own.loopType() == 1)) throw new Refused("loop of type " + own.loopType());
        if (loop.start() < 0 || loop.end() <= loop.start() || loop.end() > frames())
            throw new Refused("loop " + loop.start() + " to " + loop.end() + " of " + frames() + " frames");
        return loop;
    }

    /// The highest peak of each of so many parts, 0 to 1, whatever channel it is in.
    /// @throws UncheckedIOException if the card is gone
    public double[] outline(int parts) {
        double[] peaks = new double[parts];
        for (double[] plane : planes())
            for (int i = 0; i < plane.length; i++) {
                int part = (int) ((long) i * parts / plane.length);
                peaks[part] = Math.max(peaks[part], Math.abs(plane[i]));
            }
        return peaks;
    }

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
        return new CardWave(file, wave, wave.bits(), wave.own());
    }
}
