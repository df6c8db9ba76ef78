package ablecrate.option;

/// The page of options.
public final class OptionsPage {
    private OptionsPage() {}

    /// All options as Markdown, a table for each group.
    public static String markdown() {
        StringBuilder out = new StringBuilder();
        for (OptionGroup group : OptionGroup.values()) {
            out.append("## ").append(group.title()).append("\n\n| option | in the window | what it does | default |\n|---|---|---|---|\n");
            Options.ALL.stream().filter(o -> o.group() == group).forEach(o -> out.append(row(o)));
            if (group == OptionGroup.LEVELS) out.append("\n¹ of chosen sounds too, with `--treat` and in the window\n");
            out.append('\n');
        }
        return out.toString();
    }

    private static <T> String row(Option<T> option) {
        String said = String.join(", ", option.kind().texts(option.usual()));
        String usual = option.kind() instanceof Kind.Flag<T> ? said.isEmpty() ? option.kind().label(option.usual()) : said.equals("true") ? "yes" : "no" : said;
        String sample = option.kind().sample().isEmpty() ? "" : " " + option.kind().sample().replace("|", "\\|");
        return "| `--" + option.id() + sample + "`" + (option.isOfSounds() ? " ¹" : "") + " | " + option.title() + " | " + option.help().replace("|", "\\|")
                + " | " + usual + " |\n";
    }
}
