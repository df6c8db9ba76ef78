package ablecrate.desktop.destination;

import ablecrate.desktop.Buttons;
import ablecrate.desktop.Tips;
import ablecrate.desktop.Typed;
import ablecrate.desktop.Headings;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.fit.FitModel;
import ablecrate.desktop.fit.Gauges;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.destination.DestinationSheet;
import ablecrate.option.OptionGroup;
import ablecrate.option.Options;
import ablecrate.plan.PackingList;
import ablecrate.plan.SheetRules;
import ablecrate.change.Told;
import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.beans.binding.Bindings;
import javafx.beans.value.ObservableValue;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/// Right: where it goes, what that destination takes, what is left to choose, and the button that packs.
public final class DestinationView extends VBox {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    static final String OWN_SHEET = "A sheet of your own…";

    private final CrateModel crate;
    private final DestinationModel model;
    private final PackingListModel list;
    private final ComboBox<String> destinations = new ComboBox<>();
    private final Map<String, Control> controls = new HashMap<>();
    private final Label about = new Label(), into = new Label(), there = new Label(), preview = new Label();
    private final FlowPane rules = new FlowPane(4, 4);
    private final VBox fixes = new VBox(4);
    private final GridPane options = new GridPane();
    private final TextField pattern = new TextField();
    private final Button pack = new Button("Pack");
    private final MenuButton further;
    private boolean renewing;

    /// @param chooseSheet asks for a sheet's file
    /// @param chooseFurther asks for the sheet of another destination
    /// @param editSheet opens the sheet to be changed
    /// @param chooseInto asks for the folder to pack into
    /// @param packNow starts packing
    /// @param taken what the chosen instrument takes of the device
    public DestinationView(DestinationModel model, PackingListModel list, ObservableValue<List<FitModel.Gauge>> taken, Runnable chooseSheet,
            Runnable chooseFurther, Runnable editSheet, Runnable chooseInto, Runnable packNow) {
        this.model = model;
        this.crate = model.crate();
        this.list = list;
        getStyleClass().add("destination");
        Label title = Headings.heading("Destination");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button edit = Buttons.of("edit-sheet", "Edit sheet…", "Make a sheet of your own from this destination, or change yours", editSheet);
        edit.getStyleClass().add("small");
        destinations.setId("destination");
        destinations.setMaxWidth(Double.MAX_VALUE);
        destinations.setAccessibleText("Destination");
        destinations.setOnAction(_ -> chosenDestination(chooseSheet));
        about.getStyleClass().add("about");
        about.setWrapText(true);
        about.setMinHeight(Region.USE_PREF_SIZE);
        options.getStyleClass().add("options");
        pattern.setId("name-pattern");
        pattern.getStyleClass().add("mono-field");
        pattern.setAccessibleText("Name pattern");
        Tips.on(pattern, "Words: " + java.util.stream.Stream.of(ablecrate.destination.NamePattern.Word.values()).map(w -> "(" + w.id() + ") " + w.meaning())
                .collect(Collectors.joining("\n")) + "\nDots are digits: (number...) makes 007");
        pattern.textProperty().subscribe(text -> {
            if (!renewing) showPatternFault(model.setNamePattern(text));
        });
        preview.getStyleClass().add("preview");
        preview.setWrapText(true);
        Gauges limits = new Gauges(44, true);
        limits.setId("limits");
        limits.managedProperty().bind(limits.visibleProperty());
        taken.subscribe(g -> {
            // What the device does not count is no limit.
            limits.show(g.stream().filter(gauge -> gauge.limit() > 0).toList());
            limits.setVisible(!limits.getChildren().isEmpty());
        });
        further = DeliveriesView.adding(crate, chooseFurther);
        VBox inside = new VBox(new DeliveriesView(crate), destinations, about, limits, rules, fixes, options);
        inside.getStyleClass().add("destination-inside");
        ScrollPane scroll = new ScrollPane(inside);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        HBox head = new HBox(6, title, gap, further, edit);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("pane-head");
        getChildren().addAll(head, scroll, foot(chooseInto, packNow));
        crate.sheetProperty().subscribe(_ -> renew());
        crate.onList(this::renew);
        list.ruleProperty().subscribe(_ -> renewRules());
        list.currentProperty().subscribe(_ -> renewFixes());
    }

