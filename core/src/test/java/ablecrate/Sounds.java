package ablecrate;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntToDoubleFunction;
import java.util.stream.Stream;

/// Small builders of signals and files for tests, and the measuring of sines.
public final class Sounds {
    private Sounds() {}

    public static double[] sine(double hz, double amplitude, int rateHz, int frames) {
        return signal(frames, n -> amplitude * Math.sin(2 * Math.PI * hz * n / rateHz));
    }

    public static double[] signal(int frames, IntToDoubleFunction formula) {
        double[] plane = new double[frames];
        Arrays.setAll(plane, formula);
        return plane;
    }

    /// All WAVs below a folder, in the order of their paths.
    public static List<SoundFile> files(Path folder) throws IOException, FormatException {
        List<SoundFile> out = new ArrayList<>();
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.filter(f -> f.toString().endsWith(".wav")).sorted().toList())
                out.add(((FileKind.Sound) FileKind.of(file)).read(file));
        }
        return out;
    }

    public static double[][] readAll(FrameSource source) throws IOException {
        try (source) {
            double[][] planes = new double[source.channels()][Math.toIntExact(source.frames())];
            int got = source.readFully(planes, 0, planes[0].length);
            if (got != planes[0].length) throw new AssertionError(got + " of " + planes[0].length + " frames");
            return planes;
        }
    }

    /// A WAV or AIFF file of these planes.
    public static Path write(Path file, String formatId, int rateHz, Depth depth, SoundMetadata metadata, double[]... planes) throws IOException {
        return write(file, formatId, rateHz, depth, metadata, List.of(), planes);
    }

    public static Path write(Path file, String formatId, int rateHz, Depth depth, SoundMetadata metadata, List<RawChunk> chunks, double[]... planes)
            throws IOException {
        WholeSound.write(file, SoundFormats.written(formatId).orElseThrow(), rateHz, depth, metadata, chunks, planes);
        return file;
    }

    public static Path wav(Path file, int rateHz, Depth depth, double[]... planes) throws IOException {
        return write(file, "wav", rateHz, depth, SoundMetadata.NONE, planes);
    }

    public static FrameSource source(int rateHz, double[]... planes) { return new MemorySource(rateHz, planes); }

    public static double db(double ratio) { return 20 * Math.log10(ratio); }

    public static double rms(double[] x, int from, int to) {
        double sum = 0;
        for (int i = from; i < to; i++)
            sum += x[i] * x[i];
        return Math.sqrt(sum / (to - from));
    }

    /// What is left of `[from, to)` when the best-fitting sine of this frequency is taken out, against that sine, in dB: THD+N.
    public static double residueDb(double[] x, double hz, double rateHz, int from, int to) {
        double ss = 0, cc = 0, sc = 0, xs = 0, xc = 0;
        for (int i = from; i < to; i++) {
            double s = Math.sin(2 * Math.PI * hz * i / rateHz), c = Math.cos(2 * Math.PI * hz * i / rateHz);
            ss += s * s;
            cc += c * c;
            sc += s * c;
            xs += x[i] * s;
            xc += x[i] * c;
        }
        double det = ss * cc - sc * sc, a = (xs * cc - xc * sc) / det, b = (xc * ss - xs * sc) / det;
        double rest = 0, fit = 0;
        for (int i = from; i < to; i++) {
            double y = a * Math.sin(2 * Math.PI * hz * i / rateHz) + b * Math.cos(2 * Math.PI * hz * i / rateHz);
            rest += (x[i] - y) * (x[i] - y);
            fit += y * y;
        }
        return 10 * Math.log10(rest / fit);
    }
}
