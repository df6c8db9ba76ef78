package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import picocli.CommandLine;

/// README, commands and options: they tell of every option that is there, and of no other.
class ReadmeTest {
    private static final Set<String> EVERYWHERE = Set.of("--help", "--version", "--shots", "--crate", "--markdown");

    @Test void theOptionsOfTheReadmeAreThoseOfTheProgram() throws Exception {
        Set<String> told = new TreeSet<>(), there = new TreeSet<>();
        StringBuilder pages = new StringBuilder();
        for (String page : List.of("README.md", "docs/commands.md", "docs/options.md"))
            pages.append(Files.readString(Path.of("..", page)));
        Matcher found = Pattern.compile("--(?:no-)?([a-z][a-z-]+)").matcher(pages);
        while (found.find())
            told.add("--" + found.group(1));
        for (CommandLine command : Main.line().getSubcommands().values())
            collect(command, there);
        there.removeAll(EVERYWHERE);
        told.removeAll(EVERYWHERE);
        assertThat(told).isEqualTo(there);
    }

    private static void collect(CommandLine command, Set<String> options) {
        command.getCommandSpec().options().forEach(o -> options.add(o.longestName().replace("--no-", "--")));
        command.getSubcommands().values().forEach(c -> collect(c, options));
    }

    @Test void everyOptionSaysWhatItTakes() {
        for (CommandLine command : Main.line().getSubcommands().values())
            command.getCommandSpec().options()
                    .forEach(o -> assertThat(o.description().length + o.paramLabel().length()).as(command.getCommandName() + " " + o.longestName())
                            .isPositive());
    }
}
