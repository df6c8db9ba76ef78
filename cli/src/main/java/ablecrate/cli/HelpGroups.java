package ablecrate.cli;

import ablecrate.option.OptionGroup;
import ablecrate.option.Options;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import picocli.CommandLine;
import picocli.CommandLine.Help;
import picocli.CommandLine.Model.OptionSpec;

/// Help with options grouped as one thinks of them, not by the alphabet.
final class HelpGroups {
    private static final String RUNNING = "Running";
    /// Options by their names, in the order in which they are told; what is not named here comes under "Running".
    private static final Map<String, List<String>> GROUPS = groups();

    private static Map<String, List<String>> groups() {
        Map<String, List<String>> groups = new LinkedHashMap<>();
        groups.put("Where to", List.of("for", "into", "in-place", "preset", "and"));
        for (OptionGroup group : OptionGroup.values())
            groups.put(group.title(), Stream.concat(Options.ALL.stream().filter(o -> o.group() == group).flatMap(o -> Stream.of(o.id(), "no-" + o.id())),
                    group == OptionGroup.LEVELS ? Stream.of("treat") : Stream.empty()).toList());
        groups.put(RUNNING, List.of());
        return groups;
    }

    private HelpGroups() {}

    static void use(CommandLine command) {
        command.getHelpSectionMap().put(CommandLine.Model.UsageMessageSpec.SECTION_KEY_OPTION_LIST, HelpGroups::render);
        command.setUsageHelpAutoWidth(true);
        command.getCommandSpec().usageMessage().abbreviateSynopsis(true);
        command.getCommandSpec().usageMessage().optionListHeading("");
    }

    private static String render(Help help) {
        List<OptionSpec> left = new ArrayList<>(help.commandSpec().options().stream().filter(o -> !o.hidden()).toList());
        StringBuilder text = new StringBuilder();
        GROUPS.forEach((heading, names) -> {
            List<OptionSpec> options = new ArrayList<>();
            for (String name : names)
                left.stream().filter(o -> o.longestName().equals("--" + name)).findFirst().ifPresent(options::add);
            left.removeAll(options);
            if (names.isEmpty()) options.addAll(left);
            if (options.isEmpty()) return;
            Help.Layout layout = help.createDefaultLayout();
            layout.addOptions(options, help.parameterLabelRenderer());
            text.append(System.lineSeparator()).append(heading).append(System.lineSeparator()).append(layout);
        });
        return text.toString();
    }
}
