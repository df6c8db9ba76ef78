package ablecrate.demo;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.MemorySource;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.MapFormat;
import ablecrate.instrument.About;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The crate's instruments: the wind-up harp as SFZ, with layers, round robins and release sounds, and a bank of the orchestra pit.
final class DemoInstruments {
    private static final int RATE = 44_100;
    private static final double[] GLASS = {1, 2.756, 5.404, 8.933};

    private final Path folder;

    DemoInstruments(Path folder) { this.folder = folder; }

    void harp() throws IOException {
        int[] keys = {40, 45, 50, 55, 60, 65, 70, 75};
        List<String> paths = new ArrayList<>();
        List<Zone> soft = new ArrayList<>(), hard = new ArrayList<>(), release = new ArrayList<>();
        Files.createDirectories(folder.resolve("harp sounds"));
        for (int i = 0; i < keys.length; i++) {
            Span span = new Span(i == 0 ? 36 : keys[i] - 2, i == keys.length - 1 ? 84 : keys[i] + 2);
            for (int layer = 0; layer < 2; layer++)
                for (int turn = 1; turn <= 1 + layer; turn++) {
                    double[] sound = Synth.peak(new Synth(RATE, 1000 + i * 10L + layer * 3L + turn).pluck(Synth.hertz(keys[i]), 1.6, 0.35 + 0.3 * layer),
                            -16 + 10 * layer);
                    Zone zone = add(paths, NoteName.of(keys[i]) + (layer == 0 ? " soft" : " hard " + turn), sound).with(Parameter.KEYS, span)
                            .with(Parameter.ROOT_KEY, keys[i])
                            .with(Parameter.RELEASE, 0.4);
                    if (layer == 0)
                        soft.add(zone.with(Parameter.VELOCITIES, new Span(1, 84)).with(Parameter.VELOCITY_FADE_OUT, Optional.of(new Span(70, 84))));
                    else
                        hard.add(zone.with(Parameter.VELOCITIES, new Span(70, 127)).with(Parameter.VELOCITY_FADE_IN, Optional.of(new Span(70, 84)))
                                .with(Parameter.TURN, new Turn(turn, 2)));
                }
        }
        double[] click = Synth.peak(new Synth(RATE, 1090).noise(0.06, 2400, 1.2), -30);
        release.add(
                add(paths, "pawl", click).with(Parameter.KEYS, new Span(36, 84)).with(Parameter.TRIGGER, Trigger.RELEASE).with(Parameter.KEY_TRACKING, 0.0));
        About about = new About("Wind-up Harp", "plucked", "Sound department", "A harp wound up by a key, for the second act", "harp, clockwork",
                "for the company's own use");
        Instrument harp = new Instrument(about, Optional.empty(),
                List.of(new ZoneGroup("soft", soft), new ZoneGroup("hard", hard), new ZoneGroup("pawl", release)));
        InstrumentCapabilities can = format("sfz").capabilities();
        Files.write(folder.resolve("wind-up harp.sfz"), ((MapFormat) format("sfz")).write(harp.mapZones(z -> List.of(can.fit(z))), paths));
    }

    private Zone add(List<String> paths, String name, double[] sound) throws IOException {
        WholeSound.write(folder.resolve("harp sounds").resolve(name + ".wav"), SoundFormats.written("wav").orElseThrow(), RATE, Depth.INT_16,
                SoundMetadata.NONE,
                List.of(),
                new double[][]{sound});
        paths.add("harp sounds/" + name + ".wav");
        return Zone.of(paths.size() - 1);
    }

    void bank() throws IOException {
        Files.createDirectories(folder);
        List<BankFormat.BankSound> sounds = new ArrayList<>();
        List<double[][]> planes = new ArrayList<>();
        List<Instrument> instruments = List.of(organ(sounds, planes), glass(sounds, planes), kit(sounds, planes));
        BankFormat bank = (BankFormat) format("sf2");
        try (OutputStream out = Files.newOutputStream(folder.resolve("orchestra pit.sf2"))) {
            bank.write(out, About.named("Orchestra pit").with(About.Field.CREATOR, "Sound department"), instruments.stream()
                    .map(i -> i.mapZones(z -> List.of(bank.capabilities().fit(z)))).toList(), sounds, i -> new MemorySource(RATE, planes.get(i)));
        }
    }

    private static InstrumentFormat format(String id) { return InstrumentFormats.byId(id).orElseThrow(); }

    private static Zone pooled(List<BankFormat.BankSound> sounds, List<double[][]> planes, String name, List<Loop> loops, double[]... sound) {
        planes.add(sound);
        sounds.add(new BankFormat.BankSound(name, new OutputShape(RATE, sound.length, Depth.INT_16, sound[0].length), SoundMetadata.NONE.withLoops(loops)));
        return Zone.of(sounds.size() - 1).with(Parameter.LOOPS, loops);
    }

