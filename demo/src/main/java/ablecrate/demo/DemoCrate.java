package ablecrate.demo;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.codec.Bytes;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.codec.WrittenFormat;
import ablecrate.dsp.Dither;
import ablecrate.dsp.Quantiser;
import ablecrate.dsp.RateConverters;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Makes the crate: sounds of mixed formats, rates, depths and levels, and some files that must be refused or mended.
public final class DemoCrate {
    /// The folder that is made, below the one that is given.
    public static final String NAME = "The Clockwork Orchard";
    private static final double[] GLASS = {1, 2.756, 5.404, 8.933, 13.34}, TIN = {1, 1.47, 2.09, 2.56, 3.39, 4.08, 5.21},
            DRUM = {1, 1.594, 2.136, 2.653, 3.156};

    private final Path root;

    private DemoCrate(Path root) { this.root = root; }

    /// Writes the crate, or what of it is missing.
    /// @return its folder
    public static Path make(Path folder) throws IOException {
        Path root = folder.resolve(NAME), finished = root.resolve(".complete-3");
        if (Files.exists(finished)) return root;
        DemoCrate crate = new DemoCrate(root);
        List<Step> steps = List.of(crate::glassMarimba, crate::bottleOrgan, crate::tinKitchen, crate::windUpHarp, crate::orchardAtNight, crate::windmill,
                crate::overture, new DemoInstruments(root.resolve("Instruments"))::harp, new DemoInstruments(root.resolve("Instruments"))::bank,
                crate::needsAttention);
        try {
            steps.parallelStream().forEach(Step::runUnchecked);
        } catch (java.io.UncheckedIOException e) {
            throw e.getCause();
        }
        Files.writeString(finished, "");
        return root;
    }

    /// Makes the crate and prints its folder.
    /// @param arguments the folder that gets it
    public static void main(String[] arguments) throws IOException { System.out.println(make(Path.of(arguments[0]))); }

    private interface Step {
        void run() throws IOException;

        default void runUnchecked() {
            try {
                run();
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        }
    }

    private void glassMarimba() throws IOException {
        int[] keys = {48, 52, 56, 60, 64, 68, 72};
        String[] names = {"C3", "E3", "G#3", "C4", "E4", "G#4", "C5"};
        Span[] velocities = {new Span(1, 50), new Span(51, 95), new Span(96, 127)};
        double[] peaks = {-26, -15, -5};
        for (int k = 0; k < keys.length; k++)
            for (int layer = 0; layer < 3; layer++)
                for (int round = 1; round <= (layer == 1 ? 2 : 1); round++) {
                    Synth synth = new Synth(44100, 100 + k * 10L + layer * 3L + round);
                    double[] sound = Synth.peak(synth.strike(Synth.hertz(keys[k]), GLASS, 1.1, 0.15 + 0.35 * layer), peaks[layer]);
                    Mapping mapping = new Mapping(Optional.of(keys[k]), 0, Optional.of(new Span(k == 0 ? 0 : keys[k] - 2, k == 6 ? 127 : keys[k] + 1)),
                            Optional.of(velocities[layer]), Optional.of(0.0));
                    SoundMetadata metadata = SoundMetadata.NONE.withMapping(mapping).withTexts(Map.of(TextField.NAME, "Glass marimba " + names[k]));
                    write("Glass Marimba/glass_" + names[k] + "_v" + (layer + 1) + "_rr" + round + ".wav", 44100, Depth.INT_24, metadata, sound);
                }
    }

