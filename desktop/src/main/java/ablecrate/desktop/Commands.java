package ablecrate.desktop;

import ablecrate.desktop.asking.Asking;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.crate.DeliveryPlan;
import ablecrate.desktop.library.LibraryModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.job.Jobs;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.util.Subscription;

/// What the user does with files and folders: gathers, opens, saves, packs. Asks for them where they are not known.
final class Commands {
    private final CrateModel crate;
    private final PackingListModel list;
    private final PackRunModel run;
    private final LibraryModel library;
    private final Asking asking;
    private final Supplier<Choosers> choosers;
    private final Runnable begun;

    /// @param choosers that there are once there is a stage
    /// @param begun told when it is known where to pack
    Commands(Models models, Asking asking, Supplier<Choosers> choosers, Runnable begun) {
        crate = models.crate;
        list = models.list;
        run = models.run;
        library = models.library;
        this.asking = asking;
        this.choosers = choosers;
        this.begun = begun;
    }

    void gatherFolder() { choosers.get().folder("Gather a folder").ifPresent(f -> crate.gather(List.of(f))); }

    void walkThroughFolder() { choosers.get().folder("Walk through a folder").ifPresent(library::open); }

    void gatherFiles() { crate.gather(choosers.get().files("Gather files")); }

    void chooseSheet() { choosers.get().sheetToOpen().ifPresent(s -> crate.aim(s.toString())); }

    void chooseFurtherSheet() { choosers.get().sheetToOpen().ifPresent(s -> crate.alsoFor(s.toString())); }

    void chooseInto() {
        choosers.get().folder("Pack into" + (crate.job().deliveries().size() > 1 ? ": " + crate.sheetProperty().get().name() : "")).ifPresent(crate::packInto);
    }

    /// What is gathered goes into the session of a folder from then on.
    void openSession() { choosers.get().folder("Open the session of a folder").ifPresent(crate::packIntoSession); }

    void newJob() { asking.beforeLosing(crate::newJob); }

    void openJob() { asking.beforeLosing(() -> choosers.get().jobToOpen().ifPresent(crate::open)); }

    void openJob(Path job) { asking.beforeLosing(() -> crate.open(job)); }

    void save() { crate.fileProperty().get().ifPresentOrElse(crate::save, this::saveAs); }

    void saveAs() { choosers.get().jobToSave("crate" + Jobs.EXTENSION).ifPresent(crate::save); }

    void reveal() { list.currentProperty().get().ifPresent(i -> reveal(i.source().path())); }

    void reveal(Path path) { choosers.get().reveal(path).ifPresent(crate::fail); }

    /// What a drop brings; the event itself is the toolkit's business.
    void dropped(List<File> files) {
        List<Path> paths = files.stream().map(File::toPath).toList();
        if (paths.size() == 1 && paths.getFirst().toString().endsWith(Jobs.EXTENSION))
            openJob(paths.getFirst());
        else
            crate.gather(paths);
    }

    void pack() {
        if (run.runningProperty().get() || crate.listProperty().get().items().isEmpty()) return;
        for (int i = 0; i < crate.job().deliveries().size(); i++) {
            if (crate.job().deliveries().get(i).into().isPresent()) continue;
            // Asked for while it is seen what for.
            crate.showDelivery(i);
            chooseInto();
            if (crate.job().into().isEmpty()) return;
        }
        begun.run();
        packWhenKnown();
    }

    /// What depends on listening is packed once it is known.
    private void packWhenKnown() {
        if (crate.isKnownProperty().get()) {
            packNow();
            return;
        }
        crate.tell((crate.readingProperty().get() ? "reading the files" : "listening to the sounds") + " first; packing starts by itself");
        Subscription[] waiting = new Subscription[1];
        waiting[0] = crate.isKnownProperty().subscribe((_, isKnown) -> {
            if (!isKnown) return;
            waiting[0].unsubscribe();
            crate.tell("");
            packNow();
        });
    }

    private void packNow() {
        List<DeliveryPlan> plans = crate.plans();
        Optional<DeliveryPlan> lost = plans.stream().filter(p -> p.list().isEmpty()).findFirst();
        if (lost.isPresent())
            crate.fail(lost.get().name() + ": " + lost.get().fault().orElse("it is not planned"));
        else
            run.pack(plans.stream().map(p -> p.list().orElseThrow()).toList(), crate.path(),
                    plans.stream().map(p -> p.delivery().into().orElseThrow()).toList());
    }
}
