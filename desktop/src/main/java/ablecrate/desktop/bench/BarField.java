package ablecrate.desktop.bench;

import ablecrate.desktop.Tips;
import ablecrate.desktop.Typed;
import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/// A field with its title in a bar below the wave; taken over by Enter.
final class BarField extends HBox {
    private final TextField field = new TextField();
    private String shown = "";

    /// @param columns how many figures have room
    /// @param read of what was typed; empty where it is no value
    /// @param renew shows what holds now
    BarField(String id, String title, String tip, int columns, Function<String, OptionalDouble> read, DoubleConsumer set, Runnable renew) {
        super(5);
        setAlignment(Pos.CENTER_LEFT);
        Label label = new Label(title);
        label.getStyleClass().add("fact-name");
        label.setMinWidth(Region.USE_PREF_SIZE);
        field.setId(id);
        field.setAccessibleText(title);
        field.setPrefColumnCount(columns);
        field.setMinWidth(columns < 4 ? 40 : 62);
        Tips.on(field, tip);
        field.setOnAction(_ -> {
            OptionalDouble value = read.apply(field.getText().strip());
            // What cannot be read stays to be mended, until the field is left.
            Typed.mark(field, value.isEmpty());
            if (value.isEmpty()) return;
            shown = "";
            set.accept(value.getAsDouble());
            renew.run();
        });
        field.focusedProperty().subscribe((_, isFocused) -> {
            if (!isFocused) {
                Typed.mark(field, false);
                shown = "";
                renew.run();
            }
        });
        getChildren().addAll(label, field);
    }

    /// What is being typed is not written over, unless the value has become another.
    void show(String text) {
        boolean isTyped = field.isFocused() && !shown.isEmpty() && !field.getText().equals(shown);
        if (isTyped && text.equals(shown)) return;
        shown = text;
        field.setText(text);
    }
}
