package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import picocli.CommandLine;

/// The README tells of every option that is there, and of no other.
class ReadmeTest {
    private static final Set<String> EVERYWHERE = Set.of("--help", "--version", "--shots", "--crate");

    @Test void theOptionsOfTheReadmeAreThoseOfTheProgram() throws Exception {
        Set<String> told = new TreeSet<>(), there = new TreeSet<>();
        Matcher found = Pattern.compile("--[a-z][a-z-]+").matcher(Files.readString(Path.of("..", "README.md")));
        while (found.find())
            told.add(found.group());
        for (CommandLine command : Main.line().getSubcommands().values())
            collect(command, there);
        there.remove("--markdown"); // for the page in docs alone
        there.removeAll(EVERYWHERE);
        told.removeAll(EVERYWHERE);
        assertThat(told).isEqualTo(there);
    }

    private static void collect(CommandLine command, Set<String> options) {
        command.getCommandSpec().options().forEach(o -> options.add(o.longestName()));
        command.getSubcommands().values().forEach(c -> collect(c, options));
    }

    @Test void everyOptionSaysWhatItTakes() {
        for (CommandLine command : Main.line().getSubcommands().values())
            command.getCommandSpec().options()
                    .forEach(o -> assertThat(o.description().length + o.paramLabel().length()).as(command.getCommandName() + " " + o.longestName())
                            .isPositive());
    }
}
