package ablecrate.desktop.dump;

import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.dump.Outcome;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Lies over the list: the port, what is sent or asked for, how far it is, and what became of each sound.
public final class DumpView extends VBox {
    private final DumpModel model;

    /// @param folder asks where sounds are put that come
    public DumpView(DumpModel model, Supplier<Optional<Path>> folder, Runnable close) {
        super(12);
        this.model = model;
        getStyleClass().addAll("overlay", "card");
        setId("dumps");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button leave = Buttons.of("dumps-close", "Close", "What is on its way goes on", close);
        HBox head = new HBox(10, Headings.title("Samples over MIDI"), gap, leave);
        head.setAlignment(Pos.CENTER_LEFT);
        ComboBox<String> port = new ComboBox<>(model.ports());
        port.setId("dumps-port");
        port.setAccessibleText("MIDI port");
        port.valueProperty().bindBidirectional(model.portProperty());
        Tips.on(port, "Where the device is connected, in both directions; without a connection back nothing is confirmed");
        Label sounds = new Label();
        sounds.setId("dumps-sounds");
        sounds.setWrapText(true);
        sounds.setMinHeight(Region.USE_PREF_SIZE);
        model.folderProperty().subscribe(f -> sounds.setText(DumpModel.sentence(f)));
        CheckBox compares = new CheckBox("Ask for each again and compare");
        compares.setId("dumps-compare");
        compares.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(compares, "Takes as long once more; without it each packet is acknowledged, and the header is asked for again");
        compares.selectedProperty().bindBidirectional(model.comparesProperty());
        TextField numbers = new TextField();
        numbers.setId("dumps-numbers");
        numbers.setPromptText("such as 1-10, 12");
        numbers.setAccessibleText("Numbers of the sounds to ask for");
        numbers.setMaxWidth(150);
        Button send = Buttons.of("dumps-send", "Send", "Send the dumps in the folder that is packed into, in the order of their names", model::send),
                receive = Buttons.of("dumps-receive", "Ask for them…", "The sounds become files of a folder, and are gathered",
                        () -> folder.get().ifPresent(f -> model.receive(numbers.getText(), f))),
                stop = Buttons.of("dumps-stop", "Stop", "The device is told that no more comes", model::stop);
        send.disableProperty().bind(Bindings.createBooleanBinding(() -> model.runningProperty().get() || model.folderProperty().get().dumps().isEmpty(),
                model.runningProperty(), model.folderProperty()));
        receive.disableProperty().bind(model.runningProperty().or(numbers.textProperty().isEmpty()));
        numbers.setOnAction(_ -> receive.fire());
        stop.disableProperty().bind(model.runningProperty().not());
        GridPane form = new GridPane(12, 9);
        row(form, "MIDI port", port);
        row(form, "To the device", sounds);
        row(form, "", new HBox(14, send, compares));
        row(form, "From the device", new HBox(8, numbers, receive));
        ProgressBar bar = new ProgressBar();
        bar.setMaxWidth(Double.MAX_VALUE);
        bar.setAccessibleText("How far it is");
        bar.progressProperty().bind(model.shareProperty());
        HBox.setHgrow(bar, Priority.ALWAYS);
        HBox progress = new HBox(10, bar, stop);
        progress.setAlignment(Pos.CENTER_LEFT);
        Label told = new Label();
        told.setId("dumps-told");
        told.setWrapText(true);
        told.setMinHeight(Region.USE_PREF_SIZE);
        told.textProperty().bind(model.toldProperty());
        ListView<DumpModel.Line> lines = new ListView<>(model.lines());
        lines.setId("dumps-lines");
        lines.setAccessibleText("What became of each sound");
        lines.setPlaceholder(Headings.label("Nothing was sent or asked for yet.", "placeholder"));
        lines.setCellFactory(_ -> new Cell());
        VBox.setVgrow(lines, Priority.ALWAYS);
        getChildren().addAll(head, form, progress, told, lines);
        setMaxSize(720, 560);
        model.renew();
    }

    private static void row(GridPane form, String title, Node control) {
        Label label = new Label(title);
        label.setMinWidth(Region.USE_PREF_SIZE);
        if (control instanceof HBox row) row.setAlignment(Pos.CENTER_LEFT);
        GridPane.setHgrow(control, Priority.ALWAYS);
        form.addRow(form.getRowCount(), label, control);
    }

    private static Verdict verdict(Outcome outcome) {
        return switch (outcome) {
            case COMPARED, CONFIRMED -> Verdict.KEPT;
            case ACKNOWLEDGED, UNCONFIRMED -> Verdict.REDUCED;
            case FAILED -> Verdict.BLOCKED;
        };
    }

    private static final class Cell extends ListCell<DumpModel.Line> {
        @Override protected void updateItem(DumpModel.Line line, boolean isEmpty) {
            super.updateItem(line, isEmpty);
            if (isEmpty || line == null) {
                setGraphic(null);
                return;
            }
            Label outcome = new Label(line.outcome().label()), number = new Label(Integer.toString(line.number())), name = new Label(line.name()),
                    time = new Label(Told.duration(line.time().toMillis() / 1e3)), note = new Label(line.note());
            outcome.setMinWidth(96);
            number.setMinWidth(38);
            name.setMinWidth(150);
            note.getStyleClass().add("hint");
            note.setMinWidth(0);
            note.setMaxWidth(Double.MAX_VALUE);
            Tips.on(note, line.note());
            HBox.setHgrow(note, Priority.ALWAYS);
            time.setMinWidth(Region.USE_PREF_SIZE);
            HBox row = new HBox(8, new VerdictStamp(verdict(line.outcome())), outcome, number, name, note, time);
            row.setAlignment(Pos.CENTER_LEFT);
            setGraphic(row);
            setAccessibleText(String.join(", ", List.of(line.outcome().label(), "number " + line.number(), line.name(), time.getText(), line.note())));
        }
    }
}
