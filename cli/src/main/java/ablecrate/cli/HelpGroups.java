package ablecrate.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine;
import picocli.CommandLine.Help;
import picocli.CommandLine.Model.OptionSpec;

/// Help with options grouped as one thinks of them, not by the alphabet.
final class HelpGroups {
    /// Options by their names, in the order in which they are told; what is not named here comes under "Running".
    private static final Map<String, List<String>> GROUPS = new LinkedHashMap<>();
    static {
        GROUPS.put("Where to", List.of("for", "into", "in-place", "preset"));
        GROUPS.put("Format", List.of("container", "rate", "depth", "channels", "mono", "dither", "quality", "bit-rate", "facts"));
        GROUPS.put("Levels, ends and loops", List.of("level", "together", "ceiling", "ceiling-by", "limiting", "overs", "fade-in", "fade-out", "fade-in-shape",
                "fade-out-shape", "trim", "dc", "loop-crossfade", "treat"));
        GROUPS.put("Damage", List.of("check", "damage", "mend-clicks", "line-up"));
        GROUPS.put("Instruments", List.of("map", "gaps", "start-key", "kit-step", "one-kit", "middle-c", "name-part", "one-bank", "bank-each", "instrument",
                "no-playing-defaults"));
        GROUPS.put("Names, folders and kits", List.of("name", "mirror", "first-kit", "kit-name", "pad-order", "pad"));
        GROUPS.put("What is there already", List.of("existing", "verify"));
        GROUPS.put("Running", List.of());
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
