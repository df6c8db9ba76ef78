package ablecrate.fit;

import ablecrate.codec.Capabilities;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.play.LoadedSound;
import ablecrate.signal.Recent;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// An instrument of tones whose colour depends on key and velocity: harmonics that fall off, seen through a resonance that stays where it is.
final class MadeInstrument {
    static final int RATE = 44_100;

    private final Path folder;
    private final List<Zone> zones = new ArrayList<>();
    private final List<Optional<FitSound>> sounds = new ArrayList<>();

    MadeInstrument(Path folder) { this.folder = folder; folder.toFile().mkdirs(); }

    /// @param slope of the harmonics, in dB an octave
    static double[] tone(int key, double slope, double resonanceHz, double seconds, double amplitude) {
        double hertz = 440 * Math.pow(2, (key - 69) / 12.0);
        double[] out = new double[(int) (seconds * RATE)];
        for (int h = 1; h * hertz < 0.45 * RATE && h <= 40; h++) {
            double distance = Math.log(h * hertz / resonanceHz) / Math.log(2),
                    gain = amplitude * Math.pow(h, slope / 6.02) * (1 + 4 * Math.exp(-4 * distance * distance));
            // Turned and shrunk from frame to frame: sines of each frame took a tenth of all tests.
            double angle = 2 * Math.PI * h * hertz / RATE, fall = Math.exp(-1.5 / RATE), turnRe = fall * Math.cos(angle), turnIm = fall * Math.sin(angle),
                    re = gain * Math.cos(h * h), im = gain * Math.sin(h * h);
            for (int n = 0; n < out.length; n++) {
                out[n] += im;
                double next = re * turnRe - im * turnIm;
                im = re * turnIm + im * turnRe;
                re = next;
            }
        }
        return out;
    }

    MadeInstrument zone(Span keys, Span velocities, int root, double[]... planes) throws Exception {
        Path file = Sounds.wav(folder.resolve("s" + sounds.size() + ".wav"), RATE, Depth.INT_16, planes);
        SoundFile sound = ((FileKind.Sound) FileKind.of(file)).read(file);
        zones.add(Zone.of(sounds.size()).with(Parameter.KEYS, keys).with(Parameter.VELOCITIES, velocities).with(Parameter.ROOT_KEY, root));
        sounds.add(Optional.of(new FitSound(sound, RATE, planes.length, List.of(Depth.INT_16), Capabilities.Loops.any(), Optional.empty())));
        return this;
    }

    /// All of its sounds as they are written in a depth, or another one where memory is short.
    MadeInstrument in(Depth own, Depth other) {
        sounds.replaceAll(s -> s.map(f -> new FitSound(f.file(), f.rateHz(), f.channels(), FitSound.depths(own, List.of(own, other)), f.taken(), f.found())));
        return this;
    }

    /// Another zone where one lies, of the sound of a third.
    MadeInstrument beside(int zone, int other) {
        zones.add(zones.get(other).with(Parameter.KEYS, zones.get(zone).get(Parameter.KEYS)));
        return this;
    }

    /// The last zone loops from a frame to the end.
    MadeInstrument looped(long start, long end) { return last(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(start, end), LoopMode.FORWARD))); }

    /// What is said of the last zone.
    <T> MadeInstrument last(Parameter<T> parameter, T value) {
        zones.set(zones.size() - 1, zones.getLast().with(parameter, value));
        return this;
    }

    /// Roots a number of keys apart, each brighter than a plain tone by its key's place.
    static MadeInstrument ofRoots(Path folder, int roots, int apart) throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        for (int i = 0; i < roots; i++) {
            int root = 48 + i * apart;
            // Colours that change slowly, and in the middle at once.
            made.zone(new Span(root, root + apart - 1), new Span(1, 127), root, tone(root, i < roots / 2 ? -12 : -4, 900 + 40 * i, 2.5, 0.05));
        }
        return made;
    }

    /// Layers on one root, uneven in width, colour and level. Most of the level is in the sounds, as they were played; the rest follows velocity.
    static MadeInstrument ofLayers(Path folder, int layers) throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        int low = 1;
        for (int i = 0; i < layers; i++) {
            int high = i + 1 == layers ? 127 : 1 + (int) (126 * Math.pow((i + 1.0) / layers, 0.7));
            made.zone(new Span(48, 72), new Span(low, high), 60, tone(60, -16 + 10 * Math.pow(i / (layers - 1.0), 3), 1200, 2.5, 0.02 + 0.06 * i / layers));
            made.zones.set(i, made.zones.get(i).with(Parameter.VELOCITY_TRACKING, 30.0));
            low = high + 1;
        }
        return made;
    }

    Instrument instrument() { return new Instrument(About.named("Made"), Optional.empty(), List.of(new ZoneGroup("", zones))); }

    FitTask task(DeviceLimits limits, FitStep.Kind... forbidden) {
        return new FitTask(List.of(instrument()), sounds, limits, List.of(), true, FitTask.Format.ANY, FitRules.without(Set.of(forbidden)));
    }

    FitTask task(DeviceLimits limits, FitRules rules) {
        return new FitTask(List.of(instrument()), sounds, limits, List.of(), true, FitTask.Format.ANY, rules);
    }

    static Optional<LoadedSound> loaded(FitTask task, int sample) {
        try {
            return Optional.of(task.sounds().get(sample).orElseThrow().load());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static Fit fit(FitTask task) throws Exception { return (Fit) task.measure(new SoundPath(), new Recent(), () -> false, _ -> {}).orElseThrow(); }

    static DeviceLimits limits(int zones, int samples, int layers, long bytes) {
        return new DeviceLimits(zones, samples, layers, 0, List.of(), DeviceLimits.Playing.ANY, bytes, 0, 0);
    }
}
