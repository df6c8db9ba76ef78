package ablecrate.cli;

import ablecrate.disk.DiskFault;
import ablecrate.json.Json;
import ablecrate.json.Product;
import ablecrate.option.OptionConflict;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;
import picocli.CommandLine.Spec;
import picocli.CommandLine;

/// The commands of Able Crate. Exit: 0 all packed, 1 something was blocked or failed, 2 wrong usage, 130 stopped.
@Command(name = "ablecrate", mixinStandardHelpOptions = true, version = Product.NAME + " " + Product.VERSION, description = {
    "Carries sample libraries between formats, rates and depths; keeps loops, mappings and levels.",
    "Without a command the window opens; 'demo' opens it with the demo crate; 'test' builds and runs all tests."}) public final class Main implements Runnable {
    static final int ALL_PACKED = 0, SOME_LEFT = 1, WRONG_USAGE = 2, STOPPED = 130;

    private static final Set<String> VERSION = Set.of("--version", "-V");
    private static final Map<String, Class<?>> COMMANDS = new LinkedHashMap<>();
    static {
        for (Class<?> command : List.of(InspectCommand.class, PlanCommand.class, PackCommand.class, DestinationsCommand.class, FormatsCommand.class,
                LoadCommand.class, SendCommand.class, ReceiveCommand.class, SessionCommand.class, RelinkCommand.class,
                OptionsCommand.class,
                RestoreCommand.class, PresetsCommand.class, CatalogueCommand.class, CompletionCommand.class))
            COMMANDS.put(command.getAnnotation(Command.class).name(), command);
    }

    @Spec private CommandSpec spec;

    public static void main(String[] arguments) {
        int exit = run(new PrintWriter(System.out, true), new PrintWriter(System.err, true), arguments);
        if (exit != ALL_PACKED) System.exit(exit);
    }

    static int run(PrintWriter out, PrintWriter err, String... arguments) {
        CommandLine line = line(arguments);
        line.setOut(out).setErr(err).setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((e, command, _) -> failed(e, command));
        line.setParameterExceptionHandler((e, _) -> wrongUsage(e));
        CommandLine command = arguments.length == 0 ? null : line.getSubcommands().get(arguments[0]);
        if (command == null || !(command.getCommandSpec().userObject() instanceof PlanningOptions.Taking taking)) return line.execute(arguments);
        try {
            DestinationOptions.Words words = DestinationOptions.split(arguments);
            taking.planning().alsoFor(words.further());
            return line.execute(words.ofRun());
        } catch (ParameterException e) {
            // Said behind an --and.
            return wrongUsage(new ParameterException(command, e.getMessage()));
        }
    }

    /// With the command that the arguments begin with; with all of them if they name none.
    static CommandLine line(String... arguments) {
        CommandLine line = new CommandLine(new Main());
        // Reading the options of all commands takes longer than many a command itself; only help needs them all.
        if (arguments.length == 1 && VERSION.contains(arguments[0])) return line;
        Class<?> wanted = arguments.length == 0 ? null : COMMANDS.get(arguments[0]);
        for (Class<?> command : wanted == null ? COMMANDS.values() : List.<Class<?>>of(wanted))
            line.addSubcommand(command);
        line.getSubcommands().values().forEach(HelpGroups::use);
        return line;
    }

    /// One line, and where there is more.
    private static int wrongUsage(ParameterException e) {
        CommandLine command = e.getCommandLine();
        String name = command.getCommandSpec().qualifiedName();
        List<String> near = e instanceof UnmatchedArgumentException unmatched ? unmatched.getSuggestions() : List.of();
        String what = e.getMessage().lines().findFirst().orElse("wrong usage");
        return told(command,
                what + (near.isEmpty() ? "" : "; did you mean '" + name + " " + String.join("' or '" + name + " ", near) + "'?") + " ('" + name
                        + " --help' says more)",
                WRONG_USAGE);
    }

    private static int failed(Exception e, CommandLine command) {
        return switch (e) {
            case OptionConflict conflict -> told(command, conflict.getMessage(), WRONG_USAGE);
            case Json.JsonFault fault -> told(command, fault.getMessage(), WRONG_USAGE);
            case ParameterException wrong -> wrongUsage(wrong);
            case java.nio.file.NoSuchFileException missing -> told(command, "no file or folder '" + missing.getFile() + "'", WRONG_USAGE);
            case IOException io -> told(command, DiskFault.text(io), SOME_LEFT);
            default -> throw new IllegalStateException(e);
        };
    }

    private static int told(CommandLine command, String message, int exit) {
        command.getErr().println("ablecrate: " + message);
        return exit;
    }

    @Override public void run() { throw new ParameterException(spec.commandLine(), "which command? 'ablecrate --help' lists them"); }
}
