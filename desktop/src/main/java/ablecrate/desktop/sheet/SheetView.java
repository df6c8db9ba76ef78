package ablecrate.desktop.sheet;

import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.Typed;
import ablecrate.destination.SheetDraft;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Lies over the list: the fields of a sheet, and beside them what it would make of the sounds that are gathered.
public final class SheetView extends VBox {
    private static final String NOTHING_SAID = "–";

    private final SheetModel model;
    private final Map<String, Node> controls = new HashMap<>();
    private final Map<String, Label> faults = new HashMap<>();
    private final Label told = new Label(), wrong = new Label();
    private final VBox reasons = new VBox(6);

    /// @param file asks where it goes, with a name that suits
    public SheetView(SheetModel model, Function<String, Optional<Path>> file, Runnable close) {
        super(12);
        this.model = model;
        getStyleClass().addAll("overlay", "card");
        setId("sheet");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button save = Buttons.of("sheet-save", "Save and use…", "Save the sheet as a file, and pack for it from then on", () -> save(file, close));
        HBox head = new HBox(10, Headings.title("Destination sheet"), gap, save, Buttons.of("sheet-close", "Close", "Without saving", close));
        head.setAlignment(Pos.CENTER_LEFT);
        GridPane form = new GridPane(12, 7);
        String group = "";
        for (SheetDraft.Field field : SheetDraft.fields()) {
            if (!field.group().equals(group)) {
                Label heading = Headings.subheading(field.group());
                heading.getStyleClass().add("option-group");
                form.add(heading, 0, form.getRowCount(), 2, 1);
                group = field.group();
            }
            row(form, field);
        }
        ScrollPane scroll = new ScrollPane(form);
        scroll.setFitToWidth(true);
        scroll.setId("sheet-form");
        HBox.setHgrow(scroll, Priority.ALWAYS);
        for (Label label : List.of(told, wrong)) {
            label.setWrapText(true);
            label.setMinHeight(Region.USE_PREF_SIZE);
        }
        told.setId("sheet-outcome");
        wrong.setId("sheet-fault");
        wrong.getStyleClass().add("gauge-over");
        wrong.managedProperty().bind(wrong.textProperty().isNotEmpty());
        VBox side = new VBox(8, Headings.subheading("With what is gathered"), wrong, told, reasons);
        side.setMinWidth(260);
        side.setMaxWidth(260);
        HBox body = new HBox(18, scroll, side);
        VBox.setVgrow(body, Priority.ALWAYS);
        getChildren().addAll(head, body);
        setMaxSize(900, 660);
        model.faultProperty().subscribe(this::showFault);
        model.outcomeProperty().subscribe(_ -> showOutcome());
        save.disableProperty().bind(model.faultProperty().map(Optional::isPresent));
    }

    private void save(Function<String, Optional<Path>> file, Runnable close) {
        file.apply(model.suggested()).ifPresent(to -> model.save(to).ifPresentOrElse(wrong::setText, close));
    }

    private void row(GridPane form, SheetDraft.Field field) {
        Label title = new Label(field.label());
        title.setMinWidth(Region.USE_PREF_SIZE);
        Node control = control(field);
        control.setId("sheet-" + field.path().replace('.', '-'));
        control.setAccessibleText((field.group().isEmpty() ? "" : field.group() + ": ") + field.label());
        Tips.on(title, field.help());
        Tips.on(control, field.help());
        Label fault = new Label();
        fault.getStyleClass().addAll("hint", "gauge-over");
        fault.setWrapText(true);
        fault.managedProperty().bind(fault.textProperty().isNotEmpty());
        VBox cell = new VBox(2, control, fault);
        GridPane.setHgrow(cell, Priority.ALWAYS);
        faults.put(field.path(), fault);
        controls.put(field.path(), control);
        form.addRow(form.getRowCount(), title, cell);
    }

    private Node control(SheetDraft.Field field) {
        return switch (field.type()) {
            case TEXT, NUMBER, NUMBERS -> {
                TextField text = new TextField(model.text(field));
                text.getStyleClass().add("mono-field");
                if (field.type() == SheetDraft.Type.NUMBERS) text.setPromptText("with commas between them; nothing is any");
                if (field.type() == SheetDraft.Type.NUMBER)
                    text.setPromptText(field.path().startsWith("defaults") ? "as the source" : field.path().contains("Overhead") ? "none" : "no limit");
                text.textProperty().subscribe((_, now) -> model.set(field, now));
                yield text;
            }
            case FLAG -> {
                CheckBox box = new CheckBox();
                box.setSelected(model.text(field).equals("true"));
                box.setOnAction(_ -> model.set(field, Boolean.toString(box.isSelected())));
                yield box;
            }
            case WORD -> {
                ComboBox<String> words = new ComboBox<>();
                words.getItems().add(NOTHING_SAID);
                words.getItems().addAll(field.words());
                words.setValue(model.text(field).isEmpty() ? NOTHING_SAID : model.text(field));
                words.setOnAction(_ -> model.set(field, words.getValue().equals(NOTHING_SAID) ? "" : words.getValue()));
                yield words;
            }
            case WORDS -> words(field);
        };
    }

    /// The order in which they are chosen is kept: the first is preferred.
    private Node words(SheetDraft.Field field) {
        FlowPane row = new FlowPane(12, 4);
        Set<String> chosen = new LinkedHashSet<>(Arrays.stream(model.text(field).split(", ")).filter(w -> !w.isEmpty()).toList());
        for (String word : field.words()) {
            CheckBox box = new CheckBox(word);
            box.setId("sheet-" + field.path().replace('.', '-') + "-" + word);
            box.setSelected(chosen.contains(word));
            box.setOnAction(_ -> {
                if (box.isSelected())
                    chosen.add(word);
                else
                    chosen.remove(word);
                model.set(field, String.join(", ", chosen));
            });
            row.getChildren().add(box);
        }
        return row;
    }

    private void showFault() {
        Optional<SheetDraft.Fault> fault = model.faultProperty().get();
        String path = fault.map(SheetDraft.Fault::path).orElse("");
        // A fault of a whole part stands at its first field.
        String at = faults.containsKey(path)
                ? path
                : SheetDraft.fields().stream().map(SheetDraft.Field::path).filter(p -> p.startsWith(path + ".")).findFirst().orElse("");
        faults.forEach((field, label) -> label.setText(field.equals(at) && fault.isPresent() ? fault.get().message() : ""));
        controls.forEach((field, control) -> {
            if (control instanceof TextField text) Typed.mark(text, field.equals(at) && fault.isPresent());
        });
        wrong.setText(fault.map(f -> "Not right yet: " + (f.path().isEmpty() ? "" : f.path() + ": ") + f.message()).orElse(""));
        showOutcome();
    }

    private void showOutcome() {
        Optional<SheetModel.Outcome> outcome = model.outcomeProperty().get();
        told.setText(outcome.map(SheetModel::told).orElse(model.faultProperty().get().isPresent() ? "" : "Nothing is gathered yet that it could be tried on."));
        List<Node> lines = new ArrayList<>();
        for (String reason : outcome.map(SheetModel.Outcome::reasons).orElse(List.of())) {
            Label line = new Label(reason);
            line.getStyleClass().add("hint");
            line.setWrapText(true);
            line.setMinHeight(Region.USE_PREF_SIZE);
            lines.add(line);
        }
        reasons.getChildren().setAll(lines);
    }
}
