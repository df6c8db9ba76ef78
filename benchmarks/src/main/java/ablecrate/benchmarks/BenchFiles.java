package ablecrate.benchmarks;

import ablecrate.audio.Depth;
import ablecrate.audio.PcmPacker;
import ablecrate.codec.OutputShape;
import ablecrate.codec.PcmLayout;
import ablecrate.codec.wav.WavFormat;
import ablecrate.instrument.SoundMetadata;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/// Writes the files that the comparison works on: `tone`, `long`, `shots`, `many`, or `hours N`, below a folder.
public final class BenchFiles {
    private static final int BLOCK = 1 << 16, ONE_SHOTS = 500, SMALL = 10_000;

    private BenchFiles() {}

    public static void main(String[] arguments) throws IOException {
        Path folder = Files.createDirectories(Path.of(arguments[0]));
        switch (arguments[1]) {
            case "tone" -> write(folder.resolve("tone.wav"), Depth.INT_24, 2, 2 * 44100, true);
            case "long" -> write(folder.resolve("long.wav"), Depth.INT_16, 2, 600L * 44100, false);
            case "hours" -> write(folder.resolve("hours.wav"), Depth.INT_16, 2, Long.parseLong(arguments[2]) * 3600 * 44100, false);
            case "shots" -> {
                for (int i = 0; i < ONE_SHOTS; i++)
                    write(folder.resolve("shot%03d.wav".formatted(i)), Depth.INT_16, 2, 2 * 44100, false);
            }
            case "many" -> {
                for (int i = 0; i < SMALL; i++)
                    write(folder.resolve("small%05d.wav".formatted(i)), Depth.INT_16, 1, 2000, false);
            }
            default -> throw new IllegalArgumentException(arguments[1]);
        }
    }

    private static void write(Path path, Depth depth, int channels, long frames, boolean isTone) throws IOException {
        PcmLayout layout = new WavFormat().layout(new OutputShape(44100, channels, depth, frames), SoundMetadata.NONE, List.of());
        PcmPacker packer = new PcmPacker(layout.encoding());
        double[][] block = new double[channels][BLOCK];
        byte[] packed = new byte[BLOCK * channels * layout.encoding().containerBytes()];
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(path), 1 << 17)) {
            out.write(layout.before().toArray());
            for (long at = 0; at < frames; at += BLOCK) {
                int n = (int) Math.min(BLOCK, frames - at);
                for (int i = 0; i < n; i++) {
                    double t = (at + i) / 44100.0;
                    for (int channel = 0; channel < channels; channel++)
                        block[channel][i] = isTone
                                ? 0.5 * Math.sin(2 * Math.PI * 1000 * t)
                                : 0.3 * Math.sin(2 * Math.PI * (220 + 110 * channel) * t) + 0.2 * Math.sin(6000 * t * (1 + 0.1 * Math.sin(t)));
                }
                packer.pack(block, n, packed);
                out.write(packed, 0, n * channels * layout.encoding().containerBytes());
            }
            out.write(layout.after().toArray());
        }
    }
}
