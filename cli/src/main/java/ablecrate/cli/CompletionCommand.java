package ablecrate.cli;

import java.io.PrintWriter;
import java.util.concurrent.Callable;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "completion", mixinStandardHelpOptions = true, description = {"Prints a script by which a shell completes commands and options.",
    "bash, zsh: source <(ablecrate completion bash)", "fish: ablecrate completion fish | source"}) final class CompletionCommand implements Callable<Integer> {
    @Spec private CommandSpec spec;
    @Parameters(paramLabel = "bash|zsh|fish") private String shell;

    @Override public Integer call() {
        CommandLine all = Main.line();
        PrintWriter out = spec.commandLine().getOut();
        switch (shell) {
            case "bash", "zsh" -> out.println(AutoComplete.bash("ablecrate", all));
            case "fish" -> fish(out, all);
            default -> throw new ParameterException(spec.commandLine(), "no script for '" + shell + "'; there are bash, zsh and fish");
        }
        out.flush();
        return Main.ALL_PACKED;
    }

    private static void fish(PrintWriter out, CommandLine all) {
        all.getSubcommands().forEach((name, command) -> {
            out.println("complete -c ablecrate -n __fish_use_subcommand -f -a " + name + " -d '" + first(command.getCommandSpec().usageMessage().description())
                    + "'");
            for (OptionSpec option : command.getCommandSpec().options())
                if (option.longestName().startsWith("--"))
                    out.println("complete -c ablecrate -n '__fish_seen_subcommand_from " + name + "' -l " + option.longestName().substring(2)
                            + (option.arity().max() > 0 ? " -r" : "") + " -d '" + first(option.description()) + "'");
        });
    }

    private static String first(String[] description) { return description.length == 0 ? "" : description[0].replace("'", "’").replace("%%", "%"); }
}
