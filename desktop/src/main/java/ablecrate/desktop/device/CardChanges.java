package ablecrate.desktop.device;

import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern;
import ablecrate.destination.NamePattern.Word;
import ablecrate.destination.NameRules;
import ablecrate.disk.DiskFault;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.MapFormat;
import ablecrate.pack.CardEdits;
import ablecrate.standins.Preset;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;

/// Presets of the card are deleted, renamed and put in another order; only those that were packed here. FX thread only.
public final class CardChanges implements AutoCloseable {
    private final DeviceCard card;
    private final CrateModel crate;
    private final Background background;
    private final ReadOnlyBooleanWrapper canUndo = new ReadOnlyBooleanWrapper();
    private Optional<CardEdits> edits = Optional.empty();
    private boolean isBusy;

    public CardChanges(DeviceCard card, CrateModel crate, Background background) {
        this.card = card;
        this.crate = crate;
        this.background = background;
        card.shownProperty().map(s -> s.map(DeviceCard.Shown::card)).subscribe(this::letGo);
    }

    /// Another card is in the device; one that is only empty by now is still the same.
    private void letGo(Optional<Path> now) {
        if (now.isEmpty()) return;
        if (edits.isPresent() && edits.get().card().equals(now.get())) return;
        close();
        edits = Optional.of(new CardEdits(now.get()));
    }

    public ReadOnlyBooleanProperty canUndoProperty() { return canUndo.getReadOnlyProperty(); }

    private interface Work {
        void run(CardEdits on) throws IOException;
    }

    /// @param told what was done
    private void run(Work work, String told) {
        // The next is meant for what is shown once this one is done.
        if (edits.isEmpty() || isBusy) return;
        CardEdits mine = edits.get();
        isBusy = true;
        background.run(() -> {
            work.run(mine);
            return mine.canUndo();
        }, can -> {
            isBusy = false;
            canUndo.set(can && edits.equals(Optional.of(mine)));
            crate.tell(told);
            card.load();
            crate.foresee();
        }, e -> {
            isBusy = false;
            crate.fail(e instanceof IOException io ? DiskFault.text(io) : e.toString());
        });
    }

    private static String path(Preset of) { return of.path().toString().replace('\\', '/'); }

    /// Whether it has a place of its own on the card.
    static boolean isApart(Preset preset) { return !path(preset).isEmpty(); }

    public void delete(Preset preset) {
        List<Preset> gone = together(preset), others = presets().stream().filter(p -> !gone.contains(p)).toList();
        String what = gone.size() == 1 ? "'" + preset.name() + "' is" : "'" + path(preset) + "' with its " + gone.size() + " presets is";
        run(on -> {
            Set<String> files = new TreeSet<>(on.filesIn(path(preset)));
            Set<Path> shared = new HashSet<>();
            others.forEach(p -> p.slots().forEach(s -> shared.add(s.sound().file())));
            preset.slots().stream().map(s -> s.sound().file()).filter(f -> !shared.contains(f))
                    .forEach(f -> files.add(on.card().relativize(f).toString().replace('\\', '/')));
            refuse(on.obstacle(files), what + " not deleted: ");
            on.delete(files);
        }, what + " deleted; what is still in the list is packed again with the next run");
    }

    private static void refuse(Optional<String> obstacle, String what) throws IOException {
        if (obstacle.isPresent()) throw new IOException(what + obstacle.get());
    }

    private List<Preset> presets() { return card.shownProperty().get().map(s -> s.loaded().presets()).orElse(List.of()); }

    /// The words of a folder's name; empty where the destination has no folders for presets.
    private Optional<Map<Word, String>> words(Preset preset) {
        DestinationSheet sheet = crate.sheetProperty().get();
        return sheet.layout().folder().isEmpty() || preset.path().getNameCount() != 1 || !isApart(preset)
                ? Optional.empty()
                : pattern().read(path(preset));
    }

    private NamePattern pattern() { return NamePattern.parse(crate.sheetProperty().get().layout().folder()); }

