package ablecrate.cli;

import ablecrate.destination.SheetCatalogue;
import ablecrate.job.Presets;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.plan.OptionConflict;
import ablecrate.plan.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.plan.Settling;
import ablecrate.signal.MeasureBook;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BiFunction;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/// What `plan` and `pack` share: sources, destination, options.
final class PlanningOptions {
    /// So many sounds take long enough to be told of.
    private static final int MANY = 50;

    @Parameters(paramLabel = "PATH", arity = "1..*", description = "Files and folders.") private List<Path> paths;
    @Option(names = "--for", paramLabel = "DEST", description = "Id of a built-in destination, or a sheet's file; 'files' has no limits but the options.") private String destination;
    @Option(names = "--preset", paramLabel = "NAME", description = "Options and destination that were saved under a name; further options go before them.") private String preset;
    @Option(names = "--by-content", description = "What is known of a file holds for it wherever it lies now; each new file is read once more.") private boolean byContent;
    @Mixin private OptionsMixin options;

    List<Path> paths() { return paths; }

    /// Listens to what the options ask for, and tells of it where it takes a while.
    /// @param reader looks into the files, or up what the catalogue knows of them
    PackingList plan(SoundPath path, BiFunction<List<Gathered>, Catalogue, List<Gathered>> reader, PrintWriter err)
            throws IOException, Json.JsonFault, OptionConflict {
        Presets.Preset saved = preset == null ? null : Presets.ofUser().find(preset);
        String to = destination == null && saved != null ? saved.destination() : destination;
        if (to == null) throw new OptionConflict("--for: which destination? 'ablecrate destinations' lists them; --preset has one as well");
        PackOptions chosen = options.options(saved == null ? PackOptions.DEFAULT : saved.options());
        // A sheet that ships takes as long to read as hundreds of heads, so that is begun before them.
        SheetCatalogue sheets = new SheetCatalogue();
        ForkJoinPool.commonPool().submit(() -> sheets.byId(to));
        List<Gathered> found = Gatherer.find(paths, () -> false);
        // Few files are looked at faster than the catalogue opens.
        Catalogue catalogue = found.size() < MANY && !byContent ? Catalogue.none() : Catalogue.ofUser();
        catalogue.knowContents(byContent);
        List<Gathered> gathered = reader.apply(found, catalogue);
        AtomicInteger told = new AtomicInteger();
        return Settling.plan(gathered, sheets.find(to), chosen, Map.of(), new MeasureBook(path, catalogue), () -> false, (done, of) -> {
            int tenths = done * 10 / of;
            if (of >= MANY && told.getAndSet(tenths) != tenths) err.println("listening to " + done + " of " + of);
        });
    }
}
