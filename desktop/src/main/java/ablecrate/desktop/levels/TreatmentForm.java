package ablecrate.desktop.levels;

import ablecrate.desktop.Tips;
import ablecrate.desktop.Words;
import ablecrate.desktop.Typed;
import ablecrate.dsp.LevelMeasure;
import ablecrate.option.Kind;
import ablecrate.option.LevelTarget;
import ablecrate.option.Option;
import ablecrate.option.OptionConflict;
import ablecrate.option.Options;
import ablecrate.option.SoundOptions;
import ablecrate.option.Treatment;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.DoubleFunction;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;

/// What is done to levels, ends and loops, of all sounds or of the chosen ones: a control for each option that may differ between sounds, made of its
/// declaration. An empty field is "not at all".
public final class TreatmentForm extends GridPane {
    /// What stands in one line; what is not named here gets a line of its own below.
    private static final List<List<String>> LINES = List.of(List.of("level"), List.of("together"), List.of("stems"), List.of("equal-length"),
            List.of("ceiling", "ceiling-by"),
            List.of("limiting"),
            List.of("overs"), List.of("trim"), List.of("on-attack"), List.of("pre-roll"), List.of("clickless"), List.of("fade-in", "fade-in-shape"),
            List.of("fade-out", "fade-out-shape"),
            List.of("loop-crossfade"));

    private final TreatmentModel model;
    private final ComboBox<TreatmentModel.Scope> scope = new ComboBox<>();
    private final Button asAll = new Button("As all");
    private final Label own = new Label();
    /// Brings each control up to what holds now.
    private final List<Consumer<Treatment>> shown = new ArrayList<>();
    private boolean renewing;

    public TreatmentForm(TreatmentModel model) {
        this.model = model;
        getStyleClass().add("options");
        setId("treatment");
        lineOfScope();
        LINES.forEach(ids -> line(ids.stream().<Option<?>>map(id -> Options.byId(id).orElseThrow()).toList()));
        Options.ofSounds().stream().filter(o -> LINES.stream().noneMatch(l -> l.contains(o.id()))).forEach(o -> line(List.of(o)));
        model.subscribe(this::renew);
    }

    private void lineOfScope() {
        scope.setId("treatment-scope");
        scope.setAccessibleText("Settings of");
        scope.getItems().setAll(TreatmentModel.Scope.values());
        words(scope, s -> s == TreatmentModel.Scope.ALL ? "all sounds" : "the chosen (" + model.chosenCount() + ")", model.scopeProperty()::set);
        asAll.setId("as-all");
        Tips.on(asAll, "The chosen sounds are treated as all others again");
        asAll.setMinWidth(Region.USE_PREF_SIZE);
        asAll.setOnAction(_ -> model.asAll());
        own.getStyleClass().add("unit");
        addLine("For", "", scope, asAll, own);
    }

    private void line(List<Option<?>> options) {
        if (options.getFirst() == SoundOptions.LEVEL) {
            lineOfLevel(options.getFirst());
            return;
        }
        List<Node> nodes = new ArrayList<>();
        options.forEach(o -> nodes.addAll(controls(o)));
        addLine(options.getFirst().title(), options.getFirst().explained(), nodes.toArray(Node[]::new));
    }

    private void addLine(String title, String help, Node... nodes) {
        Label label = new Label(title);
        label.getStyleClass().add("option-title");
        label.setMinWidth(Region.USE_PREF_SIZE);
        if (!help.isEmpty()) Tips.on(label, help);
        HBox box = new HBox(6, nodes);
        box.setAlignment(Pos.CENTER_LEFT);
        GridPane.setHgrow(box, Priority.ALWAYS);
        addRow(getRowCount(), label, box);
    }

