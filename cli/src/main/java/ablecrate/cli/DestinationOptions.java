package ablecrate.cli;

import ablecrate.job.Delivery;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.job.Presets;
import ablecrate.json.Json;
import ablecrate.library.Gathered;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParseResult;

/// A destination as it is said: which, with which options, into which folder.
final class DestinationOptions {
    @Option(names = "--for", paramLabel = "DEST", description = "Id of a built-in destination, or a sheet's file; 'files' has no limits but the options.") private String destination;
    @Option(names = "--preset", paramLabel = "NAME", description = "Options and destination that were saved under a name, or in a job file; further options go before them.") private String preset;
    @Option(names = "--into", paramLabel = "DIR", description = "Where to write; made if it is not there. A plan is as it would be there: what is new, what is there, what changed since.") private Path into;
    @Mixin private OptionsMixin options;

    /// What stands behind an `--and`.
    @Command private static final class Further {
        @Mixin private DestinationOptions said;
    }

    /// @param further what is said behind each `--and`
    /// @param ofRun the other words: the first destination, and what holds for the whole run, wherever it stands
    record Words(List<DestinationOptions> further, String[] ofRun) {}

    /// Takes the words of further destinations from those of a command.
    static Words split(String[] words) {
        List<DestinationOptions> further = new ArrayList<>();
        int end = nextAnd(words, 0);
        List<String> ofRun = new ArrayList<>(List.of(words).subList(0, end));
        while (end < words.length) {
            int next = nextAnd(words, end + 1);
            Further said = new Further();
            ParseResult read = new CommandLine(said).setUnmatchedArgumentsAllowed(true)
                    .parseArgs(List.of(words).subList(end + 1, next).toArray(String[]::new));
            ofRun.addAll(read.unmatched());
            further.add(said.said);
            end = next;
        }
        return new Words(further, ofRun.toArray(String[]::new));
    }

    private static int nextAnd(String[] words, int from) {
        int at = from;
        while (at < words.length && !words[at].equals(PlanningOptions.AND))
            at++;
        return at;
    }

    /// A destination, and how single sounds are treated for it.
    record Said(Delivery delivery, DestinationOptions by) {
        Map<Path, ItemEdit> edits(List<Gathered> gathered, Map<Path, ItemEdit> base) throws OptionConflict {
            Treatment ofAll = delivery.options().treatment();
            return by.options.edits(gathered, base, ofAll);
        }
    }

    /// What is said, on top of what a preset or the job has; all destinations of the job where none is said.
    List<Said> said(Optional<Job> job) throws IOException, Json.JsonFault, OptionConflict {
        List<Delivery> base = base(job);
        if (into != null && base.size() > 1)
            throw new OptionConflict("--into: the job has " + base.size() + " destinations, each with a folder of its own; say with --for which one is meant");
        List<Said> said = new ArrayList<>();
        for (Delivery d : base)
            said.add(new Said(new Delivery(d.destination(), options.options(d.options()), into == null ? d.into() : Optional.of(into)), this));
        return said;
    }

    private List<Delivery> base(Optional<Job> job) throws IOException, Json.JsonFault, OptionConflict {
        Optional<Delivery> saved = preset == null ? Optional.empty() : Optional.of(ofPreset());
        if (saved.isEmpty() && destination == null && job.isPresent()) return job.get().deliveries();
        Optional<Delivery> from = saved.or(() -> job.map(this::fromJob));
        if (destination == null && from.isEmpty())
            throw new OptionConflict("--for: which destination? 'ablecrate destinations' lists them; presets and jobs have one as well");
        return List.of(new Delivery(destination == null ? from.get().destination() : destination, from.map(Delivery::options).orElse(PackOptions.DEFAULT),
                // The folder is the job's, whatever is packed of it.
                job.map(this::fromJob).flatMap(Delivery::into)));
    }

    /// The job's own for this destination, if it has one.
    private Delivery fromJob(Job job) {
        return job.deliveries().stream().filter(d -> d.destination().equals(destination)).findFirst().orElse(job.deliveries().getFirst());
    }

    private Delivery ofPreset() throws IOException, Json.JsonFault {
        if (preset.endsWith(Jobs.EXTENSION)) {
            Delivery of = Jobs.open(Path.of(preset)).deliveries().getFirst();
            return of.packingInto(Optional.empty());
        }
        Presets.Preset saved = Presets.ofUser().find(preset);
        return new Delivery(saved.destination(), saved.options(), Optional.empty());
    }
}
