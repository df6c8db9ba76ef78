package ablecrate.benchmarks;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.destination.DeviceLimits;
import ablecrate.fit.Fit;
import ablecrate.fit.FitSound;
import ablecrate.fit.FitRules;
import ablecrate.fit.FitTask;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Instrument;
import ablecrate.signal.Recent;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.IntStream;

/// How much less the fitted instruments of a bank differ from their sources than simple plans within the same limits: rendered, and compared by one measure.
public final class FitReport {
    private FitReport() {}

    private record Ratio(String instrument, double harmDb, Map<String, Double> simpleDb) {}

    /// @param args the bank; bytes that all of it is to be fitted to, 0 for none; one of how many instruments is fitted by itself

    public static void main(String[] args) throws Exception {
        InstrumentFile bank = InstrumentFormats.of(Path.of(args[0])).orElseThrow().read(Path.of(args[0]));
        long wholeBytes = args.length > 1 ? Long.parseLong(args[1]) : 0;
        int every = args.length > 2 ? Integer.parseInt(args[2]) : 1;
        List<Instrument> some = IntStream.range(0, bank.instruments().size()).filter(i -> i % every == 0).mapToObj(bank.instruments()::get).toList();
        List<Optional<FitSound>> sounds = IntStream.range(0, bank.samples().size())
                .mapToObj(i -> bank.sound(i)
                        .map(f -> new FitSound(f, f.rateHz(), f.channels(), List.of(Depth.INT_16), Capabilities.Loops.any(), Optional.empty())))
                .toList();
        System.out.println("| limit | instruments | harm, median | of simple plans: median, worst | took |");
        System.out.println("|---|---|---|---|---|");
        for (int part : new int[]{2, 3})
            report("samples, 1 of " + part, some, sounds,
                    i -> new DeviceLimits(0, (int) Math.ceilDiv(samples(i), part), 0, 0, List.of(), DeviceLimits.Playing.ANY, 0, 0, 0), 4);
        for (int part : new int[]{2, 4, 8})
            report("memory, 1 of " + part, some, sounds, i -> {
                long bytes = new FitTask(List.of(i), sounds, DeviceLimits.NONE, List.of(), true, FitTask.Format.ANY, FitRules.NONE).bytes(i);
                return new DeviceLimits(0, 0, 0, 0, List.of(), DeviceLimits.Playing.ANY, bytes / part, 0, 0);
            }, 1);
        if (wholeBytes > 0) {
            long start = System.nanoTime();
            FitTask task = new FitTask(bank.instruments(), sounds,
                    new DeviceLimits(0, 0, 0, 0, List.of(), DeviceLimits.Playing.ANY, 0, wholeBytes, 0), List.of(), true, FitTask.Format.ANY,
                    FitRules.NONE);
            Fit fit = (Fit) task.measure(new SoundPath(), new Recent(), () -> false, _ -> {}).orElseThrow();
            System.out.printf(Locale.ROOT, "whole bank: %,d → %,d bytes, harm %.2f dB in the mean, %.1f s%n", fit.bytesBefore(), fit.bytes(),
                    fit.instruments().stream().mapToDouble(f -> f.harm().meanDb()).average().orElse(0), (System.nanoTime() - start) / 1e9);
        }
    }

    private interface Limit {
        DeviceLimits of(Instrument instrument);
    }

    private static int samples(Instrument instrument) { return (int) instrument.zones().stream().map(z -> z.sample()).distinct().count(); }

    private static void report(String name, List<Instrument> instruments, List<Optional<FitSound>> sounds, Limit limit, int fewest) {
        Queue<Ratio> ratios = new ConcurrentLinkedQueue<>();
        long start = System.nanoTime();
        instruments.parallelStream().filter(i -> samples(i) >= fewest).forEach(instrument -> {
            FitTask task = new FitTask(List.of(instrument), sounds, limit.of(instrument), List.of(), true, FitTask.Format.ANY, FitRules.NONE);
            if (!task.isOver()) return;
            Fit.Fitted fitted = fitted(task);
            if (!fitted.fits()) {
                System.err.println(instrument.name() + ": " + fitted.lacking());
                return;
            }
            ratios.add(new Ratio(instrument.name(), fitted.harm().meanDb(), fitted.simpleDb()));
        });
        Map<String, List<Double>> byPlan = new TreeMap<>();
        for (Ratio ratio : ratios)
            ratio.simpleDb.forEach((plan, harm) -> {
                if (harm > 0.05) byPlan.computeIfAbsent(plan, _ -> new ArrayList<>()).add(ratio.harmDb / harm);
            });
        System.out.printf(Locale.ROOT, "| %s | %d | %.2f dB | %s | %.0f s |%n", name, ratios.size(), median(ratios.stream().map(Ratio::harmDb).toList()),
                byPlan.entrySet().stream().map(e -> String.format(Locale.ROOT, "%s (%d): %.2f, %.2f", e.getKey(), e.getValue().size(), median(e.getValue()),
                        e.getValue().stream().max(Comparator.naturalOrder()).orElse(0.0))).toList(),
                (System.nanoTime() - start) / 1e9);
    }

    private static Fit.Fitted fitted(FitTask task) {
        try {
            return ((Fit) task.measure(new SoundPath(), new Recent(), () -> false, _ -> {}).orElseThrow()).instruments().getFirst();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static double median(List<Double> values) { return values.isEmpty() ? 0 : values.stream().sorted().toList().get(values.size() / 2); }
}
