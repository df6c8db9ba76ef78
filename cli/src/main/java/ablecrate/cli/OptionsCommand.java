package ablecrate.cli;

import ablecrate.option.Option;
import ablecrate.option.OptionGroup;
import ablecrate.option.Options;
import ablecrate.option.OptionsPage;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

@Command(name = "options", mixinStandardHelpOptions = true, description = "What can be chosen in 'plan', 'pack' and presets, and what holds without a word.") final class OptionsCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;
    @picocli.CommandLine.Option(names = "--markdown", description = "As Markdown tables.") private boolean markdown;

    @Override public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        if (markdown) {
            out.print(OptionsPage.markdown());
            out.flush();
            return Main.ALL_PACKED;
        }
        for (OptionGroup group : OptionGroup.values()) {
            List<List<String>> rows = new ArrayList<>(List.of(List.of(group.title().toUpperCase(Locale.ROOT), "")));
            for (Option<?> option : Options.ALL)
                if (option.group() == group) rows.add(List.of("--" + option.id() + " " + option.kind().sample(), option.explained()));
            Tables.print(out, rows);
            out.println();
        }
        return Main.ALL_PACKED;
    }
}
