package ablecrate.benchmarks;

import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.codec.SoundFile;
import ablecrate.detect.OnsetDetector;
import ablecrate.detect.TempoDetector;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.Sample;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;

/// Onsets and tempos of made patterns whose places are known: drum sounds of a bank, from 60 to 180 beats a minute.
///
/// An onset counts as found within 10 ms; F is the harmonic mean of precision and recall.
public final class OnsetsReport {
    private static final int RATE = 44_100, CLIPS = 25;
    private static final double WITHIN_SECONDS = 0.010;

    /// What makes a pattern hard.
    private enum Kind { PLAIN, SWING, FLAMS, GHOSTS, TAILS, HISS, BASS, ALL }

    private record Clip(double[] audio, List<Long> onsets, double bpm) {}

    private OnsetsReport() {}

    /// @param args the bank
    public static void main(String[] args) throws Exception {
        List<double[]> drums = drums(Path.of(args[0]));
        System.out.printf(Locale.ROOT, "%d drum sounds, %d clips each%n", drums.size(), CLIPS);
        System.out
                .println("| patterns | F within 10 ms | precision | recall | median, 90th percentile of the error in ms | tempo within 0.2 %, octave aside |");
        System.out.println("|---|---|---|---|---|---|");
        for (Kind kind : Kind.values())
            line(kind, drums);
    }

    private static void line(Kind kind, List<double[]> drums) throws Exception {
        Random random = new Random(kind.ordinal() + 7);
        int hits = 0, found = 0, wanted = 0, tempos = 0;
        List<Double> errors = new ArrayList<>();
        for (int i = 0; i < CLIPS; i++) {
            Clip clip = clip(kind, drums, random);
            OnsetDetector.Heard heard = OnsetDetector.detect(new MemorySource(RATE, new double[][]{clip.audio}),
                    1, () -> false);
            Set<Integer> used = new HashSet<>();
            for (OnsetDetector.Onset onset : heard.onsets()) {
                int best = -1;
                for (int k = 0; k < clip.onsets.size(); k++)
                    if (!used.contains(k) && Math.abs(clip.onsets.get(k) - onset.frame()) <= WITHIN_SECONDS * RATE
                            && (best < 0 || Math.abs(clip.onsets.get(k) - onset.frame()) < Math.abs(clip.onsets.get(best) - onset.frame())))
                        best = k;
                if (best < 0) continue;
                used.add(best);
                hits++;
                errors.add(Math.abs(clip.onsets.get(best) - onset.frame()) * 1000.0 / RATE);
            }
            found += heard.onsets().size();
            wanted += clip.onsets.size();
            Optional<TempoDetector.Tempo> tempo = TempoDetector.detect(heard, clip.audio.length, RATE);
            if (tempo.filter(t -> isSame(t.bpm(), clip.bpm)).isPresent()) tempos++;
        }
        double precision = (double) hits / found, recall = (double) hits / wanted;
        errors.sort(null);
        System.out.printf(Locale.ROOT, "| %s | %.3f | %.3f | %.3f | %.3f, %.2f | %d of %d |%n", kind.name().toLowerCase(Locale.ROOT),
                2 * precision * recall / (precision + recall), precision,
                recall, errors.get(errors.size() / 2), errors.get(errors.size() * 9 / 10), tempos, CLIPS);
    }

    private static boolean isSame(double told, double bpm) {
        for (double octave : new double[]{0.25, 0.5, 1, 2, 4})
            if (Math.abs(told * octave / bpm - 1) <= 0.002) return true;
        return false;
    }

