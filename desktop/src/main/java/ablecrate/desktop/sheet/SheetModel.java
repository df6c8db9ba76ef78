package ablecrate.desktop.sheet;

import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetDraft;
import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
import ablecrate.library.Gathered;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.planner.Planner;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// A sheet while it is written, and what it would make of the sounds that are gathered. FX thread only.
public final class SheetModel {
    private static final int SHOWN = 6;

    /// What the sheet would do, from headers and what was heard already.
    /// @param totals lines by verdict, as far as they are known
    /// @param reasons of the worst lines, each with a name
    /// @param unheard lines of which more is known once they are listened to
    public record Outcome(Map<Verdict, Integer> totals, int unheard, List<String> reasons) {}

    private final CrateModel crate;
    private final Background background;
    private final SheetDraft draft;
    private final Optional<Path> file;
    private final ReadOnlyObjectWrapper<Optional<SheetDraft.Fault>> fault = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Outcome>> outcome = new ReadOnlyObjectWrapper<>(Optional.empty());
    /// What is typed into fields of numbers and is none.
    private final Map<String, String> unread = new HashMap<>();
    private int checks;

    /// One that is made from the destination of the job: the file itself where it is the user's own, a sheet of another name where it ships.
    public SheetModel(CrateModel crate, Background background) {
        this.crate = crate;
        this.background = background;
        DestinationSheet from = crate.sheetProperty().get();
        boolean ships = crate.builtInSheets().stream().anyMatch(s -> s.id().equals(from.id()));
        file = ships ? Optional.empty() : Optional.of(Path.of(crate.job().destination())).filter(Files::isRegularFile);
        draft = SheetDraft.of(from);
        if (ships) {
            set(field("id"), from.id() + "-own");
            set(field("name"), from.name() + ", own");
        }
        check();
    }

    private static SheetDraft.Field field(String path) {
        return SheetDraft.fields().stream().filter(f -> f.path().equals(path)).findFirst().orElseThrow();
    }

    /// What is wrong first; empty where it is a sheet.
    public ReadOnlyObjectProperty<Optional<SheetDraft.Fault>> faultProperty() { return fault.getReadOnlyProperty(); }

    /// Empty where nothing is gathered, or the sheet is wrong.
    public ReadOnlyObjectProperty<Optional<Outcome>> outcomeProperty() { return outcome.getReadOnlyProperty(); }

    public String text(SheetDraft.Field of) { return draft.text(of.path()); }

    public String name() { return draft.text("name"); }

    /// The file that it was read from, or a name that suits it.
    public String suggested() { return file.map(f -> f.getFileName().toString()).orElse(draft.text("id") + ".json"); }

    public void set(SheetDraft.Field of, String typed) {
        try {
            draft.set(of, typed);
            unread.remove(of.path());
        } catch (IllegalArgumentException e) {
            unread.put(of.path(), e.getMessage());
        }
        check();
    }

    private void check() {
        int mine = ++checks;
        fault.set(unread.entrySet().stream().findFirst().map(e -> new SheetDraft.Fault(e.getKey(), e.getValue())).or(draft::fault));
        if (fault.get().isPresent()) {
            outcome.set(Optional.empty());
            return;
        }
        DestinationSheet sheet = draft.sheet().orElseThrow();
        List<Gathered> gathered = crate.gathered();
        PackOptions options = crate.job().options();
        Map<Path, ItemEdit> edits = crate.job().edits();
        if (gathered.isEmpty()) return;
        background.run(() -> Planner.plan(gathered, sheet, options, edits, crate.book()::find), list -> {
            if (mine == checks) outcome.set(Optional.of(outcome(list)));
        }, e -> {
            if (mine == checks) outcome.set(Optional.of(new Outcome(Map.of(), 0, List.of(e instanceof OptionConflict ? e.getMessage() : e.toString()))));
        });
    }

    private static Outcome outcome(PackingList list) {
        List<String> reasons = new ArrayList<>();
        int unheard = (int) list.items().stream().filter(i -> !i.wanted().isEmpty()).count();
        for (Verdict verdict : List.of(Verdict.BLOCKED, Verdict.REDUCED))
            list.items().stream().filter(i -> i.verdict() == verdict && i.wanted().isEmpty() && reasons.size() < SHOWN)
                    .forEach(i -> reasons.add(i.source().fileName() + ": " + i.reason()));
        Map<Verdict, Integer> totals = new EnumMap<>(Verdict.class);
        list.items().stream().filter(i -> i.wanted().isEmpty()).forEach(i -> totals.merge(i.verdict(), 1, Integer::sum));
        return new Outcome(totals, unheard, reasons);
    }

    /// What lines come to, in words.
    public static String told(Outcome of) {
        List<String> told = new ArrayList<>(of.totals().entrySet().stream().map(e -> Told.count(e.getValue(), "line") + " " + e.getKey().id()).toList());
        if (of.unheard() > 0) told.add(Told.count(of.unheard(), "line") + " that packing will listen to first");
        return String.join(", ", told);
    }

    /// Writes it, and packs for it from then on.
    /// @return what stood in the way, if anything
    public Optional<String> save(Path to) {
        if (fault.get().isPresent()) return Optional.of("the sheet is not right yet: " + fault.get().get().message());
        try {
            SafeFile.write(to, draft.json());
        } catch (IOException e) {
            return Optional.of("cannot save " + to.getFileName() + ": " + DiskFault.text(e));
        }
        crate.aim(to.toString());
        return Optional.empty();
    }
}