    private static Instrument organ(List<BankFormat.BankSound> sounds, List<double[][]> planes) {
        int[] keys = {43, 48, 53, 58, 63, 68, 73};
        List<Zone> zones = new ArrayList<>();
        for (int i = 0; i < keys.length; i++) {
            int cycles = 40 + 6 * i, loop = (int) Math.round(cycles * RATE / Synth.hertz(keys[i])), start = RATE / 3;
            double cents = -1200 * Math.log((double) cycles * RATE / loop / Synth.hertz(keys[i])) / Math.log(2);
            double[] left = Synth.peak(new Synth(RATE, 1200 + i).bottle(start, loop, cycles, 0.25, 0.05), -10), right = Synth.peak(
                    new Synth(RATE, 1300 + i).bottle(start, loop, cycles, 0.3, 0.05), -11);
            List<Loop> loops = List.of(Loop.sustain(new FrameRange(start, start + loop), LoopMode.FORWARD));
            zones.add(pooled(sounds, planes, "bottle " + NoteName.of(keys[i]), loops, left, right)
                    .with(Parameter.KEYS, new Span(i == 0 ? 36 : keys[i] - 2, keys[i] + 2))
                    .with(Parameter.ROOT_KEY, keys[i]).with(Parameter.TUNING, cents).with(Parameter.ATTACK, 0.02).with(Parameter.RELEASE, 0.12)
                    .with(Parameter.VIBRATO_RATE, 5.2).with(Parameter.VIBRATO_WHEEL, 30.0));
        }
        return new Instrument(About.named("Bottle organ"), Optional.of(new Instrument.Program(0, 19, false)), List.of(new ZoneGroup("Bottles", zones)));
    }

    private static Instrument glass(List<BankFormat.BankSound> sounds, List<double[][]> planes) {
        int[] keys = {55, 60, 65, 70, 75, 80};
        List<ZoneGroup> layers = new ArrayList<>();
        for (int layer = 0; layer < 3; layer++) {
            List<Zone> zones = new ArrayList<>();
            for (int i = 0; i < keys.length; i++)
                zones.add(pooled(sounds, planes, "glass " + NoteName.of(keys[i]) + " v" + (layer + 1), List.of(),
                        Synth.peak(new Synth(RATE, 1400 + i * 5L + layer).strike(Synth.hertz(keys[i]), GLASS, 1.2, 0.2 + 0.35 * layer), -24 + 9 * layer))
                        .with(Parameter.KEYS, new Span(i == 0 ? 48 : keys[i] - 2, i == keys.length - 1 ? 91 : keys[i] + 2)).with(Parameter.ROOT_KEY, keys[i])
                        .with(Parameter.VELOCITIES, new Span(1 + 42 * layer, layer == 2 ? 127 : 42 * (layer + 1))).with(Parameter.RELEASE, 0.9)
                        .with(Parameter.FILTER, FilterKind.LOW_PASS).with(Parameter.CUTOFF, 4000.0 + 4000 * layer));
            layers.add(new ZoneGroup("Layer " + (layer + 1), zones));
        }
        return new Instrument(About.named("Glass marimba"), Optional.of(new Instrument.Program(0, 12, false)), layers);
    }

    private static Instrument kit(List<BankFormat.BankSound> sounds, List<double[][]> planes) {
        String[] names = {"Cauldron", "Ladle", "Sieve", "Lid shut", "Lid open", "Spoon"};
        List<Zone> zones = new ArrayList<>();
        for (int i = 0; i < names.length; i++) {
            Synth synth = new Synth(RATE, 1500 + i);
            double[] sound = i == 2 || i == 5
                    ? synth.noise(0.3, 3000 + 600 * i, 1.1)
                    : synth.strike(90 * (i + 1), new double[]{1, 1.6, 2.3, 3.1}, i == 4 ? 1.4 : 0.4, 0.6);
            for (int n = 0; n < sound.length; n++)
                sound[n] *= Math.exp(-5.0 * n / sound.length);
            Zone zone = pooled(sounds, planes, names[i], List.of(), Synth.peak(sound, -4 - i)).with(Parameter.KEYS, new Span(36 + i, 36 + i))
                    .with(Parameter.ROOT_KEY, 36 + i);
            zones.add(i == 3 || i == 4 ? zone.with(Parameter.EXCLUSIVE_GROUP, 1).with(Parameter.SILENCED_BY, 1) : zone);
        }
        return new Instrument(About.named("Tin kitchen kit"), Optional.of(new Instrument.Program(128, 0, true)), List.of(new ZoneGroup("Kitchen", zones)));
    }
}
