package ablecrate.desktop.list;

import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.crate.Overview;
import ablecrate.library.Stated;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.collections.transformation.FilteredList;
import javafx.collections.transformation.SortedList;

/// Which lines of the packing list are shown, in which order, and which are chosen.
public final class PackingListModel {
    private final CrateModel crate;
    private final Lines all = new Lines();
    /// Held here: the wrapper listens weakly, and its own listeners would go with it.
    private final ObservableList<PackingItem> allReadOnly = FXCollections.unmodifiableObservableList(all);
    private final FilteredList<PackingItem> filtered = new FilteredList<>(all);
    private final SortedList<PackingItem> shown = new SortedList<>(filtered);
    /// A filter for sounds that go along with a tempo.
    private static final Pattern FITS = Pattern.compile("fits (\\d{2,3}(?:\\.\\d{1,3})?)(?: ?bpm)?");
    private final StringProperty text = new SimpleStringProperty("");
    private final ObjectProperty<Set<Verdict>> verdicts = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Optional<Property>> rule = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<Path>> folder = new SimpleObjectProperty<>(Optional.empty());
    private final ObservableList<PackingItem> chosen = FXCollections.observableArrayList();
    /// Instruments whose sounds are shown below them, and whose sounds are whose.
    private final Set<Path> open = new HashSet<>();
    private final Map<PackingItem, PackingItem> parents = new IdentityHashMap<>();
    private Runnable onRenewed = () -> {};
    private Consumer<PackingItem> onTurned = _ -> {};
    private final ReadOnlyObjectWrapper<Optional<PackingItem>> current = new ReadOnlyObjectWrapper<>(Optional.empty());

    public PackingListModel(CrateModel crate) {
        this.crate = crate;
        crate.onList(() -> renew(crate.listProperty().get()));
        text.subscribe(this::filter);
        verdicts.subscribe(this::filter);
        rule.subscribe(this::filter);
        folder.subscribe(this::filter);
    }

    private void renew(PackingList list) {
        if (list == null) return;
        List<PackingItem> before = List.copyOf(chosen);
        Optional<PackingItem> currentBefore = current.get();
        List<PackingItem> items = unfolded(list);
        all.renew(items);
        Map<Path, PackingItem> parts = new HashMap<>();
        parents.keySet().forEach(p -> parts.put(p.source().path(), p));
        Function<PackingItem, Optional<PackingItem>> now = c -> crate.overview().line(c.source().path())
                .or(() -> Optional.ofNullable(parts.get(c.source().path())));
        current.set(currentBefore.flatMap(now));
        chosen.setAll(before.stream().flatMap(c -> now.apply(c).stream()).toList());
        onRenewed.run();
    }

    private List<PackingItem> unfolded(PackingList list) {
        parents.clear();
        List<PackingItem> out = new ArrayList<>();
        for (PackingItem item : list.items()) {
            out.add(item);
            if (open.contains(item.source().path())) for (PackingItem part : item.parts()) {
                parents.put(part, item);
                out.add(part);
            }
        }
        return out;
    }

    /// The instrument that a line is a sound of; empty for lines of their own.
    public Optional<PackingItem> parentOf(PackingItem item) { return Optional.ofNullable(parents.get(item)); }

    public boolean isOpen(PackingItem item) { return open.contains(item.source().path()); }

    /// Shows the sounds of an instrument below it, or hides them.
    public void unfold(PackingItem item, boolean isOpen) {
        if (item.parts().isEmpty() || !(isOpen ? open.add(item.source().path()) : open.remove(item.source().path()))) return;
        renew(crate.listProperty().get());
    }

    /// Sounds stay below their instrument, in its order, whatever the lines are sorted by.
    public Comparator<PackingItem> keepingParts(Comparator<PackingItem> order) {
        if (order == null) return null;
        return (a, b) -> {
            if (parents.isEmpty()) return inTurn(order, a, b);
            PackingItem above = parentOf(a).orElse(a), other = parentOf(b).orElse(b);
            if (above != other) return inTurn(order, above, other);
            return a == above ? b == above ? 0 : -1 : b == above ? 1 : Integer.compare(all.place(a), all.place(b));
        };
    }

    /// Of lines that are alike, the one that stands first in the list.
    private int inTurn(Comparator<PackingItem> order, PackingItem a, PackingItem b) {
        int byOrder = order.compare(a, b);
        return byOrder != 0 || a == b ? byOrder : Integer.compare(all.place(a), all.place(b));
    }

    /// Files of the chosen lines that are sounds; those inside of banks are none.
    public List<Path> chosenSounds() {
        return chosen.stream().filter(i -> i.source().sound().isPresent()).map(i -> i.source().path()).filter(Files::isRegularFile).toList();
    }

