package ablecrate.desktop.crate;

import ablecrate.change.Told;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.disk.DiskFault;
import ablecrate.job.History;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.job.Recovery;
import ablecrate.job.Relocation;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.pack.Forecast;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.signal.Measurements;
import ablecrate.signal.Measurement;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;

/// The heart of the window: every command changes the job, and the list follows in the background. FX thread only.
public final class CrateModel {
    private final Background background;
    private final SheetCatalogue sheets = new SheetCatalogue();
    private final SoundPath path = new SoundPath();
    private final Catalogue catalogue;
    private final Measurements book;
    private final GatheredFiles files;
    private final Planning planning;
    private final ReadOnlyObjectWrapper<Job> job = new ReadOnlyObjectWrapper<>(Job.EMPTY);
    private final ReadOnlyObjectWrapper<DestinationSheet> sheet = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Optional<Path>> file = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyBooleanWrapper canUndo = new ReadOnlyBooleanWrapper(), canRedo = new ReadOnlyBooleanWrapper(), unsaved = new ReadOnlyBooleanWrapper();
    private final ReadOnlyStringWrapper message = new ReadOnlyStringWrapper(""), error = new ReadOnlyStringWrapper("");
    private final ReadOnlyObjectWrapper<List<Path>> missing = new ReadOnlyObjectWrapper<>(List.of());
    private History<Job> history = new History<>(Job.EMPTY);
    private Job saved = Job.EMPTY;
    /// Of files that the job treats otherwise than the rest, as they were when it was saved.
    private Map<Path, Long> lengths = Map.of();
    /// @param catalogue of what is known of files from earlier runs
    public CrateModel(Background background, Catalogue catalogue) {
        this.background = background;
        this.catalogue = catalogue;
        book = new Measurements(path, catalogue);
        sheet.set(sheets.builtIn().getFirst());
        files = new GatheredFiles(background, catalogue, this::plan, this::foresee, this::failed);
        planning = new Planning(job::get, sheet::get, sheets, files, book, background, this::failed);
    }

    public ReadOnlyObjectProperty<Job> jobProperty() { return job.getReadOnlyProperty(); }

    public Job job() { return job.get(); }

    public ReadOnlyObjectProperty<DestinationSheet> sheetProperty() { return sheet.getReadOnlyProperty(); }

    public ReadOnlyObjectProperty<PackingList> listProperty() { return planning.listProperty(); }

    /// What is told of all lines of the list together.
    public Overview overview() { return planning.overview(); }

    /// Runs now and whenever there is another list. A listener that is handed the value would compare ten thousand lines with those before.
    public void onList(Runnable renew) {
        planning.listProperty().subscribe(renew);
        renew.run();
    }

    /// All destinations of the job with their lists, in its order; [#listProperty] is the one that is looked at.
    public List<DeliveryPlan> plans() { return planning.plansProperty().get(); }

    /// Runs now and whenever one of them has another list, as [#onList].
    public void onPlans(Runnable renew) {
        planning.plansProperty().subscribe(renew);
        renew.run();
    }

    public ReadOnlyObjectProperty<Optional<Path>> fileProperty() { return file.getReadOnlyProperty(); }

    /// Whether files are still being looked at.
    public ReadOnlyBooleanProperty readingProperty() { return files.readingProperty(); }

    public ReadOnlyBooleanProperty canUndoProperty() { return canUndo.getReadOnlyProperty(); }

    public ReadOnlyBooleanProperty canRedoProperty() { return canRedo.getReadOnlyProperty(); }

    public ReadOnlyBooleanProperty unsavedProperty() { return unsaved.getReadOnlyProperty(); }

    /// How many files have to be looked at yet before all lines are there.
    public ReadOnlyIntegerProperty toReadProperty() { return files.toReadProperty(); }

    /// Whether all lines are there, planned as the job is now, and all of what they depend on is known.
    public ReadOnlyBooleanProperty isKnownProperty() { return planning.isKnownProperty(); }

    /// How many sounds have to be listened to yet before all of the list is known.
    public ReadOnlyIntegerProperty toHearProperty() { return planning.listening().toHearProperty(); }

    /// How many of these are instruments that have to be made to fit.
    public ReadOnlyIntegerProperty toFitProperty() { return planning.listening().toFitProperty(); }

    /// The part of one of them that is done.
    public ReadOnlyDoubleProperty fitPartProperty() { return planning.listening().fitPartProperty(); }

    /// A sound of the job, whether it has a line of its own or goes with an instrument; empty if its headers were not read.
    public Optional<SoundFile> sound(Path path) { return files.sound(path); }