    private VBox foot(Runnable chooseInto, Runnable packNow) {
        Button choose = new Button("Folder…");
        choose.setId("choose-into");
        Tips.on(choose, "Where to pack (Ctrl+I)");
        choose.setOnAction(_ -> chooseInto.run());
        choose.setMinWidth(Region.USE_PREF_SIZE);
        into.getStyleClass().add("into");
        into.setTextOverrun(OverrunStyle.LEADING_ELLIPSIS);
        into.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(into, Priority.ALWAYS);
        HBox where = new HBox(8, into, choose);
        where.setAlignment(Pos.CENTER_LEFT);
        pack.setId("pack");
        pack.getStyleClass().add("loud");
        pack.setMaxWidth(Double.MAX_VALUE);
        Tips.on(pack, "Carry the packing list out (Ctrl+Enter)");
        pack.setOnAction(_ -> packNow.run());
        into.textProperty()
                .bind(Bindings.createStringBinding(() -> crate.job().into().map(Path::toString).orElse("no folder chosen yet"), crate.jobProperty()));
        there.setId("forecast");
        there.getStyleClass().add("about");
        there.setWrapText(true);
        there.setMinHeight(Region.USE_PREF_SIZE);
        there.managedProperty().bind(there.textProperty().isNotEmpty());
        crate.forecastProperty().subscribe(f -> there.setText(f.entrySet().stream()
                .map(e -> String.format(Locale.ROOT, "%,d %s", e.getValue(), e.getKey().text(crate.job().options().existing())))
                .collect(Collectors.joining("; "))));
        VBox foot = new VBox(8, where, there, pack);
        foot.getStyleClass().add("pane-foot");
        return foot;
    }

    private void chosenDestination(Runnable chooseSheet) {
        if (renewing || destinations.getValue() == null) return;
        if (destinations.getValue().equals(OWN_SHEET)) {
            chooseSheet.run();
            renew();
            return;
        }
        crate.builtInSheets().stream().filter(s -> s.name().equals(destinations.getValue())).findFirst().ifPresent(s -> crate.aim(s.id()));
    }

    private void renew() {
        renewing = true;
        DestinationSheet sheet = crate.sheetProperty().get();
        List<String> names = new java.util.ArrayList<>(crate.builtInSheets().stream().map(DestinationSheet::name).toList());
        if (!names.contains(sheet.name())) names.add(sheet.name());
        names.add(OWN_SHEET);
        if (!destinations.getItems().equals(names)) destinations.getItems().setAll(names);
        destinations.setValue(sheet.name());
        about.setText(sheet.about());
        Tips.on(about, SheetRules.of(sheet).stream().map(r -> r.title() + ": " + r.text()).collect(Collectors.joining("\n", "It takes\n", "")));
        renewRules();
        renewOptions();
        if (!pattern.getText().equals(model.namePattern()) && !pattern.isFocused()) {
            pattern.setText(model.namePattern());
            Typed.mark(pattern, false);
        }
        preview.setText(model.namePreview());
        int deliveries = crate.job().deliveries().size(), going = crate.overview().going();
        pack.setText(going == 0
                ? "Pack"
                : deliveries > 1
                        ? "Pack for " + deliveries + " destinations"
                        : String.format(Locale.ROOT, "Pack %,d %s", going, going == 1 ? "line" : "lines"));
        pack.setDisable(going == 0);
        renewing = false;
    }

    /// What the destination takes, each rule as far as it touches anything: a click shows the lines that it touches.
    private void renewRules() {
        Map<Property, PackingList.Touched> touched = crate.overview().touched();
        List<SheetRules.Rule> touching = SheetRules.of(crate.overview().list().destination()).stream()
                .filter(r -> touched.getOrDefault(r.property(), PackingList.Touched.NONE).items() > 0
                        || list.ruleProperty().get().equals(Optional.of(r.property())))
                .toList();
        rules.getChildren().setAll(touching.stream().map(r -> rule(r, touched.getOrDefault(r.property(), PackingList.Touched.NONE))).toList());
        renewFixes();
    }

    /// Ways out of what the chosen rule causes, or of what blocks the chosen line, and what can be done for stems.
    private void renewFixes() {
        Optional<Property> of = list.ruleProperty().get().or(() -> list.currentProperty().get().filter(i -> i.verdict() == Verdict.BLOCKED)
                .flatMap(i -> i.changes().stream().filter(c -> c.verdict() == Verdict.BLOCKED).map(Change::property).findFirst()));
        List<DestinationModel.Fix> all = new ArrayList<>(of.map(model::fixes).orElse(List.of()));
        list.currentProperty().get().ifPresent(line -> all.addAll(model.stemFixes(line)));
        fixes.getChildren().setAll(all.stream().map(this::fix).toList());
        fixes.setManaged(!fixes.getChildren().isEmpty());
    }

