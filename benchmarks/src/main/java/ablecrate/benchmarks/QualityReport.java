package ablecrate.benchmarks;

import static ablecrate.Sounds.db;
import static ablecrate.Sounds.rms;
import static ablecrate.Sounds.signal;
import static ablecrate.Sounds.sine;

import ablecrate.Sounds;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.Dither;
import ablecrate.dsp.Quantiser;
import ablecrate.dsp.RateConverters;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Locale;

/// Prints how good conversion and dither are, as Markdown; with files as arguments, how clean the tone of 1 kHz in each is.
public final class QualityReport {
    private static final int[][] RATIOS = {{44100, 48000}, {48000, 44100}, {96000, 44100}, {44100, 96000}, {88200, 44100}, {48000, 32000}, {44100, 44101}};

    private QualityReport() {}

    public static void main(String[] files) throws Exception {
        if (files.length > 0) {
            for (String file : files)
                tone(Path.of(file));
            return;
        }
        System.out.println("| rates | 1 kHz against the ideal | 1 kHz THD+N | passband at 0.91 of Nyquist | above the new Nyquist |\n|---|---|---|---|---|");
        for (int[] ratio : RATIOS)
            row(ratio[0], ratio[1]);
        System.out.println("\n| depth | dither | noise against a full-scale sine | published |\n|---|---|---|---|");
        // 6.02 N + 1.76 dB, and 4.77 dB less with triangular dither: Lipshitz, Wannamaker, Vanderkooy, JAES 40(5), 1992.
        for (int bits : new int[]{16, 24}) {
            dither(bits, Dither.NONE, 6.02 * bits + 1.76);
            dither(bits, Dither.TPDF, 6.02 * bits + 1.76 - 4.77);
        }
    }

    private static double[] convert(double[] x, int from, int to) throws IOException {
        return Sounds.readAll(new RateConverters().convert(Sounds.source(from, x), to))[0];
    }

    private static void row(int from, int to) throws IOException {
        double[] y = convert(sine(1000, 0.5, from, 2 * from), from, to), ideal = sine(1000, 0.5, to, y.length), error = signal(y.length, n -> y[n] - ideal[n]);
        int start = to / 5, end = to * 9 / 5;
        double edgeHz = 0.91 * Math.min(from, to) / 2;
        double[] edge = convert(sine(edgeHz, 0.5, from, 2 * from), from, to);
        String above = "–";
        if (to < from) {
            double hz = Math.min(to / 2.0 + 950, from / 2.0 - 100);
            double[] x = sine(hz, 0.5, from, 2 * from);
            above = String.format(Locale.ROOT, "%.1f dB at %.0f Hz", db(rms(convert(x, from, to), start, end) / rms(x, from / 5, from * 9 / 5)), hz);
        }
        System.out.printf(Locale.ROOT, "| %,d → %,d | %.1f dB | %.1f dB | %+.4f dB | %s |%n", from, to, db(rms(error, start, end) / rms(ideal, start, end)),
                Sounds.residueDb(y, 1000, to, start, end), db(rms(edge, start, end) / rms(sine(edgeHz, 0.5, to, edge.length), start, end)), above);
    }

    private static void dither(int bits, Dither dither, double published) {
        int frames = 1 << 19;
        double step = Math.scalb(1.0, 1 - bits);
        double[] x = sine(997, 0.9, 48000, frames);
        double[][] y = {x.clone()};
        new Quantiser(dither, bits, 48000, 1).process(y, frames);
        double[] error = signal(frames, n -> Math.rint(y[0][n] / step) * step - x[n]);
        System.out.printf(Locale.ROOT, "| %d bit | %s | −%.2f dB | −%.2f dB |%n", bits, dither.label(), -db(rms(error, 0, frames) / Math.sqrt(0.5)), published);
    }

    private static void tone(Path path) throws Exception {
        if (!(FileKind.of(path) instanceof FileKind.Sound(var format))) throw new IllegalArgumentException(path + " is no sound");
        SoundFile file = format.read(path);
        double[] x = Sounds.readAll(file.open())[0];
        System.out.printf(Locale.ROOT, "%.1f%n",
                Sounds.residueDb(x, 1000, file.rateHz(), file.rateHz() / 5, Math.min(x.length, 2 * file.rateHz()) - file.rateHz() / 5));
    }
}
