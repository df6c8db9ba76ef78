package ablecrate.desktop.levels;

import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.option.CeilingBy;
import ablecrate.option.LevelTarget;
import ablecrate.option.Limits;
import ablecrate.option.Overs;
import ablecrate.option.Treatment;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.DoubleFunction;
import java.util.function.Function;
import javafx.css.PseudoClass;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.StringConverter;

/// What is done to levels and ends, of all sounds or of the chosen ones, line by line; an empty field is "not at all".
public final class TreatmentForm extends GridPane {
    private static final PseudoClass WRONG = PseudoClass.getPseudoClass("wrong");

    private final TreatmentModel model;
    private final ComboBox<TreatmentModel.Scope> scope;
    private final ComboBox<Overs> overs;
    private final Button asAll = new Button("As all");
    private final Label own = new Label();
    private final ComboBox<Optional<LevelMeasure>> measure;
    private final ComboBox<CeilingBy> ceilingBy;
    private final ComboBox<FadeShape> inShape, outShape;
    private final CheckBox together = new CheckBox("one gain"), offset = new CheckBox("remove DC offset");
    private final List<NumberField> numbers = new ArrayList<>();
    private boolean renewing;

    public TreatmentForm(TreatmentModel model) {
        this.model = model;
        getStyleClass().add("options");
        setId("treatment");
        List<Optional<LevelMeasure>> measures = new ArrayList<>(List.of(Optional.empty()));
        Arrays.stream(LevelMeasure.values()).map(Optional::of).forEach(measures::add);
        scope = combo("treatment-scope", "Settings of", List.of(TreatmentModel.Scope.values()), this::words, s -> model.scopeProperty().set(s));
        overs = combo("overs", "Beyond full scale", List.of(Overs.values()), Overs::label,
                o -> set("beyond full scale", t -> t.withLimits(t.limits().withOvers(o))));
        measure = combo("level-measure", "Set levels by", measures, m -> m.map(TreatmentForm::brief).orElse("as they are"), this::setMeasure);
        ceilingBy = combo("ceiling-by", "Ceiling kept by", List.of(CeilingBy.values()), c -> c == CeilingBy.LIMITER ? "limiter" : "lower gain",
                c -> set("ceiling", t -> t.withCeilingBy(c)));
        inShape = shapes("fade-in-shape", "Shape of the fade-in", s -> set("fade-in shape", t -> t.withFadeIn(t.fadeIn().withShape(s))));
        outShape = shapes("fade-out-shape", "Shape of the fade-out", s -> set("fade-out shape", t -> t.withFadeOut(t.fadeOut().withShape(s))));
        NumberField target = number("level-target", "Target", -60, 12, t -> t.level().map(LevelTarget::value),
                v -> set("target", t -> t.withLevel(t.level().map(l -> new LevelTarget(l.measure(), v.orElse(l.value()))))));
        NumberField ceiling = number("ceiling", "Ceiling", -40, 0, Treatment::ceilingDbtp, v -> set("ceiling", t -> t.withCeiling(v)));
        NumberField limiting = number("most-limiting", "Limiting up to", 0, 40, t -> Optional.of(t.limits().mostLimitingDb()),
                v -> set("limiting", t -> t.withLimits(t.limits().withMostLimiting(v.orElse(Limits.USUAL_LIMITING_DB)))));
        NumberField trim = number("trim", "Silence below", -120, -20, Treatment::trimDbfs, v -> set("trim", t -> t.withTrim(v)));
        NumberField in = number("fade-in", "Fade-in", 0, 60_000, t -> some(t.fadeIn().ms()),
                v -> set("fade-in", t -> t.withFadeIn(t.fadeIn().withMs(v.orElse(0.0)))));
        NumberField out = number("fade-out", "Fade-out", 0, 60_000, t -> some(t.fadeOut().ms()),
                v -> set("fade-out", t -> t.withFadeOut(t.fadeOut().withMs(v.orElse(0.0)))));
        NumberField crossfade = number("loop-crossfade", "Loop crossfade", 0, 10_000, t -> some(t.loopCrossfadeMs()),
                v -> set("loop crossfade", t -> t.withLoopCrossfade(v.orElse(0.0))));
        together.setId("together");
        together.setOnAction(_ -> set("levels together", t -> t.withTogether(together.isSelected())));
        offset.setId("remove-offset");
        offset.setOnAction(_ -> set("offset", t -> t.withOffsetRemoved(offset.isSelected())));

        Label unit = new Label();
        unit.getStyleClass().add("unit");
        unit.setMinWidth(Region.USE_PREF_SIZE);
        model.subscribe(() -> unit.setText(treatment().level().map(l -> l.measure().unit()).orElse("")));
        asAll.setId("as-all");
        asAll.setTooltip(new Tooltip("The chosen sounds are treated as all others again"));
        asAll.setMinWidth(Region.USE_PREF_SIZE);
        asAll.setOnAction(_ -> model.asAll());
        own.getStyleClass().add("unit");
        line("For", scope, asAll, own);
        line("Set levels by", measure);
        line("to", target, unit, together);
        line("Ceiling", ceiling, unit("dBTP"), ceilingBy);
        line("Limiting up to", limiting, unit("dB"), unit("to reach the level"));
        line("Over full scale", overs);
        line("Silence below", trim, unit("dBFS"), unit("is cut off"));
        line("Fade in", in, unit("ms"), inShape);
        line("Fade out", out, unit("ms"), outShape);
        line("Loop crossfade", crossfade, unit("ms"), offset);
        model.subscribe(this::renew);
    }