    /// What was listened to.
    public Measurements book() { return book; }

    /// What is known of files from earlier runs.
    public Catalogue catalogue() { return catalogue; }

    /// What plays, measures and packs sounds; shared, as conversions are costly to prepare.
    public SoundPath path() { return path; }

    /// Has further sounds listened to, after those that the plan asks for; [#listProperty] is renewed when they are.
    public void alsoListen(List<Measurement.Request> requests) { planning.alsoListen(requests); }

    /// What packing would find in the folder packed into: how many lines are new, there already, and so on; empty while no folder is chosen, or it is not
    /// known yet.
    public ReadOnlyObjectProperty<Map<Forecast.Fate, Long>> forecastProperty() { return planning.forecastProperty(); }

    /// Looks at the folder packed into, once all of the list is known.
    public void foresee() { planning.foresee(); }

    /// The last thing that was done or went wrong, in words.
    public ReadOnlyStringProperty messageProperty() { return message.getReadOnlyProperty(); }

    public List<DestinationSheet> builtInSheets() { return sheets.builtIn(); }

    public String undoLabel() { return history.undoLabel(); }

    public String redoLabel() { return history.redoLabel(); }

    public void tell(String text) { message.set(text); }

    /// What went wrong, which stays to be read until it is dismissed; empty where there is nothing.
    public ReadOnlyStringProperty errorProperty() { return error.getReadOnlyProperty(); }

    public void fail(String text) {
        message.set("");
        error.set(text);
    }

    public void dismissError() { error.set(""); }

    public void gather(List<Path> paths) {
        if (paths.isEmpty()) return;
        step(job.get().gathering(paths.stream().map(p -> p.toAbsolutePath().normalize()).toList()),
                "gather " + paths.getFirst().getFileName() + (paths.size() > 1 ? " and more" : ""));
    }

    public void remove(Set<Path> files) {
        if (files.isEmpty()) return;
        step(job.get().without(files), "remove " + Told.count(files.size(), "file"));
        tell(Told.count(files.size(), "file") + " taken out of the job; the files themselves are untouched");
    }

    public void aim(String destination) { step(job.get().aimedAt(destination), "destination " + destination); }

    /// Packs for another destination as well, which is looked at then.
    public void alsoFor(String destination) {
        if (job.get().deliveries().size() == Job.MOST_DELIVERIES)
            fail("a job has " + Job.MOST_DELIVERIES + " destinations at most; take one out, or save another job");
        else
            step(job.get().alsoFor(destination), "add destination " + destination);
    }

    /// Packs for the destination that is looked at no longer; what was packed stays.
    public void notFor() {
        if (job.get().deliveries().size() == 1)
            tell("a job has at least one destination");
        else
            step(job.get().notFor(), "take out destination " + job.get().destination());
    }

    /// Looks at another of the job's destinations; no step of its own.
    public void showDelivery(int number) {
        if (number == job.get().shown()) return;
        history.look(job.get().showing(number));
        show(history.present());
    }

    public void showNextDelivery() {
        if (job.get().deliveries().size() == 1)
            tell("the job has one destination; 'Also for' adds another");
        else
            showDelivery((job.get().shown() + 1) % job.get().deliveries().size());
    }

    /// Options and destination together.
    public void use(String destination, PackOptions options, String label) { step(job.get().aimedAt(destination).withOptions(options), label); }

    public void changeOptions(UnaryOperator<PackOptions> change, String label) { step(job.get().withOptions(change.apply(job.get().options())), label); }

    /// As [#changeOptions], for changes that follow each other while something is dragged: they are one step.
    public void dragOptions(UnaryOperator<PackOptions> change, String label) {
        history.amend(job.get().withOptions(change.apply(job.get().options())), label);
        show(history.present());
    }

    /// As [#edit], while something is dragged.
    public void dragEdit(Set<Path> files, UnaryOperator<ItemEdit> change, String label) {
        history.amend(job.get().editing(files, change), label);
        show(history.present());
    }

    /// Treats files otherwise than the rest.
    public void edit(Set<Path> files, UnaryOperator<ItemEdit> change, String label) { step(job.get().editing(files, change), label); }

    /// Treats files each in its own way, in one step.
    public void editEach(Set<Path> files, BiFunction<Path, ItemEdit, ItemEdit> change, String label) {
        Job next = job.get();
        for (Path file : files)
            next = next.editing(Set.of(file), e -> change.apply(file, e));
        step(next, label);
    }

