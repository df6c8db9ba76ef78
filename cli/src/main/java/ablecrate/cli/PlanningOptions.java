package ablecrate.cli;

import ablecrate.audio.Depth;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.Dither;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.plan.Choice;
import ablecrate.plan.ExistingFiles;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.OptionConflict;
import ablecrate.plan.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.plan.Planner;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/// What `plan` and `pack` share: sources, destination, options.
final class PlanningOptions {
    @Parameters(paramLabel = "PATH", arity = "1..*", description = "Files and folders.") private List<Path> paths;
    @Option(names = "--for", required = true, paramLabel = "DEST", description = "Id of a built-in destination, or a sheet's file; 'files' has no limits but the options.") private String destination;
    @Option(names = "--container", paramLabel = "wav|aiff|keep") private String container;
    @Option(names = "--rate", paramLabel = "HZ|keep") private String rate;
    @Option(names = "--depth", paramLabel = "8|16|24|32|32f|64f|keep") private String depth;
    @Option(names = "--channels", paramLabel = "keep|mono|stereo|split") private String channels;
    @Option(names = "--mono", paramLabel = "mid|left|right", description = "What a stereo sound becomes in mono; default mid.") private MonoLaw mono = MonoLaw.MID;
    @Option(names = "--dither", paramLabel = "none|tpdf|shaped", description = "Where depth falls; default tpdf.") private Dither dither = Dither.TPDF;
    @Option(names = "--name", paramLabel = "PATTERN", description = "Names of results, with (name) (folder) (number) (root) (rate) (depth) (channel) (kit) (pad); dots are digits: (number...) makes 007.") private String name;
    @Option(names = "--existing", paramLabel = "skip|replace|number", description = "Where a file of that name is there; default skip.") private ExistingFiles existing = ExistingFiles.SKIP;
    @Option(names = "--mirror", description = "Rebuild the folders of the source.") private boolean mirror;

    List<Path> paths() { return paths; }

    PackingList plan() throws IOException, Json.JsonFault, OptionConflict {
        return Planner.plan(Gatherer.readAll(Gatherer.find(paths, () -> false)), new SheetCatalogue().find(destination), options());
    }

    private PackOptions options() throws OptionConflict {
        return new PackOptions(choice(container, Optional::of, "--container"), choice(rate, PlanningOptions::hertz, "--rate"),
                choice(depth, Depth::byId, "--depth"),
                channels == null ? Optional.empty() : Optional.of(ChannelChoice.byId(channels).orElseThrow(() -> unknown("--channels", channels))), mono,
                dither, Optional.ofNullable(name),
                existing, mirror ? Optional.of(true) : Optional.empty());
    }

    private interface Parser<T> {
        Optional<T> parse(String text);
    }

    private static <T> Choice<T> choice(String text, Parser<T> parser, String option) throws OptionConflict {
        if (text == null) return Choice.asDestination();
        if (text.equals("keep")) return Choice.keep();
        return Choice.of(parser.parse(text).orElseThrow(() -> unknown(option, text)));
    }

    private static Optional<Integer> hertz(String text) {
        try {
            int hz = Integer.parseInt(text);
            return hz >= 1000 && hz <= 1_000_000 ? Optional.of(hz) : Optional.empty();
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private static OptionConflict unknown(String option, String value) {
        return new OptionConflict(option + ": '" + value + "' is none of its values; 'ablecrate plan --help' lists them");
    }
}
