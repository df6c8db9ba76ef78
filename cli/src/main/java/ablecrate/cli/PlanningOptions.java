package ablecrate.cli;

import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.job.Presets;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.pack.Cards;
import ablecrate.plan.Card;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/// What `plan` and `pack` share: sources, destination, options.
final class PlanningOptions {
    /// So many sounds take long enough to be told of.
    private static final int MANY = 50;

    @Parameters(paramLabel = "PATH", arity = "1..*", description = "Files, folders, and job files with their sources, options and edits.") private List<Path> paths;
    @Option(names = "--for", paramLabel = "DEST", description = "Id of a built-in destination, or a sheet's file; 'files' has no limits but the options.") private String destination;
    @Option(names = "--preset", paramLabel = "NAME", description = "Options and destination that were saved under a name, or in a job file; further options go before them.") private String preset;
    @Option(names = "--by-content", description = "What is known of a file holds for it wherever it lies now; each new file is read once more.") private boolean byContent;
    @Option(names = "--quiet", description = "Tell nothing but results and errors.") private boolean quiet;
    @Mixin private OptionsMixin options;

    private Optional<Sources> sources = Optional.empty();

    boolean isQuiet() { return quiet; }

    /// Files and folders, those of jobs among them.
    Sources sources() throws IOException, Json.JsonFault {
        if (sources.isEmpty()) sources = Optional.of(Sources.of(paths));
        return sources.get();
    }

    private Optional<Presets.Preset> saved() throws IOException, Json.JsonFault {
        if (preset != null && preset.endsWith(Jobs.EXTENSION)) {
            Job job = Jobs.open(Path.of(preset));
            return Optional.of(new Presets.Preset(job.destination(), job.options()));
        }
        if (preset != null) return Optional.of(Presets.ofUser().find(preset));
        return sources().job().map(j -> new Presets.Preset(j.destination(), j.options()));
    }

    /// Looks into files, or up what the catalogue knows of them.
    interface Reader {
        List<Gathered> read(List<Gathered> found, Catalogue catalogue, BooleanSupplier stopped);
    }

    /// Listens to what the options ask for, and tells of it where it takes a while.
    /// @param into where it will be packed, as far as that is said
    /// @param stopped asked now and then; true leaves the list as far as it is known
    PackingList plan(SoundPath path, Optional<Path> into, Reader reader, BooleanSupplier stopped, PrintWriter err)
            throws IOException, Json.JsonFault, OptionConflict {
        Optional<Presets.Preset> saved = saved();
        String to = destination == null && saved.isPresent() ? saved.get().destination() : destination;
        if (to == null) throw new OptionConflict("--for: which destination? 'ablecrate destinations' lists them; presets and jobs have one as well");
        PackOptions chosen = options.options(saved.map(Presets.Preset::options).orElse(PackOptions.DEFAULT));
        // A sheet that ships takes as long to read as hundreds of heads, so that is begun before them.
        SheetCatalogue sheets = new SheetCatalogue();
        ForkJoinPool.commonPool().submit(() -> sheets.byId(to));
        for (Path source : sources().paths())
            if (into.isPresent() && Files.isDirectory(into.get()) && Files.isSameFile(source, into.get()))
                throw new OptionConflict(
                        "--into: " + into.get() + " is what is gathered, so results would lie among their sources; choose another folder, or --in-place");
        List<Gathered> found = Gatherer.find(sources().paths(), into, stopped).stream().filter(g -> !sources.get().removed().contains(g.path())).toList();
        // Few files are looked at faster than the catalogue opens.
        Catalogue catalogue = found.size() < MANY && !byContent ? Catalogue.none() : Catalogue.ofUser();
        catalogue.knowContents(byContent);
        List<Gathered> gathered = reader.read(found, catalogue, stopped);
        DestinationSheet sheet = sheets.find(to);
        Card card = into.isPresent() ? Cards.of(into.get(), sheet) : Card.EMPTY;
        AtomicInteger told = new AtomicInteger();
        return ListeningPlanner.plan(gathered, sheet, chosen, options.edits(gathered, sources().job().map(Job::edits).orElse(Map.of()), chosen.treatment()),
                new Measurements(path, catalogue), card, stopped, (done, of) -> {
                    int tenths = done * 10 / of;
                    if (!quiet && of >= MANY && told.getAndSet(tenths) != tenths) err.println("listening to " + done + " of " + of);
                });
    }
}
