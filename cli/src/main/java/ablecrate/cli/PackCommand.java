package ablecrate.cli;

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
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.function.Consumer;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

@Command(name = "pack", mixinStandardHelpOptions = true, footer = {"", "Examples", "  ablecrate pack library --for session --into card",
    "  ablecrate pack library --for drum-pads --into card --existing update",
    "  ablecrate pack clips --for files --container flac --level lufs-m:-14 --into out",
    "  ablecrate pack library --for files --container flac --into archive --and --for drum-pads --into card"}, description = "Writes the results, verifies each, and leaves packing-slip.json and packing-slip.html.") final class PackCommand
            implements
                Callable<Integer>,
                PlanningOptions.Taking {
    private static final int MOST_MISSES = 20;

    @Spec private CommandSpec spec;
    @Mixin private PlanningOptions options;
    @Option(names = "--in-place", description = "Replace the sources; originals go to a dated folder, 'ablecrate restore' brings them back.") private boolean inPlace;
    @Option(names = "--workers", paramLabel = "N", description = "Items worked on at a time; default: one for each core.") private int workers = Runtime
            .getRuntime().availableProcessors();
    @Option(names = "--json", description = "Print the packing slip as JSON. An array of slips where there are several destinations.") private boolean json;

    @Override public PlanningOptions planning() { return options; }

    @Override public Integer call() throws Exception {
        List<DestinationOptions.Said> all = options.destinations();
        List<Path> folders = all.stream().flatMap(s -> s.delivery().into().stream()).toList();
        if (inPlace) checkInPlace(folders);
        if (!inPlace && folders.size() < all.size())
            throw new ParameterException(spec.commandLine(),
                    all.size() == 1 ? "say where to: --into DIR, or --in-place" : "say where to: each destination needs an --into DIR");
        if (workers < 1) throw new ParameterException(spec.commandLine(), "--workers: at least 1");
        PrintWriter err = spec.commandLine().getErr();
        return Interruptible.call(stop -> pack(all, folders, stop, err));
    }

    private void checkInPlace(List<Path> folders) throws Exception {
        // A job's own folder is not said here.
        boolean isFromJob = options.sources().job().stream().anyMatch(j -> j.folders().equals(folders));
        if (!folders.isEmpty() && !isFromJob) throw new ParameterException(spec.commandLine(), "say where to: --into DIR, or --in-place");
        List<Path> paths = options.sources().paths();
        if (paths.size() != 1 || !Files.isDirectory(paths.getFirst()))
            throw new ParameterException(spec.commandLine(), "--in-place takes one folder, below which everything lies");
    }

    private int pack(List<DestinationOptions.Said> all, List<Path> folders, StopSignal stop, PrintWriter err) throws Exception {
        SoundPath path = new SoundPath();
        List<PackingList> lists = options.plan(all, path, Gatherer::readToOpen, stop::isStopped, err).stream().map(PlanningOptions.Planned::list).toList();
        if (stop.isStopped()) return Main.STOPPED;
        ProgressLine line = new ProgressLine(err);
        Packer packer = new Packer(lists, path, workers, stop, options.isQuiet() ? _ -> {} : p -> show(line, p), InstantSource.system());
        List<PackingSlip> slips = inPlace ? List.of(packer.packInPlace(options.sources().paths().getFirst())) : packer.packInto(folders);
        // What goes nowhere is said once.
        Set<String> said = new HashSet<>();
        for (PackingSlip slip : slips)
            report(slip, told -> {
                if (said.add(told)) err.println(told);
            }, slips.size() > 1);
        if (json) spec.commandLine().getOut().print(Json.write(slips.size() == 1 ? slips.getFirst() : slips));
        spec.commandLine().getOut().flush();
        if (slips.stream().anyMatch(PackingSlip::isStopped)) return Main.STOPPED;
        return slips.stream().allMatch(s -> s.isAllPacked() && !s.isDamageFailure()) ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private static void show(ProgressLine line, PackProgress p) {
        String left = p.secondsLeft().map(s -> String.format(Locale.ROOT, ", %.0f s left", s)).orElse("");
        boolean isEnd = p.itemsDone() == p.itemsTotal();
        line.show(isEnd ? 1 : p.fraction(), String.format(Locale.ROOT, "%3.0f %%  %,d of %,d%s", p.fraction() * 100, p.itemsDone(), p.itemsTotal(), left),
                p.current());
    }

    /// @param named whether it is said of which destination
    /// Where a source became several files, each with the one that it is about.
    private static Stream<String> misses(PackingSlip.Item item) {
        return item.files().stream().flatMap(file -> file.checks().stream().filter(PackingSlip.Check::isMissed)
                .map(m -> "missed: " + item.source() + (item.files().size() > 1 ? ", '" + file.path() + "'" : "") + ": " + m.name() + ": " + m.measured()));
    }

    private void report(PackingSlip slip, Consumer<String> err, boolean named) {
        PrintWriter out = spec.commandLine().getOut();
        for (PackingSlip.Item item : slip.ofThisRun()) {
            item.error().ifPresent(e -> err.accept(item.outcome() + ": " + item.source() + ": " + e));
        }
        List<String> misses = slip.ofThisRun().stream().flatMap(PackCommand::misses).toList();
        misses.stream().limit(MOST_MISSES).forEach(err);
        if (misses.size() > MOST_MISSES) err.accept("missed: " + (misses.size() - MOST_MISSES) + " more; the slip has them all");
        if (json || options.isQuiet()) return;
        if (named) out.println(slip.destinationName());
        slip.outcomes().forEach((outcome, n) -> out.println(String.format(Locale.ROOT, "%6d %s", n, outcome)));
        if (slip.misses() > 0) out.println(String.format(Locale.ROOT, "%6d %s", slip.misses(), slip.missed()));
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
