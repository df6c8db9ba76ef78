package ablecrate.cli;

import ablecrate.job.Job;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.pack.PackProgress;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.change.Property;
import ablecrate.signal.SoundPath;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

@Command(name = "pack", mixinStandardHelpOptions = true, footer = {"", "Examples", "  ablecrate pack library --for session --into card",
    "  ablecrate pack library --for drum-pads --into card --existing update",
    "  ablecrate pack clips --for files --container flac --level lufs-m:-14 --into out"}, description = "Writes the results, verifies each, and leaves packing-slip.json and packing-slip.html.") final class PackCommand
            implements
                Callable<Integer> {
    private static final int MOST_MISSES = 20;

    @Spec private CommandSpec spec;
    @Mixin private PlanningOptions options;
    @Option(names = "--into", paramLabel = "DIR", description = "Where to write; made if it is not there.") private Path into;
    @Option(names = "--in-place", description = "Replace the sources; originals go to a dated folder, 'ablecrate restore' brings them back.") private boolean inPlace;
    @Option(names = "--workers", paramLabel = "N", description = "Items worked on at a time; default: one for each core.") private int workers = Runtime
            .getRuntime().availableProcessors();
    @Option(names = "--json", description = "Print the packing slip as JSON.") private boolean json;

    @Override public Integer call() throws Exception {
        Sources sources = options.sources();
        if (into == null && !inPlace) into = sources.job().flatMap(Job::into).orElse(null);
        if (inPlace == (into != null)) throw new ParameterException(spec.commandLine(), "say where to: --into DIR, or --in-place");
        if (inPlace && (sources.paths().size() != 1 || !Files.isDirectory(sources.paths().getFirst())))
            throw new ParameterException(spec.commandLine(), "--in-place takes one folder, below which everything lies");
        if (workers < 1) throw new ParameterException(spec.commandLine(), "--workers: at least 1");
        PrintWriter err = spec.commandLine().getErr();
        return Interruptible.call(stop -> pack(sources, stop, err));
    }

    private int pack(Sources sources, StopSignal stop, PrintWriter err) throws Exception {
        SoundPath path = new SoundPath();
        PackingList list = options.plan(path, Optional.ofNullable(into), Gatherer::readToOpen, stop::isStopped, err);
        if (stop.isStopped()) return Main.STOPPED;
        ProgressLine line = new ProgressLine(err);
        Packer packer = new Packer(list, path, workers, stop, options.isQuiet() ? _ -> {} : p -> show(line, p), InstantSource.system());
        PackingSlip slip = inPlace ? packer.packInPlace(sources.paths().getFirst()) : packer.packInto(into);
        report(slip, err);
        return slip.isStopped() ? Main.STOPPED : slip.isAllPacked() && !slip.isDamageFailure() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private static void show(ProgressLine line, PackProgress p) {
        String left = p.secondsLeft().map(s -> String.format(Locale.ROOT, ", %.0f s left", s)).orElse("");
        boolean isEnd = p.itemsDone() == p.itemsTotal();
        line.show(isEnd ? 1 : p.fraction(), String.format(Locale.ROOT, "%3.0f %%  %,d of %,d%s", p.fraction() * 100, p.itemsDone(), p.itemsTotal(), left),
                p.current());
    }

    private void report(PackingSlip slip, PrintWriter err) {
        PrintWriter out = spec.commandLine().getOut();
        for (PackingSlip.Item item : slip.ofThisRun()) {
            item.error().ifPresent(e -> err.println(item.outcome() + ": " + item.source() + ": " + e));
        }
        List<String> misses = slip.ofThisRun().stream()
                .flatMap(i -> i.misses().stream().map(m -> "missed: " + i.source() + ": " + m.name() + ": " + m.measured())).toList();
        misses.stream().limit(MOST_MISSES).forEach(err::println);
        if (misses.size() > MOST_MISSES) err.println("missed: " + (misses.size() - MOST_MISSES) + " more; the slip has them all");
        if (json) {
            out.print(Json.write(slip));
            out.flush();
            return;
        }
        if (options.isQuiet()) return;
        slip.outcomes().forEach((outcome, n) -> out.println(String.format(Locale.ROOT, "%6d %s", n, outcome)));
        if (slip.misses() > 0) out.println(String.format(Locale.ROOT, "%6d asked for and not reached", slip.misses()));
        long limited = slip.ofThisRun().stream().filter(PackCommand::hasOvers).count();
        if (limited > 0) out.println(String.format(Locale.ROOT, "%6d beyond full scale, held or cut off", limited));
        if (slip.damaged() > 0) out.println(String.format(Locale.ROOT, "%6d with damage that stays", slip.damaged()));
        out.println("slip: " + Path.of(slip.into()).resolve(Packer.SLIP_HTML));
    }

    private static boolean hasOvers(PackingSlip.Item item) {
        return item.changes().stream().anyMatch(c -> c.property().equals(Property.LEVEL.id()) && c.unit().filter("dBFS"::equals).isPresent()
                && c.afterValue().filter(v -> v == 0).isPresent());
    }
}