    /// Into a recording session; one step.
    public void packIntoSession(Path folder) {
        step(job.get().aimedAt("session").packingInto(Optional.of(folder)), "session " + folder.getFileName());
    }

    public void packInto(Path folder) { step(job.get().packingInto(Optional.of(folder)), "pack into " + folder.getFileName()); }

    public void undo() {
        String label = history.undoLabel();
        show(history.undo());
        tell("undone: " + label);
    }

    public void redo() {
        String label = history.redoLabel();
        show(history.redo());
        tell("done again: " + label);
    }

    /// Looks at all files anew.
    public void rescan() {
        book.clear();
        files.forget();
        show(job.get());
    }

    public void newJob() { replace(Job.EMPTY, Optional.empty()); }

    /// Starts with a job that has no file yet.
    public void start(Job first) { replace(first, Optional.empty()); }

    public void open(Path path) {
        background.run(() -> Jobs.read(path), opened -> {
            replace(opened.job(), Optional.of(path));
            lengths = opened.lengths();
            tell("opened " + path.getFileName());
            lookForMissing();
        }, this::failed);
    }

    /// Goes on with what a window left that did not end as it should; it is not saved yet.
    public void recover(Recovery.Left left) {
        replace(left.job(), left.savedAs());
        saved = Job.EMPTY;
        unsaved.set(true);
        tell("this is the job as it was left; it is not saved yet");
        lookForMissing();
    }

    /// What the job speaks of and is not there; looked for when a job is opened.
    public ReadOnlyObjectProperty<List<Path>> missingProperty() { return missing.getReadOnlyProperty(); }

    /// Looks whether all is there that the job speaks of.
    public void lookForMissing() {
        Job now = job.get();
        int before = missing.get().size();
        background.run(() -> Relocation.missing(now), gone -> {
            if (gone.size() < before) rescan();
            // Told again where it is the same as before.
            missing.set(List.of());
            missing.set(gone);
        }, this::failed);
    }

    /// Finds what is missing below a folder.
    public void findMoved(Path folder) {
        Job now = job.get();
        int before = missing.get().size();
        tell("looking for " + Told.count(before, "missing item") + " in " + folder);
        background.run(() -> Relocation.below(folder, now, lengths, () -> false), found -> {
            step(found.job(), "find moved folders");
            int still = found.missing().size();
            tell(still == 0 ? "found all " + before + " in " + folder : "found " + (before - still) + " of " + before + " in " + folder);
            missing.set(List.of());
            missing.set(found.missing());
        }, this::failed);
    }

    public void save(Path path) { save(path, () -> {}); }

    /// @param then done once it is saved
    public void save(Path path, Runnable then) {
        Job current = job.get();
        background.run(() -> {
            Jobs.save(current, path);
            return path;
        }, done -> {
            saved = current;
            file.set(Optional.of(done));
            unsaved.set(isUnsaved(job.get()));
            tell("saved " + done.getFileName());
            then.run();
        }, this::failed);
    }

    private void replace(Job other, Optional<Path> path) {
        history = new History<>(other);
        saved = other;
        file.set(path);
        files.forgetSources();
        lengths = Map.of();
        missing.set(List.of());
        show(other);
    }

    private void step(Job next, String label) {
        history.step(next, label);
        show(history.present());
    }

    private void show(Job next) {
        Job before = job.get();
        job.set(next);
        canUndo.set(history.canUndo());
        canRedo.set(history.canRedo());
        unsaved.set(isUnsaved(next));
        if (!next.destination().equals(before.destination()) || !sheet.get().id().equals(next.destination())) findSheet(next);
        files.find(next);
    }

    private void plan() { planning.plan(); }

    /// Which destination is looked at is nothing to save.
    private boolean isUnsaved(Job now) { return !now.showing(0).equals(saved.showing(0)); }

    private void findSheet(Job next) {
        try {
            sheet.set(sheets.find(next.destination()));
        } catch (IOException e) {
            fail(DiskFault.text(e));
        } catch (Json.JsonFault e) {
            fail(e.getMessage());
        }
    }

    /// What the job has, as far as it is read: of the rest nothing can be said yet.
    public List<Gathered> gathered() { return files.of(job.get()); }

    private void failed(Exception e) {
        files.stop();
        fail(switch (e) {
            case IOException io -> DiskFault.text(io);
            case OptionConflict conflict -> conflict.getMessage();
            case Json.JsonFault fault -> fault.getMessage();
            default -> {
                org.slf4j.LoggerFactory.getLogger(CrateModel.class).error("in the background", e);
                yield "a fault in Able Crate itself: " + e;
            }
        });
    }
}