    private ToggleButton rule(SheetRules.Rule rule, PackingList.Touched by) {
        int touched = by.items();
        Verdict worst = by.worst();
        Label title = new Label(rule.title()), count = new Label(String.format(Locale.ROOT, "%,d", touched));
        title.getStyleClass().add("rule-title");
        count.getStyleClass().add("rule-count");
        VerdictStamp.mark(count, worst);
        HBox line = new HBox(5, new VerdictStamp(worst), title, count);
        line.setAlignment(Pos.CENTER_LEFT);
        ToggleButton button = new ToggleButton();
        button.setGraphic(line);
        button.setId("rule-" + rule.property().id());
        button.getStyleClass().add("rule");
        button.setSelected(list.ruleProperty().get().equals(Optional.of(rule.property())));
        button.pseudoClassStateChanged(CHOSEN, button.isSelected());
        button.setAccessibleText(rule.title() + ": " + rule.text() + ", touches " + touched + " items");
        Tips.on(button, "It takes: " + rule.text() + "\nShow the " + Told.count(touched, "line") + " that it touches");
        button.setOnAction(_ -> list.toggle(rule.property()));
        return button;
    }

    private Button fix(DestinationModel.Fix fix) {
        Button button = new Button(fix.text());
        button.getStyleClass().add("fix");
        button.setWrapText(true);
        button.setMaxWidth(Double.MAX_VALUE);
        button.setOnAction(_ -> fix.run().run());
        return button;
    }

    private void renewOptions() {
        List<DestinationModel.Open<?>> open = model.openOptions();
        List<String> shape = open.stream().map(o -> o.id() + o.values()).toList();
        if (!shape.equals(options.getUserData())) {
            options.getChildren().clear();
            controls.clear();
            for (OptionGroup group : OptionGroup.values()) {
                List<DestinationModel.Open<?>> of = open.stream().filter(o -> o.option().group() == group).toList();
                if (of.isEmpty() && group != OptionGroup.NAMES) continue;
                Label heading = Headings.subheading(group.title());
                heading.getStyleClass().add("option-group");
                options.add(heading, 0, options.getRowCount(), 2, 1);
                if (group == OptionGroup.NAMES) {
                    options.addRow(options.getRowCount(), title(Options.NAME.title(), Options.NAME.help()), pattern);
                    options.add(preview, 0, options.getRowCount(), 2, 1);
                }
                of.forEach(o -> options.addRow(options.getRowCount(), title(o.option().title(), o.option().explained()), control(o)));
            }
            options.setUserData(shape);
        } else
            open.forEach(this::showValue);
    }

    private static Label title(String text, String help) {
        Label title = new Label(text);
        title.getStyleClass().add("option-title");
        title.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(title, help);
        return title;
    }

    private <T> Control control(DestinationModel.Open<T> open) {
        Control control = open.values().isEmpty() ? field(open) : combo(open);
        controls.put(open.id(), control);
        control.setId("option-" + open.id());
        control.setAccessibleText(open.option().title());
        Tips.on(control, open.option().explained());
        control.setMaxWidth(Double.MAX_VALUE);
        control.setPrefWidth(158);
        GridPane.setHgrow(control, Priority.ALWAYS);
        return control;
    }

    private <T> ComboBox<T> combo(DestinationModel.Open<T> open) {
        ComboBox<T> combo = new ComboBox<>();
        combo.getItems().setAll(open.values());
        combo.setValue(open.value());
        combo.setConverter(new StringConverter<>() {
            @Override public String toString(T value) { return value == null ? "" : open.text(value); }

            @Override public T fromString(String text) { return combo.getValue(); }
        });
        combo.setOnAction(_ -> {
            if (!renewing && combo.getValue() != null) open.set(combo.getValue());
        });
        return combo;
    }

    /// A text or a number; taken over by Enter or on leaving.
    private <T> TextField field(DestinationModel.Open<T> open) {
        TextField field = new TextField(open.text(open.value()));
        field.getStyleClass().add("mono-field");
        field.setPromptText(open.option().kind().prompt());
        Runnable take = () -> {
            if (renewing) return;
            Typed.mark(field, current(open.id()).flatMap(o -> o.type(field.getText())));
        };
        field.setOnAction(_ -> take.run());
        field.focusedProperty().subscribe((_, isFocused) -> {
            if (!isFocused) take.run();
        });
        return field;
    }

    private Optional<DestinationModel.Open<?>> current(String id) { return model.openOptions().stream().filter(o -> o.id().equals(id)).findFirst(); }

    private <T> void showValue(DestinationModel.Open<T> open) {
        switch (controls.get(open.id())) {
            case ComboBox<?> combo -> {
                @SuppressWarnings("unchecked") // made by combo() for this very option
                ComboBox<T> same = (ComboBox<T>) combo;
                same.setValue(open.value());
            }
            case TextField field when !field.isFocused() -> {
                field.setText(open.text(open.value()));
                Typed.mark(field, false);
            }
            case null, default -> {}
        }
    }

    private void showPatternFault(Optional<String> fault) {
        Typed.mark(pattern, fault);
        if (fault.isPresent()) preview.setText(fault.get());
    }

    public void focusDestination() { destinations.requestFocus(); }

    /// Opens the menu by which another destination is added.
    public void addDestination() {
        further.requestFocus();
        further.show();
    }
}
