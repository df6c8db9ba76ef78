package ablecrate.desktop.levels;

import ablecrate.change.Told;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.option.ItemEdit;
import ablecrate.plan.PackingItem;
import ablecrate.option.OwnTreatment;
import ablecrate.option.Treatment;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javafx.beans.InvalidationListener;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.ObservableList;

/// What is done to levels, ends and loops: of all sounds of the job, or of the chosen ones, which then have settings of their own. FX thread only.
public final class TreatmentModel {
    /// Whose settings are shown and changed.
    public enum Scope { ALL, CHOSEN }

    private final CrateModel crate;
    private final ObservableList<PackingItem> chosen;
    private final ObjectProperty<Scope> scope = new SimpleObjectProperty<>(Scope.ALL);

    public TreatmentModel(CrateModel crate, PackingListModel list) {
        this.crate = crate;
        chosen = list.chosen();
    }

    public ObjectProperty<Scope> scopeProperty() { return scope; }

    /// Tells when there is something else to show.
    public void subscribe(Runnable changed) {
        crate.jobProperty().subscribe(_ -> changed.run());
        scope.subscribe(changed);
        chosen.addListener((InvalidationListener) _ -> changed.run());
    }

    public int chosenCount() { return chosen.size(); }

    private Set<Path> files() { return chosen.stream().map(i -> i.source().path()).collect(Collectors.toCollection(LinkedHashSet::new)); }

    private boolean isOfChosen() { return scope.get() == Scope.CHOSEN && !chosen.isEmpty(); }

    /// Of all sounds, or of the first of the chosen.
    public Treatment treatment() {
        Treatment ofAll = crate.job().options().treatment();
        return isOfChosen() ? edit(files().iterator().next()).treatment(ofAll) : ofAll;
    }

    private ItemEdit edit(Path file) { return crate.job().edits().getOrDefault(file, ItemEdit.NONE); }

    /// How many of the chosen have settings of their own.
    public long ownCount() { return files().stream().filter(f -> !edit(f).own().isNone()).count(); }

    /// How many sounds of the job have.
    public long ownInJob() { return crate.job().edits().values().stream().filter(e -> !e.own().isNone()).count(); }

    /// Whether the chosen ones differ from each other.
    public boolean isMixed() {
        return isOfChosen() && files().stream().map(this::of).distinct().count() > 1;
    }

    /// What is done to one sound, whatever is shown.
    Treatment of(Path file) { return edit(file).treatment(crate.job().options().treatment()); }

    /// As [#change], for changes that follow each other while something is dragged: they are one step.
    void drag(String what, UnaryOperator<Treatment> change) {
        if (!isOfChosen()) {
            crate.dragOptions(o -> o.withTreatment(change.apply(o.treatment())), what);
            return;
        }
        Treatment ofAll = crate.job().options().treatment();
        Set<Path> files = files();
        crate.dragEdit(files, e -> e.treated(ofAll, change), label(what, files));
    }

    private static String label(String what, Set<Path> files) { return what + " of " + Told.count(files.size(), "sound"); }

    public void change(String what, UnaryOperator<Treatment> change) {
        if (!isOfChosen()) {
            crate.changeOptions(o -> o.withTreatment(change.apply(o.treatment())), what);
            return;
        }
        Treatment ofAll = crate.job().options().treatment();
        Set<Path> files = files();
        crate.editEach(files, (_, e) -> e.treated(ofAll, change),
                label(what, files));
    }

    /// The chosen ones are treated as all again.
    public void asAll() {
        List<Path> own = files().stream().filter(f -> !edit(f).own().isNone()).toList();
        if (!own.isEmpty()) crate.edit(Set.copyOf(own), e -> e.withOwn(OwnTreatment.NONE), "settings of their own dropped");
    }
}