    private static Optional<Double> some(double value) { return value == 0 ? Optional.empty() : Optional.of(value); }

    private static Label unit(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("unit");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private void line(String title, Node... nodes) {
        Label label = new Label(title);
        label.getStyleClass().add("option-title");
        label.setMinWidth(Region.USE_PREF_SIZE);
        HBox box = new HBox(6, nodes);
        box.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        GridPane.setHgrow(box, Priority.ALWAYS);
        addRow(getRowCount(), label, box);
    }

    private String words(TreatmentModel.Scope of) {
        return of == TreatmentModel.Scope.ALL ? "all sounds" : "the chosen (" + model.chosenCount() + ")";
    }

    private Treatment treatment() { return model.treatment(); }

    private void set(String what, Function<Treatment, Treatment> change) {
        if (!renewing) model.change(what, change::apply);
    }

    private void setMeasure(Optional<LevelMeasure> chosen) {
        set("levels", t -> {
            Optional<LevelTarget> target = chosen
                    .map(m -> new LevelTarget(m, t.level().filter(l -> l.measure() == m).map(LevelTarget::value).orElse(usual(m))));
            return t.aimedAt(target);
        });
    }

    static String brief(LevelMeasure measure) { return measure.label().replace("maximum", "max."); }

    /// Where one starts: room left above, as sets that are made too hot are the common complaint.
    static double usual(LevelMeasure measure) { return measure.unit().equals("LUFS") ? -18 : -1; }

    private void renew() {
        renewing = true;
        Treatment t = treatment();
        boolean isOfChosen = model.scopeProperty().get() == TreatmentModel.Scope.CHOSEN;
        // Set anew, as its words count the chosen.
        scope.setValue(null);
        scope.setValue(model.scopeProperty().get());
        asAll.setVisible(isOfChosen);
        asAll.setManaged(isOfChosen);
        asAll.setDisable(model.ownCount() == 0);
        own.setText(isOfChosen ? model.isMixed() ? "differ" : "" : model.ownInJob() == 0 ? "" : "but " + model.ownInJob() + " of their own");
        own.setManaged(!own.getText().isEmpty());
        overs.setValue(t.limits().overs());
        overs.setDisable(t.ceilingDbtp().isPresent());
        measure.setValue(t.level().map(LevelTarget::measure));
        ceilingBy.setValue(t.ceilingBy());
        ceilingBy.setDisable(t.ceilingDbtp().isEmpty() || t.together());
        inShape.setValue(t.fadeIn().shape());
        inShape.setDisable(t.fadeIn().ms() == 0);
        outShape.setValue(t.fadeOut().shape());
        outShape.setDisable(t.fadeOut().ms() == 0);
        together.setSelected(t.together());
        together.setDisable(t.level().isEmpty());
        offset.setSelected(t.removesOffset());
        numbers.forEach(n -> n.show(t));
        lookup("#level-target").setDisable(t.level().isEmpty());
        lookup("#most-limiting").setDisable(t.level().isEmpty() || t.together() || t.ceilingBy() == CeilingBy.GAIN);
        renewing = false;
    }

    private ComboBox<FadeShape> shapes(String id, String title, Consumer<FadeShape> set) {
        return combo(id, title, List.of(FadeShape.values()), s -> s == FadeShape.S ? "S" : s.label().replaceAll(",.*", ""), set);
    }

    private <T> ComboBox<T> combo(String id, String title, List<T> values, Function<T, String> text, Consumer<T> set) {
        ComboBox<T> combo = new ComboBox<>();
        combo.setId(id);
        combo.setAccessibleText(title);
        combo.getItems().setAll(values);
        combo.setMaxWidth(Double.MAX_VALUE);
        combo.setPrefWidth(60);
        HBox.setHgrow(combo, Priority.ALWAYS);
        combo.setConverter(new StringConverter<>() {
            @Override public String toString(T value) { return value == null ? "" : text.apply(value); }

            @Override public T fromString(String shown) { return combo.getValue(); }
        });
        combo.setOnAction(_ -> {
            if (!renewing && combo.getValue() != null) set.accept(combo.getValue());
        });
        return combo;
    }

    private NumberField number(String id, String title, double lowest, double highest, Function<Treatment, Optional<Double>> get,
            Consumer<Optional<Double>> set) {
        NumberField field = new NumberField(lowest, highest, get, set);
        field.setId(id);
        field.setAccessibleText(title);
        numbers.add(field);
        return field;
    }

    /// A number, or nothing; taken over by Enter or on leaving, changed by the arrows in steps.
    private static final class NumberField extends TextField {
        private static final DoubleFunction<String> TEXT = v -> String.format(Locale.ROOT, v == Math.rint(v) ? "%.0f" : "%.1f", v);

        private final double lowest, highest;
        private final Function<Treatment, Optional<Double>> get;
        private final Consumer<Optional<Double>> set;
        private Optional<Double> shown = Optional.empty();

        NumberField(double lowest, double highest, Function<Treatment, Optional<Double>> get, Consumer<Optional<Double>> set) {
            this.lowest = lowest;
            this.highest = highest;
            this.get = get;
            this.set = set;
            getStyleClass().add("mono-field");
            setPrefColumnCount(4);
            setMinWidth(58);
            setPromptText("–");
            setOnAction(_ -> take());
            focusedProperty().subscribe((_, now) -> {
                if (!now) take();
            });
            addEventFilter(javafx.scene.input.KeyEvent.KEY_PRESSED, e -> {
                if (e.getCode() != KeyCode.UP && e.getCode() != KeyCode.DOWN || shown.isEmpty()) return;
                double step = lowest < 0 ? 0.5 : 1;
                set.accept(Optional.of(Math.clamp(shown.get() + (e.getCode() == KeyCode.UP ? step : -step), lowest, highest)));
                e.consume();
            });
        }

        void show(Treatment t) {
            shown = get.apply(t);
            setText(shown.map(TEXT::apply).orElse(""));
            pseudoClassStateChanged(WRONG, false);
        }

        private void take() {
            Optional<Double> value = Optional.empty();
            if (!getText().isBlank())
                try {
                    value = Optional.of(Double.parseDouble(getText().strip().replace(',', '.').replace('−', '-')));
                } catch (NumberFormatException e) {
                    value = Optional.of(Double.NaN);
                }
            boolean isWrong = value.isPresent() && !(value.get() >= lowest && value.get() <= highest);
            pseudoClassStateChanged(WRONG, isWrong);
            if (!isWrong && !value.map(TEXT::apply).equals(shown.map(TEXT::apply))) set.accept(value);
        }
    }
}
