package ablecrate.cli;

import ablecrate.library.Gathered;
import ablecrate.option.Kind;
import ablecrate.option.Option;
import ablecrate.option.Options;
import ablecrate.option.ItemEdit;
import ablecrate.option.NameGlob;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Spec;

/// The options that decide how sounds are packed, as [Options] has them; what is not said stays as it was.
final class OptionsMixin {
    private static final String NOT = "no-";

    @picocli.CommandLine.Option(names = "--treat", paramLabel = "PATTERN:SETTINGS", description = "Levels, ends and loops of the sounds with such names alone: '--treat \"kick*: level peak:-1, fade-out 30\"'; settings are the options of this group without their hyphens. May be repeated; a later one goes on from an earlier.") private List<String> treats = List
            .of();

    private CommandSpec command;

    /// Called with the command that these options are for.
    @Spec(Spec.Target.MIXEE) void addTo(CommandSpec mixee) {
        command = mixee;
        for (Option<?> option : Options.ALL)
            if (option.kind() instanceof Kind.Flag<?>) {
                mixee.addOption(flag(option, "", isUsual(option))).addOption(flag(option, NOT, !isUsual(option)));
            } else
                mixee.addOption(OptionSpec.builder("--" + option.id()).paramLabel(option.kind().sample()).description(option.explained())
                        .type(List.class).auxiliaryTypes(String.class).arity("1").build());
    }

    /// Both ways of a flag can be said; help tells of the one that changes something.
    private static OptionSpec flag(Option<?> option, String not, boolean isHidden) {
        return OptionSpec.builder("--" + not + option.id()).description((not.isEmpty() ? "" : "Not: ") + option.help()).type(boolean.class).arity("0")
                .hidden(isHidden).build();
    }

    private static <T> boolean isUsual(Option<T> option) { return option.kind().texts(option.usual()).equals(List.of("true")); }

    /// The options said, on top of what holds without them.
    PackOptions options(PackOptions base) throws OptionConflict {
        PackOptions options = base;
        for (Option<?> option : Options.ALL) {
            List<String> said = said(option);
            if (!said.isEmpty()) options = option.said(options, said);
        }
        return options;
    }

    private List<String> said(Option<?> option) throws OptionConflict {
        if (!(option.kind() instanceof Kind.Flag<?>)) {
            List<String> words = command.findOption("--" + option.id()).getValue();
            return words == null ? List.of() : words;
        }
        boolean isYes = isSaid(option.id()), isNo = isSaid(NOT + option.id());
        if (isYes && isNo) throw new OptionConflict("--" + option.id() + " and --" + NOT + option.id() + " ask for opposite things");
        return isYes || isNo ? List.of(Boolean.toString(isYes)) : List.of();
    }

    private boolean isSaid(String name) { return Boolean.TRUE.equals(command.findOption("--" + name).getValue()); }

    /// Settings of single sounds on top of those that a job has for them.
    Map<Path, ItemEdit> edits(List<Gathered> gathered, Map<Path, ItemEdit> base, Treatment ofAll) throws OptionConflict {
        Map<Path, ItemEdit> edits = new HashMap<>(base);
        for (String treat : treats) {
            int colon = treat.indexOf(':');
            if (colon < 1) throw new OptionConflict("--treat: '" + treat + "' has no ':' between the names and their settings, as in \"kick*: fade-out 30\"");
            NameGlob names = new NameGlob(treat.substring(0, colon).strip());
            List<Gathered> named = gathered.stream().filter(g -> names.matches(g.relative())).toList();
            if (named.isEmpty()) throw new OptionConflict("--treat: no sound is named '" + treat.substring(0, colon).strip() + "'");
            for (Gathered g : named) {
                ItemEdit edit = edits.getOrDefault(g.path(), ItemEdit.NONE);
                edits.put(g.path(), edit.withOwn(edit.own().changed(ofAll, treated(edit.treatment(ofAll), treat.substring(colon + 1)))));
            }
        }
        return edits;
    }

    /// `level peak:-1, fade-out 30` said of a sound; in the order of the options, as in the whole job, not in that of the words.
    private static Treatment treated(Treatment base, String settings) throws OptionConflict {
        Map<Option<?>, List<String>> said = new HashMap<>();
        for (String setting : settings.split(",")) {
            String[] words = setting.strip().split("[\\s=]+", 2);
            boolean isNot = words[0].startsWith(NOT);
            Option<?> option = ofSounds(isNot ? words[0].substring(NOT.length()) : words[0]);
            boolean isFlag = option.kind() instanceof Kind.Flag<?>;
            if (!isFlag && words.length < 2) throw new OptionConflict("--treat: '" + words[0] + "' needs a value, " + option.kind().sample());
            said.put(option, List.of(isFlag ? Boolean.toString(!isNot) : words[1].strip()));
        }
        Treatment treatment = base;
        for (Option<?> option : Options.ofSounds())
            if (said.containsKey(option)) treatment = option.said(treatment, said.get(option));
        return treatment;
    }

    private static Option<?> ofSounds(String id) throws OptionConflict {
        return Options.ofSounds().stream().filter(o -> o.id().equals(id)).findFirst().orElseThrow(() -> new OptionConflict("--treat: '" + id
                + "' is no setting of levels, ends or loops; they are " + Options.ofSounds().stream().map(Option::id).sorted().collect(Collectors.joining(
                        ", "))));
    }
}
