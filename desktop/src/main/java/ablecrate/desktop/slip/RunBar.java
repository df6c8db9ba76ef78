package ablecrate.desktop.slip;

import ablecrate.desktop.Tips;
import ablecrate.pack.PackProgress;
import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.HBox;

/// Bottom edge, right: the running job with its time left, and the way to stop it.
public final class RunBar extends HBox {
    public RunBar(PackRunModel model) {
        getStyleClass().add("run-bar");
        setAlignment(Pos.CENTER_RIGHT);
        ProgressBar bar = new ProgressBar(0);
        bar.setPrefWidth(180);
        bar.setAccessibleText("Packing");
        Label text = new Label();
        text.setId("run-text");
        text.setMaxWidth(340);
        // What is left of the name is told; how far it is has to be.
        text.setTextOverrun(OverrunStyle.ELLIPSIS);
        Tips.on(text, "What has a tick in the list is packed and can be heard: R, then Packed file");
        Button stop = new Button("Stop");
        stop.setId("stop");
        stop.setMinWidth(USE_PREF_SIZE);
        bar.setMinWidth(60);
        Tips.on(stop, "Stop packing; nothing is left half-written (Esc)");
        stop.setOnAction(_ -> model.stop());
        getChildren().addAll(text, bar, stop);
        visibleProperty().bind(model.runningProperty());
        managedProperty().bind(model.runningProperty());
        model.progressProperty().subscribe(p -> p.ifPresent(now -> {
            bar.setProgress(now.fraction());
            text.setText(words(now));
        }));
    }

    private static String words(PackProgress p) {
        String left = p.secondsLeft().map(s -> String.format(Locale.ROOT, ", %.0f s left", s)).orElse("");
        String name = p.current().isEmpty() ? "" : ": " + p.current();
        return String.format(Locale.ROOT, "Packed %,d of %,d%s%s", p.itemsDone(), p.itemsTotal(), left, name);
    }
}