    private static Label unit(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("unit");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private <T> List<Node> controls(Option<T> option) {
        return switch (option.kind()) {
            case Kind.Number<T> number -> List.of(numberField(option, number), unit(number.unitText()));
            case Kind.Words<T> words -> List.of(combo(option, words.values()));
            case Kind.Flag<T> flag -> List.of(combo(option, List.of(flag.no(), flag.yes())));
            case Kind.Several<?> _ -> List.of(textField(option));
            case Kind.Text<?> _ -> List.of(textField(option));
            default -> throw new IllegalArgumentException("there is no control for " + option.id());
        };
    }

    /// A measure, and below it the value that it is to have.
    private void lineOfLevel(Option<?> option) {
        List<Optional<LevelMeasure>> measures = new ArrayList<>(List.of(Optional.empty()));
        Arrays.stream(LevelMeasure.values()).map(Optional::of).forEach(measures::add);
        ComboBox<Optional<LevelMeasure>> measure = new ComboBox<>();
        measure.setId("level-measure");
        measure.getItems().setAll(measures);
        words(measure, m -> m.map(TreatmentForm::brief).orElse("as they are"), m -> say(option, m.map(to -> to.id() + ":" + valueOf(to)).orElse("none")));
        explain(measure, option);
        NumberField value = new NumberField(0.5, text -> text.isBlank()
                ? Optional.empty()
                : treatment().level().flatMap(l -> say(option, l.measure().id() + ":" + text)));
        value.setId("level-target");
        explain(value, option);
        Label unit = unit("");
        shown.add(t -> {
            measure.setValue(t.level().map(LevelTarget::measure));
            value.show(t.level().map(l -> NumberField.TEXT.apply(l.value())).orElse(""));
            value.setDisable(t.level().isEmpty());
            unit.setText(t.level().map(l -> l.measure().unit()).orElse(""));
        });
        addLine(option.title(), option.explained(), measure);
        addLine("to", option.explained(), value, unit);
    }

    private String valueOf(LevelMeasure measure) {
        return NumberField.TEXT.apply(treatment().level().filter(l -> l.measure() == measure).map(LevelTarget::value).orElse(usual(measure)));
    }

    private <T> ComboBox<T> combo(Option<T> option, List<T> values) {
        ComboBox<T> combo = new ComboBox<>();
        combo.setId(option.id());
        combo.getItems().setAll(values);
        // What stands behind a comma explains, and has its room in the tooltip and the docs.
        words(combo, v -> option.kind().label(v).replaceAll(",.*", ""), v -> change(option, t -> option.with(t, v)));
        explain(combo, option);
        shown.add(t -> {
            combo.setValue(option.get(t));
            combo.setDisable(!option.isMeaningful(t));
        });
        return combo;
    }

    private <T> NumberField numberField(Option<T> option, Kind.Number<T> number) {
        String nothing = number.none().isEmpty() ? option.kind().texts(option.get(Treatment.NONE)).getFirst() : number.none();
        NumberField field = new NumberField(number.unitText().startsWith("dB") ? 0.5 : 1, text -> say(option, text.isBlank() ? nothing : text));
        field.setId(option.id());
        explain(field, option);
        shown.add(t -> {
            field.show(option.kind().label(option.get(t)));
            field.setDisable(!option.isMeaningful(t));
        });
        return field;
    }

    /// Values of which there may be several, parted by semicolons.
    private Node textField(Option<?> option) {
        SaidField field = new SaidField(String::strip, text -> say(option, text));
        field.setId(option.id());
        field.setPromptText(option.kind().prompt());
        HBox.setHgrow(field, Priority.ALWAYS);
        explain(field, option);
        shown.add(t -> {
            field.show(label(option, t));
            field.setDisable(!option.isMeaningful(t));
        });
        return field;
    }

    private static <T> String label(Option<T> option, Treatment treatment) { return option.kind().label(option.get(treatment)); }

    private static void explain(Control control, Option<?> option) {
        control.setAccessibleText(option.title());
        Tips.on(control, option.explained());
    }

    private <T> void words(ComboBox<T> combo, Function<T, String> text, Consumer<T> set) {
        combo.setMaxWidth(Double.MAX_VALUE);
        combo.setPrefWidth(60);
        HBox.setHgrow(combo, Priority.ALWAYS);
        combo.setConverter(Words.of(text));
        combo.setOnAction(_ -> {
            if (!renewing && combo.getValue() != null) set.accept(combo.getValue());
        });
    }

    private Treatment treatment() { return model.treatment(); }

    private void change(Option<?> option, UnaryOperator<Treatment> change) {
        if (!renewing) model.change(option.title().toLowerCase(Locale.ROOT), change);
    }

    /// @return what is wrong with the text
    private Optional<String> say(Option<?> option, String text) {
        List<String> said = option.kind().split(text);
        try {
            option.said(treatment(), said);
        } catch (OptionConflict e) {
            return Optional.of(e.getMessage());
        }
        change(option, t -> {
            try {
                return option.said(t, said);
            } catch (OptionConflict e) {
                throw new IllegalArgumentException(e);
            }
        });
        return Optional.empty();
    }

    static String brief(LevelMeasure measure) { return measure.label().replace("maximum", "max."); }

    /// Where one starts: room left above, as sets that are made too hot are the common complaint.
    static double usual(LevelMeasure measure) { return measure.unit().equals("LUFS") ? -18 : -1; }

    private void renew() {
        renewing = true;
        boolean isOfChosen = model.scopeProperty().get() == TreatmentModel.Scope.CHOSEN;
        // Set anew, as its words count the chosen.
        scope.setValue(null);
        scope.setValue(model.scopeProperty().get());
        asAll.setVisible(isOfChosen);
        asAll.setManaged(isOfChosen);
        asAll.setDisable(model.ownCount() == 0);
        own.setText(isOfChosen ? model.isMixed() ? "differ" : "" : model.ownInJob() == 0 ? "" : "but " + model.ownInJob() + " of their own");
        own.setManaged(!own.getText().isEmpty());
        Treatment now = treatment();
        shown.forEach(s -> s.accept(now));
        renewing = false;
    }

    /// Taken over by Enter or on leaving.
    private static class SaidField extends TextField {
        /// Takes a text over, and tells what is wrong with it.
        private final Function<String, Optional<String>> take;
        private final UnaryOperator<String> read;
        private String before = "";

        /// @param read makes what was typed what is taken over
        SaidField(UnaryOperator<String> read, Function<String, Optional<String>> take) {
            this.read = read;
            this.take = take;
            getStyleClass().add("mono-field");
            setOnAction(_ -> take());
            focusedProperty().subscribe((_, now) -> {
                if (!now) take();
            });
        }

        final String before() { return before; }

        final void show(String text) {
            before = text;
            setText(text);
            Typed.mark(this, false);
        }

        private void take() {
            String text = read.apply(getText());
            if (text.equals(before)) return;
            Typed.mark(this, take.apply(text));
        }
    }

    /// A number, or nothing; changed by the arrows in steps.
    private static final class NumberField extends SaidField {
        static final DoubleFunction<String> TEXT = v -> String.format(Locale.ROOT, v == Math.rint(v) ? "%.0f" : "%.1f", v);

        NumberField(double step, Function<String, Optional<String>> take) {
            super(Typed::number, take);
            setPrefColumnCount(4);
            setMinWidth(58);
            setPromptText("–");
            addEventFilter(KeyEvent.KEY_PRESSED, e -> {
                if (e.getCode() != KeyCode.UP && e.getCode() != KeyCode.DOWN || before().isEmpty()) return;
                take.apply(TEXT.apply(Double.parseDouble(before()) + (e.getCode() == KeyCode.UP ? step : -step)));
                e.consume();
            });
        }
    }
}
