package ablecrate.desktop.keys;

import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.Typed;
import ablecrate.desktop.list.ChangeLine;
import ablecrate.format.names.NameFacts;
import ablecrate.format.names.NamePart;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.change.Change;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.IntConsumer;
import java.util.function.UnaryOperator;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/// What the chosen zones say, and fields to change it for all of them at once; above, the groups.
final class ZoneForm extends VBox {
    private final KeysModel model;
    private final IntConsumer showGroup;
    private final VBox groups = new VBox(2), changes = new VBox(3);
    /// What comes first: what happens while nothing is chosen, the chosen zones once some are.
    private final List<VBox> checking, editing;
    private final Label count = new Label();
    private final Button split, merge, out;
    private final GridPane fields = new GridPane(), facts = new GridPane();
    /// How the name of the chosen zone's sound was read.
    private final VBox name = new VBox(4);
    private final List<Field> entries = new ArrayList<>();
    private int onlyGroup = -1;
    private List<Change> told = List.of();

    private record Field(TextField text, Function<Zone, String> show) {}

    ZoneForm(KeysModel model, IntConsumer showGroup) {
        this.model = model;
        this.showGroup = showGroup;
        split = button("Split", "zone-split", "X", model::split);
        merge = button("Merge", "zone-merge", "M", model::merge);
        out = button("Take out", "zone-out", "O", model::takeOut);
        fields.getStyleClass().add("facts");
        facts.getStyleClass().add("facts");
        count.getStyleClass().add("change-why");
        count.setWrapText(true);
        field("Keys", "zone-keys", z -> NoteName.of(z.get(Parameter.KEYS).low()) + " " + NoteName.of(z.get(Parameter.KEYS).high()),
                t -> span(t, 0).map(s -> z -> z.with(Parameter.KEYS, s)));
        field("Velocities", "zone-velocities", z -> z.get(Parameter.VELOCITIES).low() + " " + z.get(Parameter.VELOCITIES).high(),
                t -> span(t, 1).map(s -> z -> z.with(Parameter.VELOCITIES, s)));
        field("Root key", "zone-root", z -> NoteName.of(z.get(Parameter.ROOT_KEY)),
                t -> NoteName.parse(t, 4).filter(k -> k >= 0 && k <= 127).map(k -> z -> z.with(Parameter.ROOT_KEY, k)));
        number("Tuning, cents", "zone-tuning", Parameter.TUNING);
        number("Gain, dB", "zone-gain", Parameter.GAIN);
        number("Pan", "zone-pan", Parameter.PAN);
        number("Attack, s", "zone-attack", Parameter.ATTACK);
        number("Release, s", "zone-release", Parameter.RELEASE);
        FlowPane buttons = new FlowPane(8, 4, split, merge, out,
                button("As the source", "zone-source", "All zones as the source has them", model::asTheSource));
        buttons.getStyleClass().add("form-buttons");
        VBox happens = new VBox(Headings.subheading("What happens"), changes), layers = new VBox(Headings.subheading("Groups"), groups),
                chosen = new VBox(Headings.subheading("Chosen zones"), count, buttons, name, fields, Headings.subheading("What they say"), facts);
        List.of(happens, layers, chosen).forEach(p -> p.getStyleClass().add("form-part"));
        checking = List.of(happens, layers, chosen);
        editing = List.of(chosen, layers, happens);
    }

    private static Button button(String text, String id, String tip, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        Tips.on(button, tip);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.setOnAction(_ -> action.run());
        return button;
    }

    private static Optional<Span> span(String text, int lowest) {
        String[] ends = text.strip().split("[\\s…,]+");
        if (ends.length > 2) return Optional.empty();
        Optional<Integer> low = NoteName.parse(ends[0], 4), high = ends.length == 2 ? NoteName.parse(ends[1], 4) : low;
        return low.isPresent() && high.isPresent() && low.get() >= lowest && low.get() <= high.get() && high.get() <= 127
                ? Optional.of(new Span(low.get(), high.get()))
                : Optional.empty();
    }

    private void number(String name, String id, Parameter<Double> p) {
        field(name, id, z -> new java.math.BigDecimal(String.format(Locale.ROOT, "%.3f", z.get(p))).stripTrailingZeros().toPlainString(), t -> {
            try {
                double value = Double.parseDouble(Typed.number(t));
                return p.allows(value) ? Optional.of(z -> z.with(p, value)) : Optional.empty();
            } catch (NumberFormatException e) {
                return Optional.empty();
            }
        });
    }

    private void field(String name, String id, Function<Zone, String> show, Function<String, Optional<UnaryOperator<Zone>>> parse) {
        Label label = new Label(name);
        label.getStyleClass().add("fact-name");
        label.setMinWidth(Region.USE_PREF_SIZE);
        TextField text = new TextField();
        text.setId(id);
        text.setAccessibleText(name + " of the chosen zones");
        text.getStyleClass().add("mono-field");
        text.setOnAction(_ -> {
            Optional<UnaryOperator<Zone>> change = parse.apply(text.getText());
            Typed.mark(text, change.isEmpty());
            change.ifPresent(c -> model.set(c, name.toLowerCase(Locale.ROOT).replaceFirst(",.*", "") + " of zones"));
        });
        GridPane.setHgrow(text, Priority.ALWAYS);
        fields.addRow(entries.size(), label, text);
        entries.add(new Field(text, show));
    }

