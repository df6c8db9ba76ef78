package ablecrate.cli;

import ablecrate.job.Jobs;
import ablecrate.job.Presets;
import ablecrate.json.Json;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import java.io.IOException;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "presets", mixinStandardHelpOptions = true, description = "Named sets of options: lists, shows, saves, renames, deletes them.", subcommands = {
    PresetsCommand.Show.class, PresetsCommand.Save.class, PresetsCommand.Rename.class, PresetsCommand.Delete.class}) final class PresetsCommand
            implements
                Callable<Integer> {
    @Spec private CommandSpec spec;

    @Override public Integer call() throws IOException {
        Presets.ofUser().names().forEach(spec.commandLine().getOut()::println);
        return Main.ALL_PACKED;
    }

    @Command(name = "save", mixinStandardHelpOptions = true, description = "Saves the options that follow under a name.") static final class Save
            implements
                Callable<Integer> {
        @Parameters(paramLabel = "NAME") private String name;
        @Option(names = "--for", required = true, paramLabel = "DEST", description = "The destination that they are for.") private String destination;
        @Option(names = "--replace", description = "In place of a preset of that name.") private boolean replace;
        @Mixin private OptionsMixin options;

        @Override public Integer call() throws Exception {
            named(name);
            if (!replace && Presets.ofUser().names().contains(name))
                throw new OptionConflict("there is a preset '" + name + "' already; --replace takes its place, 'presets show' prints it");
            Presets.ofUser().save(name, new Presets.Preset(destination, options.options(PackOptions.DEFAULT)));
            return Main.ALL_PACKED;
        }
    }

    @Command(name = "show", mixinStandardHelpOptions = true, description = "Prints a preset as JSON, with the keys of a job file.") static final class Show
            implements
                Callable<Integer> {
        @Spec private CommandSpec spec;
        @Parameters(paramLabel = "NAME") private String name;

        @Override public Integer call() throws Exception {
            Presets.Preset preset = Presets.ofUser().find(name);
            spec.commandLine().getOut().print(Json.write(Jobs.keys(preset.options(), preset.destination())));
            spec.commandLine().getOut().flush();
            return Main.ALL_PACKED;
        }
    }

    @Command(name = "rename", mixinStandardHelpOptions = true, description = "Gives a preset another name.") static final class Rename
            implements
                Callable<Integer> {
        @Parameters(index = "0", paramLabel = "NAME") private String name;
        @Parameters(index = "1", paramLabel = "NEW-NAME") private String newName;

        @Override public Integer call() throws Exception {
            Presets presets = Presets.ofUser();
            presets.find(name);
            presets.rename(name, named(newName));
            return Main.ALL_PACKED;
        }
    }

    @Command(name = "delete", mixinStandardHelpOptions = true, description = "Deletes a preset.") static final class Delete implements Callable<Integer> {
        @Parameters(paramLabel = "NAME") private String name;

        @Override public Integer call() throws Exception {
            Presets.ofUser().find(name);
            Presets.ofUser().delete(name);
            return Main.ALL_PACKED;
        }
    }

    private static String named(String name) throws OptionConflict {
        var fault = Presets.fault(name);
        if (fault.isPresent()) throw new OptionConflict(fault.get());
        return name;
    }
}
