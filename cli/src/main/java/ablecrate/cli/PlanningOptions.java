package ablecrate.cli;

import ablecrate.change.Told;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.job.Delivery;
import ablecrate.job.Job;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.pack.Cards;
import ablecrate.plan.Card;
import ablecrate.option.OptionConflict;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import java.util.function.BooleanSupplier;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/// What `plan` and `pack` share: sources, and one destination or several.
final class PlanningOptions {
    /// Begins another destination.
    static final String AND = "--and";
    /// So many sounds take long enough to be told of.
    private static final int MANY = 50, MANY_INSTRUMENTS = 10;
    private static final long MANY_BYTES = 50_000_000;

    @Parameters(paramLabel = "PATH", arity = "1..*", description = "Files, folders, and job files with their sources, options and edits.") private List<Path> paths;
    @Mixin private DestinationOptions first;
    /// For help and completion alone: what stands behind it is taken before.
    @Option(names = AND, description = "Begins another destination, with a --for, an --into and options of its own: sounds are read once, and written for each.") private boolean and;
    @Option(names = "--by-content", description = "What is known of a file holds for it wherever it lies now; each new file is read once more.") private boolean byContent;
    @Option(names = "--quiet", description = "Tell nothing but results and errors.") private boolean quiet;

    private List<DestinationOptions> further = List.of();
    private Optional<Sources> sources = Optional.empty();

    /// A command that takes these.
    interface Taking {
        PlanningOptions planning();
    }

    void alsoFor(List<DestinationOptions> more) { further = more; }

    boolean isQuiet() { return quiet; }

    /// Files and folders, those of jobs among them.
    Sources sources() throws IOException, Json.JsonFault {
        if (sources.isEmpty()) sources = Optional.of(Sources.of(paths));
        return sources.get();
    }

    /// Looks into files, or up what the catalogue knows of them.
    interface Reader {
        List<Gathered> read(List<Gathered> found, Catalogue catalogue, BooleanSupplier stopped);
    }

    /// A packing list, and the folder that it is for.
    record Planned(PackingList list, Optional<Path> into) {}

    /// All destinations that are said, those of jobs among them; at least one.
    List<DestinationOptions.Said> destinations() throws IOException, Json.JsonFault, OptionConflict {
        List<DestinationOptions.Said> all = new ArrayList<>(first.said(sources().job()));
        for (DestinationOptions more : further)
            all.addAll(more.said(Optional.empty()));
        if (all.size() > Job.MOST_DELIVERIES)
            throw new OptionConflict(AND + ": " + all.size() + " destinations; " + Job.MOST_DELIVERIES + " at most go in one run");
        return all;
    }

    /// Listens to what the options ask for, and tells of it where it takes a while.
    /// @param said [#destinations]
    /// @param stopped asked now and then; true leaves the lists as far as they are known
    List<Planned> plan(List<DestinationOptions.Said> said, SoundPath path, Reader reader, BooleanSupplier stopped, PrintWriter err)
            throws IOException, Json.JsonFault, OptionConflict {
        // A sheet that ships takes as long to read as hundreds of heads, so that is begun before them.
        SheetCatalogue sheets = new SheetCatalogue();
        for (DestinationOptions.Said each : said)
            ForkJoinPool.commonPool().submit(() -> sheets.byId(each.delivery().destination()));
        List<Path> folders = said.stream().flatMap(s -> s.delivery().into().stream()).toList();
        for (Path source : sources().paths())
            for (Path into : folders)
                if (Files.isDirectory(into) && Files.isSameFile(source, into))
                    throw new OptionConflict(
                            "--into: " + into + " is what is gathered, so results would lie among their sources; choose another folder, or --in-place");
        List<Gathered> found = Gatherer.find(sources().paths(), folders, stopped).stream().filter(g -> !sources.get().removed().contains(g.path())).toList();
        Catalogue catalogue = Catalogue.ofUser();
        catalogue.knowContents(byContent);
        // Few files are read, and few short sounds listened to, before the catalogue is open; instruments are not made to fit so fast.
        List<Gathered> gathered = reader.read(found, found.size() < MANY && !byContent ? Catalogue.none() : catalogue, stopped);
        Measurements heard = new Measurements(path, areSoonHeard(gathered) && !byContent ? Catalogue.none() : catalogue, catalogue);
        List<Planned> planned = new ArrayList<>();
        for (DestinationOptions.Said each : said) {
            Delivery to = each.delivery();
            DestinationSheet sheet = sheets.find(to.destination());
            Card card = to.into().isPresent() ? Cards.of(to.into().get(), sheet) : Card.EMPTY;
            planned.add(new Planned(ListeningPlanner.plan(gathered, sheet, to.options(),
                    each.edits(gathered, sources().job().map(Job::edits).orElse(Map.of())), heard, card, stopped,
                    new Listening(quiet ? _ -> {} : err::println)), to.into()));
        }
        return planned;
    }

    private static boolean areSoonHeard(List<Gathered> gathered) {
        return gathered.stream().mapToInt(g -> g.instruments().map(i -> i.samples().size()).orElse(1)).sum() < MANY
                && gathered.stream().mapToLong(g -> g.path().toFile().length()).sum() < MANY_BYTES;
    }

    /// Told what takes a while.
    private static final class Listening implements ListeningPlanner.Progress {
        private final Consumer<String> say;
        /// Tenths that were told, of what is listened to and of the instruments that are made to fit.
        private final AtomicInteger heard = new AtomicInteger(), fitted = new AtomicInteger();
        private volatile int instruments;

        Listening(Consumer<String> say) { this.say = say; }

        @Override public void heard(int done, int of) {
            int tenths = done * 10 / of;
            if (of >= MANY && heard.getAndSet(tenths) != tenths) say.accept("listening to " + done + " of " + of);
        }

        @Override public void fitting(int count) {
            instruments = count;
            fitted.set(0);
            say.accept("making " + Told.count(count, "instrument") + " fit …");
        }

        @Override public void fitted(double part) {
            int tenths = (int) (part * 10);
            if (instruments >= MANY_INSTRUMENTS && tenths > fitted.getAndAccumulate(tenths, Math::max))
                say.accept("making " + Told.count(instruments, "instrument") + " fit: " + tenths * 10 + " %");
        }
    }
}