    private static Clip clip(Kind kind, List<double[]> drums, Random random) {
        double bpm = 60 + Math.rint(random.nextDouble() * 120), sixteenth = 60.0 * RATE / bpm / 4;
        int bars = 4, steps = 16 * bars;
        double[] audio = new double[(int) Math.rint(steps * sixteenth)];
        List<double[]> kit = new ArrayList<>();
        for (int i = 0; i < 5; i++)
            kit.add(drums.get(random.nextInt(drums.size())));
        boolean[][] plays = new boolean[5][16];
        for (int voice = 0; voice < 5; voice++)
            for (int step = 0; step < 16; step++)
                plays[voice][step] = random.nextDouble() < (step % 4 == 0 ? 0.55 : step % 2 == 0 ? 0.3 : 0.08) / (voice < 2 ? 1 : 1.6);
        List<Long> onsets = new ArrayList<>();
        boolean isAll = kind == Kind.ALL;
        for (int step = 0; step < steps; step++) {
            double swing = (kind == Kind.SWING || isAll) && step % 2 == 1 ? 0.3 * sixteenth : 0;
            long at = Math.round(step * sixteenth + swing);
            boolean any = false;
            for (int voice = 0; voice < 5; voice++)
                if (plays[voice][step % 16]) {
                    add(audio, kit.get(voice), at, 0.3 + 0.5 * random.nextDouble(), kind == Kind.TAILS || isAll ? 1e9 : sixteenth * 3);
                    any = true;
                }
            if (any) onsets.add(at);
            if (any && (kind == Kind.FLAMS || isAll) && random.nextDouble() < 0.1) {
                long second = at + (long) (0.030 * RATE);
                add(audio, kit.get(0), second, 0.6, sixteenth * 3);
                onsets.add(second);
            }
            if (!any && (kind == Kind.GHOSTS || isAll) && random.nextDouble() < 0.25) {
                add(audio, kit.get(1), at, 0.6 * Math.pow(10, -24 / 20.0), sixteenth * 2);
                onsets.add(at);
            }
        }
        if (kind == Kind.HISS || isAll)
            for (int n = 0; n < audio.length; n++)
                audio[n] += random.nextGaussian() * Math.pow(10, -54 / 20.0);
        if (kind == Kind.BASS || isAll)
            for (int n = 0; n < audio.length; n++)
                audio[n] += 0.15 * Math.sin(2 * Math.PI * 55 * n / RATE) + 0.05 * Math.sin(2 * Math.PI * 110 * n / RATE);
        return new Clip(audio, onsets, bpm);
    }

    private static void add(double[] audio, double[] hit, long at, double gain, double longest) {
        int length = (int) Math.min(hit.length, longest), fade = (int) Math.min(length, 0.005 * RATE);
        for (int n = 0; n < length && at + n < audio.length; n++)
            audio[(int) at + n] += gain * hit[n] * Math.min(1, (double) (length - n) / fade);
    }

    /// Percussion of a bank that is no loop, from its first frame on, at full level.
    private static List<double[]> drums(Path bank) throws Exception {
        InstrumentFile file = InstrumentFormats.ALL.stream().filter(f -> f.id().equals("sf2")).findFirst().orElseThrow().read(bank);
        List<double[]> out = new ArrayList<>();
        Set<Integer> seen = new HashSet<>();
        for (Instrument instrument : file.instruments()) {
            if (!instrument.program().orElseThrow().isPercussion()) continue;
            for (Zone zone : instrument.zones()) {
                if (!zone.get(Parameter.LOOPS).isEmpty() || !seen.add(zone.sample())
                        || !(file.samples().get(zone.sample()) instanceof Sample.Found(_, SoundFile sound)))
                    continue;
                double[][] planes = new double[sound.channels()][(int) sound.frames()];
                try (FrameSource source = sound.open()) {
                    source.readFully(planes, 0, planes[0].length);
                }
                attack(planes[0]).ifPresent(out::add);
            }
        }
        return out;
    }

    /// From the first frame above −40 dB of the peak on, where the peak is near: what swells has no place to find.
    private static Optional<double[]> attack(double[] x) {
        double peak = Arrays.stream(x).map(Math::abs).max().orElse(0);
        int first = 0, reached = 0;
        while (first < x.length && Math.abs(x[first]) < 0.01 * peak)
            first++;
        while (reached < x.length && Math.abs(x[reached]) < 0.25 * peak)
            reached++;
        if (peak == 0 || reached - first > 0.003 * RATE || x.length - first < 0.03 * RATE) return Optional.empty();
        return Optional.of(Arrays.stream(Arrays.copyOfRange(x, first, x.length)).map(v -> v / peak).toArray());
    }
}
