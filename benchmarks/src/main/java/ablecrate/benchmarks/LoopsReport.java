package ablecrate.benchmarks;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.LoopFinder;
import ablecrate.detect.LoopJudge;
import ablecrate.detect.LoopQuality;
import ablecrate.detect.LoopWish;
import ablecrate.detect.TurnJudge;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.Sample;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.IntStream;

/// Loops that are found in the held sounds of a bank whose own loops are not looked at, beside those, by one measure.
///
/// Whole samples; the last 0.3 s gone; and, as a control of the measure, loops at arbitrary places with a fade of 50 ms.
public final class LoopsReport {
    private static final double SHORTEST_SECONDS = 0.4, CUT_SECONDS = 0.3;

    private record Held(String name, double[][] planes, int rateHz, FrameRange own) {}

    private record Result(String name, double ownCost, double foundCost, double seconds, double ownSeconds, double centsOff, double tookSeconds) {
        boolean isAsGood() { return foundCost <= Math.max(1, ownCost) * 1.001 && seconds >= Math.min(0.25, 0.8 * ownSeconds) * 0.999; }
    }

    private LoopsReport() {}

    /// @param args the bank
    public static void main(String[] args) throws Exception {
        List<Held> sounds = held(Path.of(args[0]));
        System.out.printf(Locale.ROOT, "%d held sounds%n", sounds.size());
        System.out.println(
                "| sounds | as good as the bank's loop | median length | median, worst of cents off, where it passes | median seconds of work per second of sound |");
        System.out.println("|---|---|---|---|---|");
        List<Result> whole = all(sounds, 0, w -> w);
        line("whole", whole);
        line("the last 0.3 s gone", all(sounds, CUT_SECONDS, w -> w));
        List<Held> stereo = sounds.stream().filter(h -> h.planes.length == 2).toList();
        if (!stereo.isEmpty()) line("stereo, whole", all(stereo, 0, w -> w));
        line("whole, alternating loops", all(sounds, 0, w -> w.in(Set.of(LoopMode.ALTERNATING))));
        if (args.length > 1)
            whole.stream().filter(r -> !r.isAsGood())
                    .forEach(r -> System.out.printf(Locale.ROOT, "  %s: own %.2f, found %.2f, %.3f s (own %.3f s)%n", r.name, r.ownCost, r.foundCost,
                            r.seconds, r.ownSeconds));
        Random random = new Random(1);
        for (LoopMode mode : List.of(LoopMode.FORWARD, LoopMode.ALTERNATING)) {
            long passed = sounds.stream().filter(h -> arbitrary(h, mode, random)).count();
            System.out.printf(Locale.ROOT, "arbitrary ends that pass, %s: %.0f %%%n",
                    mode == LoopMode.FORWARD ? "with a fade of 50 ms" : "alternating", 100.0 * passed / sounds.size());
        }
        List<Double> own = whole.stream().map(Result::ownCost).sorted().toList();
        System.out.printf(Locale.ROOT, "the bank's own loops: median cost %.2f, passing %.0f %%%n", own.get(own.size() / 2),
                100.0 * own.stream().filter(c -> c <= 1).count() / own.size());
    }

    private static boolean arbitrary(Held h, LoopMode mode, Random random) {
        LoopJudge judge = new LoopJudge(h.planes, h.rateHz);
        FrameRange stable = judge.stablePart();
        int fade = (int) Math.min(0.05 * h.rateHz, stable.length() / 4);
        long length = Math.max(fade + 2, (long) (stable.length() * (0.2 + 0.6 * random.nextDouble()))),
                start = Math.max(fade, stable.start() + (long) (random.nextDouble() * Math.max(0, stable.length() - length)));
        if (start + length > h.planes[0].length) return false;
        FrameRange loop = new FrameRange(start, start + length);
        return (mode == LoopMode.ALTERNATING ? new TurnJudge(judge).judge(loop) : judge.judge(loop, fade, 0)).passes();
    }

    private static void line(String name, List<Result> results) {
        // What does not pass is not taken.
        double[] cents = results.stream().filter(r -> r.foundCost <= 1).mapToDouble(r -> Math.abs(r.centsOff)).sorted().toArray(),
                lengths = results.stream().mapToDouble(Result::seconds).sorted().toArray(),
                took = results.stream().mapToDouble(Result::tookSeconds).sorted().toArray();
        System.out.printf(Locale.ROOT, "| %s | %.0f %% of %d | %.2f s | %.2f, %.1f | %.2f |%n", name,
                100.0 * results.stream().filter(Result::isAsGood).count() / results.size(),
                results.size(), lengths[lengths.length / 2], cents[cents.length / 2], cents[cents.length - 1], took[took.length / 2]);
    }

    private static List<Result> all(List<Held> sounds, double cutSeconds, UnaryOperator<LoopWish> wish) {
        ConcurrentLinkedQueue<Result> results = new ConcurrentLinkedQueue<>();
        sounds.parallelStream().forEach(h -> {
            int frames = h.planes[0].length - (int) (cutSeconds * h.rateHz);
            if (frames < SHORTEST_SECONDS * h.rateHz) return;
            LoopQuality own = new LoopJudge(h.planes, h.rateHz).judge(h.own, 0, 0);
            double[][] planes = Arrays.stream(h.planes).map(p -> Arrays.copyOf(p, frames)).toArray(double[][]::new);
            long before = System.nanoTime();
            List<FoundLoop> found = LoopFinder.find(planes, h.rateHz, wish.apply(LoopWish.usual(h.rateHz)), 5, () -> false);
            double took = (System.nanoTime() - before) / 1e9 / ((double) frames / h.rateHz);
            if (found.isEmpty())
                results.add(new Result(h.name, own.cost(), Double.POSITIVE_INFINITY, 0, (double) h.own.length() / h.rateHz, 0, took));
            else
                results.add(new Result(h.name, own.cost(), found.getFirst().quality().cost(), (double) found.getFirst().frames().length() / h.rateHz,
                        (double) h.own.length() / h.rateHz, found.getFirst().quality().centsOff(), took));
        });
        return List.copyOf(results);
    }

    private static List<Held> held(Path bank) throws Exception {
        InstrumentFile file = InstrumentFormats.ALL.stream().filter(f -> f.id().equals("sf2")).findFirst().orElseThrow().read(bank);
        List<Held> out = new ArrayList<>();
        Set<Integer> seen = new HashSet<>();
        for (Instrument instrument : file.instruments())
            for (Zone zone : instrument.zones()) {
                if (zone.get(Parameter.LOOPS).isEmpty() || !seen.add(zone.sample())
                        || !(file.samples().get(zone.sample()) instanceof Sample.Found(String name, SoundFile sound)))
                    continue;
                Loop loop = zone.get(Parameter.LOOPS).getFirst();
                if (sound.frames() < SHORTEST_SECONDS * sound.rateHz()) continue;
                double[][] planes = new double[sound.channels()][(int) sound.frames()];
                try (FrameSource source = sound.open()) {
                    source.readFully(planes, 0, planes[0].length);
                }
                out.add(new Held(name, planes, sound.rateHz(), loop.frames()));
            }
        return out;
    }
}
