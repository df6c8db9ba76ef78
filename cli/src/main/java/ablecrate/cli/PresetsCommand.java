package ablecrate.cli;

import ablecrate.job.Presets;
import ablecrate.plan.OptionConflict;
import ablecrate.plan.PackOptions;
import java.io.IOException;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "presets", mixinStandardHelpOptions = true, description = "Named sets of options: lists, saves, renames, deletes them.", subcommands = {
    PresetsCommand.Save.class, PresetsCommand.Rename.class, PresetsCommand.Delete.class}) final class PresetsCommand implements Callable<Integer> {
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
        @Mixin private OptionsMixin options;

        @Override public Integer call() throws Exception {
            named(name);
            Presets.ofUser().save(name, new Presets.Preset(destination, options.options(PackOptions.DEFAULT)));
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
