package ablecrate.desktop.presets;

import ablecrate.desktop.Headings;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Lies over the list: the presets, and a field for a name to save or rename by.
public final class PresetsView extends VBox {
    private final PresetsModel model;
    private final ListView<String> list;
    private final TextField name = new TextField();

    public PresetsView(PresetsModel model, Runnable close) {
        super(12);
        this.model = model;
        getStyleClass().addAll("overlay", "card");
        setId("presets");
        list = new ListView<>(model.names());
        list.setId("preset-list");
        list.setAccessibleText("Presets");
        list.setPrefHeight(260);
        Label nothing = new Label("None yet. Set the options on the right as you want them, then save them here under a name.");
        nothing.setWrapText(true);
        nothing.getStyleClass().add("placeholder");
        list.setPlaceholder(nothing);
        name.setId("preset-name");
        name.setAccessibleText("Name of the preset");
        name.setPromptText("Name, such as: for the session");
        HBox.setHgrow(name, Priority.ALWAYS);
        Button back = button("Close", "preset-close", close), use = button("Use", "preset-use", () -> use(close)),
                rename = button("Rename", "preset-rename", () -> chosen().ifPresent(c -> model.rename(c, name.getText()))),
                delete = button("Delete", "preset-delete", () -> chosen().ifPresent(model::delete)),
                save = button("Save the options as they are", "preset-save", () -> model.save(name.getText()));
        for (Button needsOne : new Button[]{use, rename, delete})
            needsOne.disableProperty().bind(list.getSelectionModel().selectedItemProperty().isNull());
        list.getSelectionModel().selectedItemProperty().subscribe(s -> {
            if (s != null) name.setText(s);
        });
        list.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) use(close);
        });
        list.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) use(close);
        });
        name.setOnAction(_ -> model.save(name.getText()));
        Label told = new Label();
        told.setId("preset-told");
        told.getStyleClass().add("hint");
        told.textProperty().bind(model.toldProperty());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(10, Headings.title("Presets"), gap, back), saving = new HBox(10, name, save), acting = new HBox(10, use, rename, delete, told);
        for (HBox row : new HBox[]{head, saving, acting})
            row.setAlignment(Pos.CENTER_LEFT);
        VBox.setVgrow(list, Priority.ALWAYS);
        Label about = new Label("A preset holds all options and the destination. On the command line: --preset NAME.");
        about.getStyleClass().add("about");
        getChildren().addAll(head, about, list, acting, saving);
        setMaxSize(620, 460);
        model.renew();
    }

    private Optional<String> chosen() { return Optional.ofNullable(list.getSelectionModel().getSelectedItem()); }

    private void use(Runnable close) {
        chosen().ifPresent(c -> {
            model.use(c);
            if (model.toldProperty().get().isEmpty()) close.run();
        });
    }

    private static Button button(String text, String id, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.setOnAction(_ -> action.run());
        return button;
    }
}
