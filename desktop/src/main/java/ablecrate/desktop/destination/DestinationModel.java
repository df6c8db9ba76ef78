package ablecrate.desktop.destination;

import ablecrate.desktop.Typed;
import ablecrate.desktop.crate.ClickTracks;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.crate.Overview;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern;
import ablecrate.library.Gathered;
import ablecrate.library.Stems;
import ablecrate.option.Joining;
import ablecrate.option.Kind;
import ablecrate.option.Option;
import ablecrate.option.Options;
import ablecrate.change.Change;
import ablecrate.change.Told;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/// What a sheet leaves to the user, and the fixes that its rules offer.
public final class DestinationModel {
    /// A session that is there has these already.
    private static final Set<String> OF_NEW_SESSIONS = Set.of("rate", "depth", "tempo", "meter");
    private final CrateModel crate;
    private final ClickTracks clickTracks;

    public DestinationModel(CrateModel crate, ClickTracks clickTracks) {
        this.crate = crate;
        this.clickTracks = clickTracks;
    }

    public CrateModel crate() { return crate; }

    private DestinationSheet sheet() { return crate.sheetProperty().get(); }

    private PackOptions options() { return crate.job().options(); }

    /// An option that is open, with its value.
    /// @param values that are offered, the present one among them; none where it is typed
    public record Open<T>(Option<T> option, List<T> values, T value, CrateModel crate) {
        static <T> Open<T> of(Option<T> option, CrateModel crate) {
            PackOptions options = crate.job().options();
            return new Open<>(option, option.values(crate.sheetProperty().get(), options), option.get(options), crate);
        }

        public String id() { return option.id(); }

        public String text(T of) { return option.kind().label(of); }

        public void set(T other) { crate.changeOptions(o -> option.with(o, other), inSentence(option.title())); }

        /// A word that is written in capitals stays so.
        private static String inSentence(String title) {
            return Character.isUpperCase(title.charAt(1)) ? title : title.substring(0, 1).toLowerCase(Locale.ROOT) + title.substring(1);
        }

        /// Takes what was typed over; nothing is what holds where nothing is said.
        /// @return what is wrong with it
        public Optional<String> type(String typed) {
            String said = option.kind() instanceof Kind.Number<?> ? Typed.number(typed) : typed;
            if (said.strip().equals(text(value))) return Optional.empty();
            try {
                T read = said.isBlank() ? option.usual() : option.kind().parse(option.kind().split(said));
                option.with(crate.job().options(), read);
                set(read);
                return Optional.empty();
            } catch (IllegalArgumentException e) {
                return Optional.of(e.getMessage());
            }
        }
    }

    /// What is open at this destination. Levels, ends and loops have a form of their own, names a field with a preview.
    public List<Open<?>> openOptions() {
        boolean isFixed = crate.listProperty().get().session().filter(s -> !s.isNew()).isPresent();
        return Options.ALL.stream()
                .filter(o -> !o.isOfSounds() && o != Options.NAME && o.isOpen(sheet(), options()) && !(isFixed && OF_NEW_SESSIONS.contains(o.id())))
                .<Open<?>>map(o -> Open.of(o, crate))
                .toList();
    }

    private boolean accepts(int channels) { return sheet().accepts().channels().isEmpty() || sheet().accepts().channels().contains(channels); }

    private void set(String what, PackOptions next) { crate.changeOptions(_ -> next, what); }

    public String namePattern() { return options().namePattern().orElse(sheet().names().pattern()); }

    /// Takes a pattern over if it is one.
    /// @return what is wrong with it
    public Optional<String> setNamePattern(String pattern) {
        try {
            NamePattern.parse(pattern);
        } catch (IllegalArgumentException e) {
            return Optional.of(e.getMessage());
        }
        Optional<String> own = pattern.equals(sheet().names().pattern()) ? Optional.empty() : Optional.of(pattern);
        // While one types it is one step.
        if (!own.equals(options().namePattern())) crate.dragOptions(o -> o.withNamePattern(own), "names");
        return Optional.empty();
    }

