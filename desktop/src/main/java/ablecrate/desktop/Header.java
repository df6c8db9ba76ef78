package ablecrate.desktop;

import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.VerdictStamp;
import java.util.Locale;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The top of the window: the job, what is being done, and what went wrong.
final class Header extends VBox {
    private final CrateModel crate;

    /// @param turn between folders and list
    /// @param more all that has no button of its own
    Header(CrateModel crate, Commands commands, Button turn, Runnable showActions, MenuButton more) {
        this.crate = crate;
        Label mark = Headings.label("Able Crate", "wordmark"), job = new Label(), message = new Label();
        mark.setMinWidth(Region.USE_PREF_SIZE);
        job.setId("job-name");
        job.getStyleClass().add("job-name");
        job.textProperty().bind(Bindings.createStringBinding(this::jobName, crate.fileProperty(), crate.unsavedProperty()));
        message.setId("message");
        message.getStyleClass().add("message");
        message.textProperty().bind(Bindings.createStringBinding(this::message, crate.readingProperty(), crate.toReadProperty(), crate.toHearProperty(),
                crate.toFitProperty(), crate.fitPartProperty(), crate.messageProperty()));
        message.setMinWidth(0);
        message.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(message, Priority.ALWAYS);
        Button undo = Buttons.of("undo", "Undo", "Ctrl+Z", crate::undo), redo = Buttons.of("redo", "Redo", "Ctrl+Shift+Z", crate::redo);
        undo.disableProperty().bind(crate.canUndoProperty().not());
        redo.disableProperty().bind(crate.canRedoProperty().not());
        crate.jobProperty().subscribe(_ -> {
            Tips.on(undo, crate.undoLabel().isEmpty() ? "Ctrl+Z" : "Undo: " + crate.undoLabel() + " (Ctrl+Z)");
            Tips.on(redo, crate.redoLabel().isEmpty() ? "Ctrl+Shift+Z" : "Redo: " + crate.redoLabel() + " (Ctrl+Shift+Z)");
        });
        more.setId("more");
        more.setMinWidth(Region.USE_PREF_SIZE);
        HBox row = new HBox(12, mark, job, message, turn, undo, redo, Buttons.of("open", "Open…", "Ctrl+O", commands::openJob),
                Buttons.of("save", "Save", "Ctrl+S", commands::save), Buttons.of("actions-button", "Actions", "All actions with their keys (F2)", showActions),
                more);
        row.setAlignment(Pos.CENTER_LEFT);
        row.getStyleClass().add("header");
        getChildren().addAll(row, error());
    }

    private String jobName() {
        return crate.fileProperty().get().map(f -> f.getFileName().toString()).orElse("new job") + (crate.unsavedProperty().get() ? " – not saved" : "");
    }

    private String message() {
        if (crate.readingProperty().get())
            return crate.toReadProperty().get() == 0 ? "reading files …" : "reading " + Figures.grouped(crate.toReadProperty().get()) + " more files …";
        int toHear = crate.toHearProperty().get(), toFit = crate.toFitProperty().get();
        if (toHear == 0) return crate.messageProperty().get();
        if (toFit < toHear) return "listening to " + Told.count(toHear - toFit, "sound") + " …";
        double part = crate.fitPartProperty().get();
        return "making " + Told.count(toFit, "line") + " fit …" + (toFit == 1 && part > 0 ? String.format(Locale.ROOT, " %.0f %%", 100 * part) : "");
    }

    /// What went wrong stays until somebody has seen it.
    private Node error() {
        Label text = new Label();
        text.setId("error");
        text.setWrapText(true);
        text.setMaxWidth(Double.MAX_VALUE);
        text.textProperty().bind(crate.errorProperty());
        HBox.setHgrow(text, Priority.ALWAYS);
        HBox strip = new HBox(10, new VerdictStamp(Verdict.BLOCKED), text,
                Buttons.of("dismiss-error", "Dismiss", "It stays until you have seen it", crate::dismissError));
        strip.getStyleClass().add("error-strip");
        strip.setAlignment(Pos.CENTER_LEFT);
        strip.visibleProperty().bind(crate.errorProperty().isNotEmpty());
        strip.managedProperty().bind(strip.visibleProperty());
        return strip;
    }
}
