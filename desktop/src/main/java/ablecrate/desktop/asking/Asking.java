package ablecrate.desktop.asking;

import ablecrate.change.Told;
import ablecrate.desktop.Choosers;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.job.Jobs;
import ablecrate.job.Recovery;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.FormatStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.scene.Node;

/// Asks, and does what is answered.
public final class Asking {
    private static final int MOST_NAMED = 6;
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofLocalizedDateTime(FormatStyle.MEDIUM, FormatStyle.SHORT).withZone(ZoneId.systemDefault());

    private final CrateModel crate;
    private final Consumer<Node> show;
    private final Runnable close;
    private final Supplier<Choosers> choosers;

    /// @param show lays a card over the list
    /// @param close takes it away
    public Asking(CrateModel crate, Consumer<Node> show, Runnable close, Supplier<Choosers> choosers) {
        this.crate = crate;
        this.show = show;
        this.close = close;
        this.choosers = choosers;
        crate.missingProperty().subscribe(missing -> {
            if (!missing.isEmpty()) moved(missing);
        });
    }

    /// Does something that replaces the job, once its changes are saved or given up.
    public void beforeLosing(Runnable then) {
        if (!crate.unsavedProperty().get() || crate.job().sources().isEmpty()) {
            then.run();
            return;
        }
        String lost = crate.fileProperty().get().map(f -> "What you changed in " + f.getFileName() + " since it was last saved would be lost.")
                .orElse("This job has not been saved yet, and would be lost.");
        show.accept(new Question("unsaved", "Save the job?", List.of(lost), List.of(
                new Question.Answer("unsaved-save", "Save", () -> save(then)),
                new Question.Answer("unsaved-drop", "Do not save", () -> {
                    close.run();
                    then.run();
                }),
                new Question.Answer("unsaved-cancel", "Cancel", close))));
    }

    private void save(Runnable then) {
        Optional<Path> file = crate.fileProperty().get().or(() -> choosers.get().jobToSave("crate" + Jobs.EXTENSION));
        close.run();
        file.ifPresent(f -> crate.save(f, then));
    }

    /// Offers what a window left that did not end as it should.
    /// @param forget takes it away for good
    public void offer(Recovery.Left left, Consumer<Recovery.Left> forget) {
        String what = left.savedAs().map(f -> f.getFileName().toString()).orElse("a job that had no file yet");
        int sources = left.job().sources().size();
        show.accept(new Question("left-job", "A job was left unsaved",
                List.of("Able Crate did not end as it should. It has kept " + what + " with " + Told.count(sources, "source")
                        + ", as it was on " + TIME.format(left.changedAt()) + ".",
                        "Opening it replaces nothing on the disk; save it when it is as you want it."),
                List.of(new Question.Answer("left-open", "Open it", () -> {
                    close.run();
                    crate.recover(left);
                    // Kept as this window's own now.
                    forget.accept(left);
                }), new Question.Answer("left-later", "Ask again at the next start", close), new Question.Answer("left-drop", "Throw it away", () -> {
                    close.run();
                    forget.accept(left);
                }))));
    }

    private void moved(List<Path> missing) {
        List<String> lines = new ArrayList<>();
        lines.add(missing.size() == 1 ? "This is not where it was:" : "These are not where they were:");
        missing.stream().limit(MOST_NAMED).forEach(p -> lines.add(p.toString()));
        if (missing.size() > MOST_NAMED) lines.add("and " + (missing.size() - MOST_NAMED) + " more");
        lines.add(
                "If they were moved or renamed, choose the folder they are in now: sounds are found there by name, length and content, with their trims, levels and "
                        + "keys. If a drive is not connected, connect it and look again.");
        show.accept(
                new Question("moved", missing.size() == 1 ? "A folder or file is missing" : missing.size() + " folders or files are missing", lines, List.of(
                        new Question.Answer("moved-find", "Choose the folder…", () -> {
                            Optional<Path> folder = choosers.get().folder("Where the missing files are");
                            if (folder.isEmpty()) return;
                            close.run();
                            crate.findMoved(folder.get());
                        }), new Question.Answer("moved-again", "Look again", () -> {
                            close.run();
                            crate.lookForMissing();
                        }), new Question.Answer("moved-leave", "Open without them", close))));
    }
}
