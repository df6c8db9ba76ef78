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

    /// Those that follow the first; each stands behind an `--and`.
    /// @param command that they are said to
    static List<DestinationOptions> further(String[] words, CommandLine command) {
        List<DestinationOptions> all = new ArrayList<>();
        for (int at = PlanningOptions.firstAnd(words); at < words.length;) {
            int next = at + 1;
            while (next < words.length && !words[next].equals(PlanningOptions.AND))
                next++;
            Further further = new Further();
            CommandLine line = new CommandLine(further).setCommandName(command.getCommandSpec().qualifiedName());
            line.setErr(command.getErr()).parseArgs(List.of(words).subList(at + 1, next).toArray(String[]::new));
            all.add(further.said);
            at = next;
        }
        return all;
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
                from.flatMap(Delivery::into)));
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