    /// What of its name can be typed; empty where many share a file, and change with the list.
    Optional<String> editableName(Preset preset) {
        return isNamedInside(preset) || isInBank(preset)
                ? Optional.of(preset.name())
                : words(preset).filter(w -> w.containsKey(Word.FOLDER)).map(w -> w.get(Word.FOLDER));
    }

    /// Whether it has a file of its own that says its name.
    private boolean isNamedInside(Preset preset) { return isApart(preset) && takes(MapFormat.class); }

    /// Whether it is one of the presets of a bank.
    private boolean isInBank(Preset preset) { return isApart(preset) && takes(BankFormat.class); }

    private boolean takes(Class<? extends InstrumentFormat> kind) {
        return crate.sheetProperty().get().accepts().instruments().stream().flatMap(id -> InstrumentFormats.byId(id).stream()).anyMatch(kind::isInstance);
    }

    /// Those of its file, or folder, in their order.
    private List<Preset> together(Preset preset) { return presets().stream().filter(p -> p.path().equals(preset.path())).toList(); }

    boolean isNumbered(Preset preset) { return words(preset).filter(w -> w.containsKey(Word.KIT)).isPresent(); }

    private String folder(Map<Word, String> words) { return new NameRules(crate.sheetProperty().get().names()).fit(pattern(), words); }

    public void rename(Preset preset, String name) {
        if (name.isBlank() || editableName(preset).filter(name.strip()::equals).isPresent()) return;
        if (isNamedInside(preset)) {
            NameRules rules = new NameRules(crate.sheetProperty().get().names());
            run(on -> {
                refuse(on.obstacle(on.filesIn(path(preset))), "'" + preset.name() + "' keeps its name: ");
                on.rename(path(preset), name.strip(), rules);
            }, "'" + preset.name() + "' is called '" + name.strip() + "' now; what is still in the list is packed again under its own name");
            return;
        }
        if (isInBank(preset)) {
            int number = together(preset).indexOf(preset);
            run(on -> {
                refuse(on.obstacle(List.of(path(preset))), "'" + preset.name() + "' keeps its name: ");
                on.rename(path(preset), number, name.strip());
            }, "'" + preset.name() + "' is called '" + name.strip() + "' now");
            return;
        }
        Optional<Map<Word, String>> words = words(preset);
        if (words.isEmpty()) return;
        Map<Word, String> other = new HashMap<>(words.get());
        other.put(Word.FOLDER, name.strip());
        String now = folder(other), before = path(preset);
        if (!now.equals(before)) rename(Map.of(before, now), "'" + before + "' is called '" + now + "' now");
    }

    /// Changes places with the next that was packed here.
    /// @param direction 1 for later, -1 for earlier
    public void move(Preset preset, int direction) {
        List<Preset> all = new ArrayList<>(presets());
        int other = all.indexOf(preset) + direction;
        if (other < 0 || other >= all.size() || !isNumbered(preset) || !isNumbered(all.get(other))) return;
        Map<Word, String> mine = new HashMap<>(words(preset).orElseThrow()), theirs = new HashMap<>(words(all.get(other)).orElseThrow());
        String number = mine.get(Word.KIT);
        mine.put(Word.KIT, theirs.get(Word.KIT));
        theirs.put(Word.KIT, number);
        rename(Map.of(path(preset), folder(mine), path(all.get(other)), folder(theirs)), "'" + path(preset) + "' is '" + folder(mine) + "' now");
    }

    private void rename(Map<String, String> names, String told) {
        run(on -> {
            for (String old : names.keySet())
                refuse(on.obstacle(on.filesIn(old)), "'" + old + "' keeps its name: ");
            on.rename(names);
        }, told);
    }

    public void undo() { run(CardEdits::undo, "the card is as it was before"); }

    /// Lets the card go: nothing can be taken back any more.
    @Override public void close() {
        edits.ifPresent(CardEdits::close);
        edits = Optional.empty();
        canUndo.set(false);
    }
}