    private void bottleOrgan() throws IOException {
        // Loops of whole cycles; their lengths are such that some rates hit a whole frame and some do not.
        int[] keys = {48, 53, 57, 60, 65, 69, 72, 77};
        for (int i = 0; i < keys.length; i++) {
            int rate = i % 3 == 2 ? 48000 : 44100, cycles = 24 + 4 * i, loop = (int) Math.round(cycles * rate / Synth.hertz(keys[i])),
                    start = rate / 2 + 311 * i;
            double played = (double) cycles * rate / loop, cents = -1200 * Math.log(played / Synth.hertz(keys[i])) / Math.log(2);
            double[] sound = Synth.peak(new Synth(rate, 400 + i).bottle(start, loop, cycles, 0.3, 0.05), -9 - i % 3 * 3);
            List<Loop> loops = new ArrayList<>(List.of(Loop.sustain(new FrameRange(start, start + loop), i == 3 ? LoopMode.ALTERNATING : LoopMode.FORWARD)));
            if (i == 4) loops.add(new Loop(new FrameRange(start + loop, start + loop + 2000), LoopMode.FORWARD, Loop.Use.RELEASE, 0, 0, 0));
            boolean isAiff = i % 2 == 1;
            Mapping mapping = new Mapping(Optional.of(keys[i]), isAiff ? Math.rint(cents) : cents, Optional.of(new Span(Math.max(0, keys[i] - 2), keys[i] + 2)),
                    Optional.of(new Span(1, 127)), Optional.of(0.0));
            write("Bottle Organ/bottle_" + keys[i] + (isAiff ? ".aif" : ".wav"), rate, rate == 48000 ? Depth.INT_24 : Depth.INT_16,
                    SoundMetadata.NONE.withLoops(loops).withMapping(mapping), sound);
        }
        // A pair that was looped by hand, and not alike.
        for (int side = 0; side < 2; side++) {
            int loop = side == 0 ? 8820 : 8755, start = 22050 + side * 190;
            double[] sound = Synth.peak(new Synth(44100, 430 + side).bottle(start, loop, 26, 0.3, 0.07), -8);
            write("Bottle Organ/bottle_wide_55-" + (side == 0 ? "L" : "R") + ".wav", 44100, Depth.INT_16,
                    SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(start, start + loop), LoopMode.FORWARD)))
                            .withMapping(Mapping.NONE.withRootKey(Optional.of(55))),
                    sound);
        }
    }

    private void tinKitchen() throws IOException {
        String[] names = {"Ladle on Pot", "Lid, small", "Lid, large", "Kettle Drum (a kettle)", "Spoon Roll", "Sieve Shake", "Cake Tin Low", "Cake Tin High",
            "Whisk", "Sugar Pour",
            "Cork", "Oven Door", "Egg Timer", "Drawer Creak", "Pepper Mill", "Tea Strainer", "Ice Tongs", "Rolling Pin"};
        int[] rates = {44100, 48000, 44100, 96000, 44100, 22050, 32000, 44100, 48000, 44100, 88200, 44100, 22050, 48000, 44100, 44100, 11025, 44100};
        Depth[] depths = {Depth.INT_16, Depth.INT_24, Depth.INT_16, Depth.FLOAT_32, Depth.INT_24, Depth.INT_8, Depth.INT_16, Depth.INT_24, Depth.INT_24,
            Depth.INT_16, Depth.INT_24, Depth.INT_16,
            Depth.INT_8, Depth.INT_24, Depth.INT_32, Depth.INT_16, Depth.INT_8, Depth.FLOAT_64};
        double[] peaks = {-3, -18, -0.2, -31, -12, -6, -9, -24, -1, -40, -14, -0.1, -7, -11, -28, -5, -4, -20};
        for (int i = 0; i < names.length; i++) {
            Synth synth = new Synth(rates[i], 500 + i);
            double[] sound = switch (i % 6) {
                case 5, 3 -> i == 3 ? synth.strike(72, DRUM, 0.9, 0.5) : synth.noise(0.5, 5200, 0.8);
                case 2 -> i == 8 ? synth.noise(0.35, 3100, 1.5) : synth.strike(180 + 30 * i, TIN, 0.8, 0.9);
                case 1 -> i == 13 ? synth.creak(28, 90, 0.9) : synth.strike(620 + 90 * i, TIN, 0.5, 0.8);
                default -> synth.strike(240 + 75 * i, TIN, 0.45, 0.6);
            };
            if (i % 6 == 5 || i == 8)
                for (int n = 0; n < sound.length; n++)
                    sound[n] *= Math.exp(-6.0 * n / sound.length);
            Synth.peak(sound, peaks[i]);
            double[][] planes = i % 4 == 0 ? new double[][]{sound, Synth.peak(delayed(sound, 7), peaks[i] - 2)} : new double[][]{sound};
            write("Tin Kitchen/" + names[i] + (i % 5 == 4 ? ".aif" : ".wav"), rates[i], depths[i], SoundMetadata.NONE, planes);
        }
    }

    private static double[] delayed(double[] x, int frames) {
        double[] out = new double[x.length];
        System.arraycopy(x, 0, out, frames, x.length - frames);
        return out;
    }

    private void windUpHarp() throws IOException {
        String[] names = {"C2", "G2", "C3", "E3", "G3", "A#3", "C4", "E4", "G4", "C5"};
        int[] keys = {36, 43, 48, 52, 55, 58, 60, 64, 67, 72};
        for (int i = 0; i < keys.length; i++) {
            double[] sound = Synth.peak(new Synth(44100, 600 + i).pluck(Synth.hertz(keys[i]), 1.4, 0.5 + 0.04 * i), -4 - i);
            write("Wind-up Harp/harp " + names[i] + ".wav", 44100, Depth.INT_16, SoundMetadata.NONE, sound);
        }
    }

    private void orchardAtNight() throws IOException {
        int rate = 48000;
        double seconds = 24;
        Synth synth = new Synth(rate, 700);
        double[] left = synth.silence(seconds), right = synth.silence(seconds);
        double[] windL = synth.noise(seconds, 320, 0.7), windR = synth.noise(seconds, 340, 0.7);
        for (int n = 0; n < left.length; n++) {
            double swell = 0.35 + 0.3 * Math.sin(2 * Math.PI * n / (7.3 * rate)) + 0.15 * Math.sin(2 * Math.PI * n / (2.9 * rate));
            left[n] = 0.25 * swell * windL[n];
            right[n] = 0.25 * swell * windR[n];
        }
        for (int chirp = 0; chirp < 46; chirp++) {
            double at = 0.5 + chirp * 0.51 + 0.13 * (chirp % 3), pan = 0.5 + 0.4 * Math.sin(chirp);
            double[] cricket = synth.strike(4300 + 90 * (chirp % 5), new double[]{1, 1.02}, 0.09, 0.1);
            synth.add(left, cricket, at, 0.05 * (1 - pan));
            synth.add(right, cricket, at, 0.05 * pan);
        }
        List<Cue> cues = new ArrayList<>();
        for (int apple = 0; apple < 5; apple++) {
            double at = 3.2 + apple * 4.1;
            double[] thud = synth.strike(58 + 6 * apple, DRUM, 0.4, 0.4);
            synth.add(left, thud, at, 0.25);
            synth.add(right, thud, at + 0.0004, 0.2);
            cues.add(new Cue(apple + 1, Math.round(at * rate), 0, Optional.of("Apple " + (apple + 1) + " falls"), Optional.empty()));
        }
        Broadcast broadcast = new Broadcast("The Clockwork Orchard, act 2: orchard at night", "Puppet theatre sound dept", "ORCHARD-ATMO-02", "2026-05-12",
                "21:40:00",
                3_744_000_000L, 1, "", Optional.empty(), "A=PCM,F=48000,W=24,M=stereo\r\n");
        SoundMetadata metadata = SoundMetadata.NONE.withCues(cues).withBroadcast(Optional.of(broadcast)).withTexts(Map.of(TextField.NAME, "Orchard at night"));
        write("Atmospheres/orchard at night.wav", rate, Depth.INT_24, metadata, Synth.peak(left, -8), Synth.peak(right, -8.4));
        write("Atmospheres/orchard at dawn.wav", 96000, Depth.INT_24,
                metadata.withCues(List.of(new Cue(1, 96001, 0, Optional.of("First bird"), Optional.empty())))
                        .withBroadcast(Optional.of(broadcast.withTimeReference(7_488_000_001L))),
                Synth.peak(new Synth(96000, 701).noise(5, 700, 0.6), -14));
    }

    private void windmill() throws IOException {
        int rate = 44100;
        double beat = 60.0 / 96, seconds = 16 * beat;
        Synth synth = new Synth(rate, 800);
        double[] left = synth.silence(seconds), right = synth.silence(seconds);
        List<Cue> cues = new ArrayList<>();
        for (int step = 0; step < 32; step++) {
            double at = step * beat / 2;
            boolean isBeat = step % 2 == 0;
            double[] hit = step % 8 == 0 ? synth.strike(64, DRUM, 0.5, 0.7) : isBeat ? synth.strike(310, TIN, 0.2, 0.7) : synth.creak(40 + step, 70, 0.22);
            synth.add(left, hit, at, isBeat ? 0.6 : 0.25);
            synth.add(right, hit, at + 0.0003, isBeat ? 0.5 : 0.35);
            if (isBeat) cues.add(new Cue(step / 2 + 1, Math.round(at * rate), 0, Optional.of("beat " + (step / 2 + 1)), Optional.empty()));
        }
        SoundMetadata metadata = SoundMetadata.NONE.withCues(cues).withLoops(List.of(Loop.sustain(new FrameRange(0, left.length), LoopMode.FORWARD)));
        write("Rhythms/windmill 96 bpm.wav", rate, Depth.INT_16, metadata, Synth.peak(left, -2), Synth.peak(right, -2.5));
    }

    private void overture() throws IOException {
        int rate = 44100;
        double seconds = 11, bar = 60.0 / 96 * 3;
        int[] tune = {60, 64, 67, 72, 71, 67, 64, 62, 60, 67, 64, 60};
        for (int stem = 0; stem < 4; stem++) {
            Synth synth = new Synth(rate, 900 + stem);
            double[] left = synth.silence(seconds), right = synth.silence(seconds);
            for (int i = 0; i < tune.length; i++) {
                double at = 0.01 + i * bar / 2.2;
                double[] note = switch (stem) {
                    case 0 -> synth.pluck(Synth.hertz(tune[i]), 1.6, 0.6);
                    case 1 -> synth.strike(Synth.hertz(tune[i] + 12), GLASS, 0.9, 0.5);
                    case 2 -> synth.strike(i % 2 == 0 ? 70 : 420, i % 2 == 0 ? DRUM : TIN, 0.4, 0.6);
                    default -> synth.bottle(12000, 4410, (int) Math.round(4410 * Synth.hertz(tune[i] - 12) / rate), 0.3, 0.05);
                };
                double pan = 0.35 + 0.3 * (i % 2);
                synth.add(left, note, at, 1 - pan);
                synth.add(right, note, at, pan);
            }
            String name = List.of("harp", "glass", "kitchen", "bottles").get(stem);
            SoundMetadata metadata = SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, "Overture, " + name, TextField.COMMENT, "Starts on bar 1, 96 bpm"));
            double[][] planes = {Synth.peak(left, -6 + stem), Synth.peak(right, -6.5 + stem)};
            write("Overture Stems/overture " + name + (stem == 3 ? ".aif" : ".wav"), rate, Depth.INT_16, metadata, planes);
            mailed(stem, name, rate, metadata, planes);
        }
        Files.writeString(root.resolve(MAILED + "overture.m3u"),
                "#EXTM3U\n#EXTINF:11,Overture, harp\noverture harp.flac\n#EXTINF:11,Overture, glass\noverture glass.mp3\n"
                        + "#EXTINF:11,Overture, whole\nhttps://theatre.example/overture.mp3\n");
    }

    private static final String MAILED = "Overture, as mailed/";

    /// The same stems as they come by mail: each compressed in another way, one of them once more with a hole in it.
    private void mailed(int stem, String name, int rate, SoundMetadata metadata, double[][] planes) throws IOException {
        String file = MAILED + "overture " + name;
        switch (stem) {
            case 0 -> write(file + ".flac", rate, Depth.INT_16, metadata, planes);
            case 1 -> write(file + ".mp3", rate, Depth.FLOAT_32, metadata, planes);
            case 2 -> {
                try (FrameSource converted = new RateConverters().convert(new MemorySource(rate, planes), 48_000)) {
                    double[][] at48 = new double[2][(int) converted.frames()];
                    converted.readFully(at48, 0, at48[0].length);
                    write(file + ".opus", 48_000, Depth.FLOAT_32, metadata, at48);
                }
                Path damaged = write(file + ", damaged.mp3", rate, Depth.FLOAT_32, metadata, planes);
                byte[] bytes = Files.readAllBytes(damaged);
                Arrays.fill(bytes, bytes.length * 2 / 5, bytes.length * 2 / 5 + 6000, (byte) 0x55);
                Files.write(damaged, bytes);
            }
            // No library at hand codes AAC; this stem was coded once, by libavcodec.
            default -> {
                try (InputStream coded = DemoCrate.class.getResourceAsStream("overture bottles.m4a")) {
                    Files.write(root.resolve(file + ".m4a"), coded.readAllBytes());
                }
            }
        }
    }

    /// What must be refused, and what can be mended.
    private void needsAttention() throws IOException {
        Path folder = root.resolve("Odds and Ends");
        Files.createDirectories(folder);
        Files.writeString(folder.resolve("overture mixdown.mp3"),
                "#EXTM3U\n#EXTINF:11,Overture\n../Overture Stems/overture harp.wav\n../Overture Stems/overture glass.wav\n");
        Files.writeString(folder.resolve("stage notes.txt"), "Act 2: the windmill starts before the curtain. Bring the spare bottle in C.\n");
        byte[] midi = {'M', 'T', 'h', 'd', 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 'M', 'T', 'r', 'k', 0, 0, 0, 12, 0, (byte) 0x90, 60, 100, 96, (byte) 0x80, 60, 0, 0,
            (byte) 0xFF, 0x2F, 0};
        Files.write(folder.resolve("windmill theme.wav"), midi);
        Files.write(folder.resolve("silence (lost).wav"), new byte[0]);

        Synth synth = new Synth(48000, 950);
        double[] curtain = Synth.peak(synth.noise(1.2, 900, 0.5), -12);
        Path cut = write("Odds and Ends/curtain, cut off.wav", 48000, Depth.INT_24, SoundMetadata.NONE, curtain);
        byte[] whole = Files.readAllBytes(cut);
        Files.write(cut, Arrays.copyOf(whole, whole.length * 2 / 3));

        double[] lantern = Synth.peak(synth.strike(520, TIN, 1.6, 0.4), -9);
        for (int click : new int[]{9000, 24_000, 41_000})
            for (int i = click; i < click + 12; i++)
                lantern[i] += i % 2 == 0 ? 0.5 : -0.4;
        write("Odds and Ends/lantern, clicks.wav", 48000, Depth.INT_24, SoundMetadata.NONE, lantern);

        double[] moth = Synth.peak(synth.strike(1900, GLASS, 0.6, 0.3), -16);
        SoundMetadata pastTheEnd = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(9000, 60_000), LoopMode.FORWARD)));
        write("Odds and Ends/moth, loop too long.wav", 48000, Depth.INT_24, pastTheEnd, moth);
        RawChunk unknown = new RawChunk("orch", Bytes.of("winding: 14 turns".getBytes(StandardCharsets.US_ASCII)));
        WholeSound.write(root.resolve("Odds and Ends/clockwork key.wav"), SoundFormats.written("wav").orElseThrow(), 44100, Depth.INT_16, SoundMetadata.NONE,
                List.of(unknown),
                new double[][]{Synth.peak(synth.creak(60, 130, 0.8), -10)});

        double[][] surround = new double[6][];
        for (int channel = 0; channel < 6; channel++)
            surround[channel] = Synth.peak(new Synth(48000, 960 + channel).noise(1.0, 200 + 150 * channel, 0.8), -20);
        write("Odds and Ends/orchard, six loudspeakers.wav", 48000, Depth.INT_16, SoundMetadata.NONE, surround);
    }

    private static WrittenFormat format(String name) {
        String extension = name.substring(name.lastIndexOf('.') + 1);
        return SoundFormats.WRITTEN.stream().filter(f -> f.id().equals(extension) || f.extensions().contains(extension)).findFirst().orElseThrow();
    }

    private Path write(String name, int rateHz, Depth depth, SoundMetadata metadata, double[]... planes) throws IOException {
        if (!depth.isFloat()) new Quantiser(Dither.TPDF, depth.bits(), rateHz, planes.length).process(planes, planes[0].length);
        Path file = root.resolve(name);
        WholeSound.write(file, format(name), rateHz, depth, metadata, List.of(), planes);
        return file;
    }
}