    void renew() {
        List<Zone> zones = model.chosen().stream().filter(z -> z < model.zones().size()).map(model.zones()::get).toList();
        setVisible(model.instrumentProperty().get().isPresent());
        split.setDisable(zones.isEmpty());
        merge.setDisable(zones.size() < 2);
        out.setDisable(zones.isEmpty());
        count.setText(zones.isEmpty()
                ? "none: click one, Shift adds"
                : zones.size() == 1 ? model.sampleName(zones.getFirst()) : zones.size() + " zones, changed together");
        for (Field field : entries) {
            field.text().setDisable(zones.isEmpty());
            Typed.mark(field.text(), false);
            List<String> values = zones.stream().map(field.show()).distinct().toList();
            field.text().setText(values.size() == 1 ? values.getFirst() : "");
            field.text().setPromptText(values.size() > 1 ? "various" : "");
        }
        facts.getChildren().clear();
        if (zones.size() == 1) {
            int row = 0;
            for (Parameter<?> p : zones.getFirst().said()) {
                Label name = new Label(p.label()), value = new Label(zones.getFirst().told(p).substring(p.label().length() + 1));
                name.getStyleClass().add("fact-name");
                value.getStyleClass().add("fact-value");
                value.setWrapText(true);
                name.setMinWidth(Region.USE_PREF_SIZE);
                facts.addRow(row++, name, value);
            }
        }
        name.getChildren().setAll(zones.size() == 1 ? model.nameOf(zones.getFirst()).map(n -> named(n, zones.getFirst())).orElse(List.of()) : List.of());
        if (!model.changes().equals(told)) {
            told = model.changes();
            changes.getChildren().setAll(told.stream().map(ChangeLine::new).toList());
        }
        List<VBox> order = zones.isEmpty() ? checking : editing;
        if (!getChildren().equals(order)) getChildren().setAll(order);
        groups();
    }

    /// Each part of the name and what it was taken for, to be put right for all names of the set.
    private List<Node> named(NameFacts facts, Zone zone) {
        GridPane parts = new GridPane();
        parts.getStyleClass().add("facts");
        for (int i = 0; i < facts.parts().size(); i++) {
            NameFacts.Part part = facts.parts().get(i);
            Label text = new Label(part.text());
            text.getStyleClass().add("fact-value");
            text.setMinWidth(Region.USE_PREF_SIZE);
            ComboBox<NamePart> meaning = new ComboBox<>();
            meaning.setId("name-part-" + (i + 1));
            meaning.setAccessibleText("What '" + part.text() + "' means in all names of the set");
            meaning.getItems().setAll(NamePart.values());
            meaning.setValue(part.meaning());
            meaning.setConverter(new StringConverter<>() {
                @Override public String toString(NamePart p) { return p == part.meaning() && !part.read().isEmpty() ? part.read() : p.label(); }

                @Override public NamePart fromString(String label) { return part.meaning(); }
            });
            meaning.setMaxWidth(Double.MAX_VALUE);
            meaning.setOnAction(_ -> model.explain(part.place(), meaning.getValue()));
            GridPane.setHgrow(meaning, Priority.ALWAYS);
            parts.addRow(i, text, meaning);
        }
        List<Node> all = new ArrayList<>(List.of(Headings.subheading("Read from its name"), parts));
        model.shiftBy(zone).ifPresent(by -> all.add(button(String.format(Locale.ROOT, "Move the keys of all names by %+d", by), "names-likewise",
                "Reads all names of the set so that this root is right", () -> model.countLike(zone))));
        return all;
    }

    private void groups() {
        groups.getChildren().clear();
        List<ZoneGroup> all = model.instrumentProperty().get().map(Instrument::groups).orElse(List.of());
        if (onlyGroup >= all.size()) {
            onlyGroup = -1;
            showGroup.accept(-1);
        }
        for (int g = 0; g < all.size(); g++) {
            int which = g;
            ToggleButton toggle = new ToggleButton((all.get(g).name().isEmpty() ? "group " + (g + 1) : all.get(g).name()) + "  " + all.get(g).zones().size());
            toggle.getStyleClass().addAll("group-toggle", "group-" + g % 4);
            toggle.setMaxWidth(Double.MAX_VALUE);
            toggle.setSelected(g == onlyGroup);
            Tips.on(toggle, "Only this group");
            toggle.setOnAction(_ -> {
                onlyGroup = toggle.isSelected() ? which : -1;
                showGroup.accept(onlyGroup);
                groups();
            });
            groups.getChildren().add(toggle);
        }
    }
}