    /// Told after the lines were renewed, when [#chosen] holds the same files as before.
    public void onRenewed(Runnable listener) { onRenewed = listener; }

    /// Told which line something else than the list has turned to, when [#chosen] holds what is chosen now.
    public void onTurned(Consumer<PackingItem> listener) { onTurned = listener; }

    private void filter() {
        String wanted = text.get().toLowerCase(Locale.ROOT).strip();
        Matcher tempo = FITS.matcher(wanted);
        Predicate<PackingItem> byText = tempo.matches()
                ? item -> Stated.tempo(item.source()).filter(bpm -> Stated.fits(bpm, Double.parseDouble(tempo.group(1)))).isPresent()
                : item -> wanted.isEmpty() || item.source().relative().toString().toLowerCase(Locale.ROOT).contains(wanted);
        Set<Verdict> these = verdicts.get();
        Optional<Property> byRule = rule.get();
        Optional<Path> below = folder.get();
        filtered.setPredicate(line -> shows(parentOf(line).orElse(line), these, byText, byRule, below));
    }

    private static boolean shows(PackingItem item, Set<Verdict> these, Predicate<PackingItem> byText, Optional<Property> byRule, Optional<Path> below) {
        return (these.isEmpty() || these.contains(item.verdict()))
                && byText.test(item)
                && (byRule.isEmpty() || item.changes().stream().anyMatch(c -> c.property() == byRule.get() && c.isOfNote()))
                && (below.isEmpty() || item.source().relative().startsWith(below.get()));
    }

    public ObservableList<PackingItem> all() { return allReadOnly; }

    /// Told now, and whenever there is another list, what it says of all lines together; sounds of unfolded instruments are no lines.
    public void onOverview(Consumer<Overview> renew) { crate.onList(() -> renew.accept(crate.overview())); }

    /// Filtered and sorted; the table binds its order to it.
    public SortedList<PackingItem> shown() { return shown; }

    public StringProperty textProperty() { return text; }

    /// Only these verdicts; empty is all.
    public ObjectProperty<Set<Verdict>> verdictsProperty() { return verdicts; }

    /// Only what a rule of the sheet touches.
    public ObjectProperty<Optional<Property>> ruleProperty() { return rule; }

    /// Only what lies below a folder of the gathering.
    public ObjectProperty<Optional<Path>> folderProperty() { return folder; }

    public ObservableList<PackingItem> chosen() { return chosen; }

    /// The line that the bench follows.
    public ReadOnlyObjectProperty<Optional<PackingItem>> currentProperty() { return current.getReadOnlyProperty(); }

    public void choose(List<PackingItem> items, Optional<PackingItem> focused) {
        chosen.setAll(items);
        current.set(focused);
    }

    /// Makes a line, or a sound of an instrument, the current one and brings it into sight. Several that are chosen stay chosen, and so does its instrument.
    public void turnTo(Path path) {
        if (line(path).isEmpty())
            crate.listProperty().get().items().stream().filter(line -> line.parts().stream().anyMatch(part -> part.source().path().equals(path))).findFirst()
                    .ifPresent(line -> unfold(line, true));
        line(path).ifPresent(item -> {
            boolean isOfChosen = chosen.size() > 1 || parentOf(item).filter(line -> chosen.stream().anyMatch(c -> c == line)).isPresent();
            choose(isOfChosen ? List.copyOf(chosen) : List.of(item), Optional.of(item));
            onTurned.accept(item);
        });
    }

    private Optional<PackingItem> line(Path path) { return all.stream().filter(i -> i.source().path().equals(path)).findFirst(); }

    public void toggle(Verdict verdict) {
        Set<Verdict> now = new TreeSet<>(verdicts.get());
        if (!now.remove(verdict)) now.add(verdict);
        verdicts.set(now);
    }

    public void toggle(Property property) { rule.set(rule.get().equals(Optional.of(property)) ? Optional.empty() : Optional.of(property)); }

    public boolean isFiltered() { return !text.get().isBlank() || !verdicts.get().isEmpty() || rule.get().isPresent() || folder.get().isPresent(); }

    public void showAll() {
        text.set("");
        verdicts.set(Set.of());
        rule.set(Optional.empty());
        folder.set(Optional.empty());
    }

    public void removeChosen() { crate.remove(chosen.stream().map(i -> parentOf(i).orElse(i).source().path()).collect(Collectors.toSet())); }

    public void removeShown() { crate.remove(shown.stream().filter(i -> parentOf(i).isEmpty()).map(i -> i.source().path()).collect(Collectors.toSet())); }
}