    /// What the first sound that goes will be called, and how many names do not come out as the pattern has them, each kind with its first.
    public String namePreview() {
        Overview.Names names = crate.overview().names();
        List<String> lines = new ArrayList<>();
        names.first().ifPresent(n -> lines.add(n.from() + " → " + n.to()));
        told(names, names.numbered(), "numbered, as another has the name").ifPresent(lines::add);
        told(names, names.cut(), "cut").ifPresent(lines::add);
        told(names, names.respelt(), "put into the destination's alphabet").ifPresent(lines::add);
        return String.join("\n", lines);
    }

    private static Optional<String> told(Overview.Names all, Overview.Renamed these, String how) {
        return these.first()
                .map(n -> String.format(Locale.ROOT, "%,d of %s %s: %s → %s", these.count(), Told.count(all.count(), "name"), how, n.from(), n.to()));
    }

    /// A way out of what a rule causes, in words, and what it does.
    public record Fix(String text, Runnable run) {}

    /// What can be done for the stems that a line is one of; nothing if it is none.
    public List<Fix> stemFixes(PackingItem line) {
        Path folder = line.source().path().getParent();
        Map<Path, Stems> stems = Stems.in(crate.gathered().stream().filter(g -> Objects.equals(folder, g.path().getParent())).toList(), _ -> false);
        return Optional.ofNullable(stems.get(line.source().path()))
                .map(s -> List.of(new Fix("Look for click tracks among these " + s.sounds().size() + " stems", clickTracks::takeOut))).orElse(List.of());
    }

    public List<Fix> fixes(Property rule) {
        List<PackingItem> touched = crate.listProperty().get().items().stream().filter(i -> i.change(rule).filter(Change::isOfNote).isPresent())
                .toList();
        List<Fix> fixes = new ArrayList<>();
        List<Path> linked = touched.stream().map(i -> i.source().content()).filter(Gathered.Content.Links.class::isInstance)
                .map(Gathered.Content.Links.class::cast)
                .flatMap(l -> l.list().there().stream()).distinct().toList();
        if (rule == Property.KIND && !linked.isEmpty())
            fixes.add(new Fix("Gather the " + Told.count(linked.size(), "sound") + " that playlists point at",
                    () -> crate.gather(linked)));
        if (rule == Property.STRUCTURE && !touched.isEmpty())
            fixes.add(new Fix("Leave the " + Told.count(touched.size(), "damaged file") + " out",
                    () -> crate.remove(touched.stream().map(i -> i.source().path()).collect(java.util.stream.Collectors.toSet()))));
        if (rule == Property.START && !options().mending().takesLikelyDelay() && !touched.isEmpty())
            fixes.add(new Fix("Take the likely delay off", () -> set("line up", options().withMending(options().mending().withLikelyDelay(true)))));
        if (rule == Property.DAMAGE && !options().mending().mendsClicks() && !touched.isEmpty())
            fixes.add(new Fix("Mend short clicks", () -> set("mend clicks", options().withMending(options().mending().withMending(true)))));
        List<PackingItem> blocked = touched.stream().filter(i -> i.verdict() == Verdict.BLOCKED).toList();
        if (rule == Property.CHANNELS && options().channels().filter(c -> c == ChannelChoice.SPLIT).isEmpty() && accepts(1) && !touched.isEmpty())
            fixes.add(new Fix("Split into mono files", () -> set("split into mono files", options().withChannels(Optional.of(ChannelChoice.SPLIT)))));
        if (rule == Property.NAME && !touched.isEmpty() && !namePattern().equals("(name)"))
            fixes.add(new Fix("Use the plain name", () -> set("plain names", options().withNamePattern(Optional.of("(name)")))));
        if (rule == Property.CONTAINER && !blocked.isEmpty() && options().placing().joining().isWanted())
            fixes.add(new Fix("Do not join them", () -> set("sounds not joined", options().withPlacing(options().placing().withJoining(Joining.NONE)))));
        if (!blocked.isEmpty())
            fixes.add(new Fix("Take " + Told.count(blocked.size(), "blocked file") + " out of the job",
                    () -> crate.remove(blocked.stream().map(i -> i.source().path()).collect(java.util.stream.Collectors.toSet()))));
        return fixes;
    }
}
