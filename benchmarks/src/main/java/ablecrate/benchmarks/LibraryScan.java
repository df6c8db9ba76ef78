package ablecrate.benchmarks;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameSource;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WholeSound;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/// A library of ten thousand files: how long the first look takes, and how long opening it again. Then how fast each codec is.
public final class LibraryScan {
    private static final int FILES = 10_000, FRAMES = 11_025, RATE = 44_100, CODEC_SECONDS = 120;
    private static final List<String> KINDS = List.of("wav", "flac", "mp3", "aiff", "opus");

    private LibraryScan() {}

    /// @param arguments `make FOLDER`, `scan FOLDER` or `codecs FOLDER`
    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createDirectories(Path.of(arguments[1]));
        switch (arguments[0]) {
            case "make" -> make(folder);
            case "scan" -> scan(folder);
            default -> codecs(folder);
        }
    }

    private static double[][] noise(int frames, long seed) {
        Random random = new Random(seed);
        double[][] planes = new double[2][frames];
        for (int i = 0; i < frames; i++) {
            double tone = 0.3 * Math.sin(i * 0.05) * Math.exp(-i / 9000.0 % 1);
            planes[0][i] = tone + 0.02 * random.nextGaussian();
            planes[1][i] = tone + 0.02 * random.nextGaussian();
        }
        return planes;
    }

    private static void make(Path folder) throws IOException {
        double[][] planes = noise(FRAMES, 1);
        for (String kind : KINDS) {
            boolean isLossy = SoundFormats.written(kind).orElseThrow().capabilities().compressing().isLossy();
            Path first = folder.resolve("a." + kind);
            WholeSound.write(first, SoundFormats.written(kind).orElseThrow(), kind.equals("opus") ? 48_000 : RATE, isLossy ? Depth.FLOAT_32 : Depth.INT_16,
                    SoundMetadata.NONE, List.of(), planes);
            for (int i = KINDS.indexOf(kind); i < FILES; i += KINDS.size()) {
                Path file = folder.resolve(String.format(Locale.ROOT, "folder %02d/sound %05d.%s", i / 200, i, kind));
                Files.createDirectories(file.getParent());
                Files.copy(first, file);
            }
            Files.delete(first);
        }
    }

    private static void scan(Path folder) throws IOException {
        long start = System.nanoTime();
        List<Gathered> found = Gatherer.find(List.of(folder), () -> false);
        long listed = System.nanoTime();
        try (Catalogue catalogue = new Catalogue(folder.resolveSibling("catalogue.sqlite"))) {
            long known = catalogue.files();
            long from = System.nanoTime();
            long sounds = Gatherer.readAll(found, catalogue).stream().filter(g -> g.sound().isPresent()).count();
            System.out.printf(Locale.ROOT, "| %,d sounds, %,d of them in the catalogue | %.2f s to list, %.2f s to read |%n", sounds, known,
                    (listed - start) / 1e9,
                    (System.nanoTime() - from) / 1e9);
        }
    }

    private static void codecs(Path folder) throws Exception {
        double[][] planes = noise(CODEC_SECONDS * 48_000, 2);
        for (String kind : KINDS) {
            boolean isLossy = SoundFormats.written(kind).orElseThrow().capabilities().compressing().isLossy();
            Path file = folder.resolve("two minutes." + kind);
            OutputShape shape = new OutputShape(48_000, 2, isLossy ? Depth.FLOAT_32 : Depth.INT_16, planes[0].length);
            double written = 0, read = 0;
            // The first rounds are the compiler's.
            for (int round = 0; round < 5; round++) {
                long start = System.nanoTime();
                try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file));
                        SoundSink sink = SoundFormats.written(kind).orElseThrow().sink(shape, SoundMetadata.NONE, List.of(), out, folder.resolve("spool"))) {
                    sink.write(planes, planes[0].length);
                    sink.finish();
                }
                long middle = System.nanoTime();
                SoundFile sound = SoundFormats.byId(kind).orElseThrow().read(file);
                double[][] block = new double[2][8192];
                try (FrameSource source = sound.open()) {
                    while (source.read(block, 0, 8192) > 0) {}
                }
                written = (middle - start) / 1e9;
                read = (System.nanoTime() - middle) / 1e9;
            }
            System.out.printf(Locale.ROOT, "| %s | %.0f × | %.0f × |%n", SoundFormats.byId(kind).orElseThrow().name(), CODEC_SECONDS / written,
                    CODEC_SECONDS / read);
        }
    }
}
