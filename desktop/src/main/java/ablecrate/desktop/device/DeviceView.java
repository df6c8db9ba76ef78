package ablecrate.desktop.device;

import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.action.Action;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.bench.BenchSide;
import ablecrate.desktop.fit.FitModel;
import ablecrate.desktop.fit.Gauges;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.standins.Device;
import ablecrate.standins.Preset;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.animation.AnimationTimer;
import javafx.application.Platform;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The face of the bench for the device: what it has loaded of the card, its pads or keys, its memory, and what it refuses.
public final class DeviceView extends BorderPane implements Bench {
    private static final double PRESETS = 210, GAP = 14, GAUGE = 90, LEAST_FOR_LIST = 680, LIST_HEIGHT = 84;

    private final DeviceModel model;
    private final Map<Device.Controls, Face> faces = new EnumMap<>(Device.Controls.class);
    private final ListView<Preset> presets = new ListView<>();
    private final ToggleButton letters = new ToggleButton("Play notes with letters");
    private final Label sentence = new Label(), placeholder = new Label(), hint = new Label(), song = new Label();
    private final Gauges memory = new Gauges(GAUGE, true);
    private final VBox refusals = new VBox(7), told = new VBox(8);
    private final BorderPane middle = new BorderPane();
    private final HBox body = new HBox(middle);
    private final Button play, forget, overMidi, again, otherCard;
    private final MenuButton change = new MenuButton("Change");
    private Optional<Preset> renamed = Optional.empty();
    private final Node sides;
    private Optional<Face> face = Optional.empty();

    /// @param folder asks for another card
    /// @param midi asks for a MIDI file
    /// @param dumps sends what was packed over MIDI
    public DeviceView(DeviceModel model, Supplier<Optional<Path>> folder, Supplier<Optional<Path>> midi, Runnable dumps) {
        this.model = model;
        setId("device");
        getStyleClass().add("levels");
        faces.put(Device.Controls.PADS, new PadFace(model));
        faces.put(Device.Controls.KEYS, new KeyFace(model));
        faces.put(Device.Controls.TRACKS, new TrackFace(model));
        sentence.setId("device-sentence");
        sentence.getStyleClass().add("beside-sentence");
        placeholder.setId("device-empty");
        placeholder.getStyleClass().add("placeholder");
        for (Label text : List.of(sentence, placeholder)) {
            text.setWrapText(true);
            text.setMinHeight(Region.USE_PREF_SIZE);
        }
        song.getStyleClass().add("bench-name");
        letters.setId("device-letters");
        letters.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(letters, "Letters play notes instead of commands while the keys have the focus");
        letters.selectedProperty().bindBidirectional(model.lettersProperty());
        letters.setOnAction(_ -> focus());
        presets.setId("device-presets");
        presets.setPlaceholder(new Label());
        presets.setAccessibleText("What the device has loaded");
        presets.setCellFactory(_ -> new PresetCell());
        presets.addEventHandler(KeyEvent.KEY_PRESSED, this::changeByKey);
        presets.getSelectionModel().selectedItemProperty().subscribe(p -> {
            if (p != null) model.card().choose(p);
        });
        forget = Buttons.of("device-all", "All in turn", "Play each sound of the preset again, instead of the MIDI file", model::forgetSong);
        play = Buttons.of("device-midi", "Play a MIDI file…", "Play it on the preset that is chosen", () -> midi.get().ifPresent(model::play));
        sides = sides();
        BenchHead head = new BenchHead(hint, sides, letters, play, forget, song);
        HBox.setHgrow(middle, Priority.ALWAYS);
        BorderPane picture = new BorderPane(body);
        picture.setTop(head);
        setCenter(picture);
        fillChange();
        otherCard = Buttons.of("device-card", "", "Load another folder into the device", () -> folder.get().ifPresent(model.card()::load));
        again = Buttons.of("device-load", "Load again", "As the device would if the card were put in again", () -> model.card().load());
        HBox buttons = new HBox(8, again, otherCard, change);
        overMidi = Buttons.of("device-dumps", "Samples over MIDI…", "Send the dumps to the device itself, or ask it for its sounds (Ctrl+Shift+M)", dumps);
        VBox side = new VBox(8, sentence, memory, buttons, overMidi, told);
        told.getChildren().addAll(Headings.subheading("What it refuses"), refusals);
        // Where there is little room for keys, the list goes to what is told beside them.
        widthProperty().map(w -> w.doubleValue() < LEAST_FOR_LIST).subscribe(isNarrow -> {
            body.getChildren().remove(presets);
            side.getChildren().remove(presets);
            presets.setMinWidth(isNarrow ? 0 : PRESETS);
            presets.setMaxWidth(isNarrow ? Double.MAX_VALUE : PRESETS);
            presets.setPrefHeight(isNarrow ? LIST_HEIGHT : Region.USE_COMPUTED_SIZE);
            if (isNarrow)
                side.getChildren().add(1, presets);
            else
                body.getChildren().addFirst(presets);
        });
        setRight(new BenchSide(side, 356, this));
        model.card().shownProperty().subscribe(_ -> renew());
        model.card().emptyProperty().subscribe(why -> {
            placeholder.setText(why);
            renew();
        });
        model.card().presetProperty().subscribe(_ -> showPreset());
        model.downProperty().subscribe(_ -> light());
        model.songProperty().subscribe(s -> {
            song.setText(s.map(f -> f.getFileName().toString()).orElse(""));
            appear(song, s.isPresent());
            appear(forget, s.isPresent());
        });
        AnimationTimer timer = new AnimationTimer() {
            @Override public void handle(long now) { light(); }
        };
        model.playing().subscribe(isPlaying -> {
            if (isPlaying)
                timer.start();
            else {
                timer.stop();
                light();
            }
        });
    }

    private void fillChange() {
        change.setId("device-change");
        change.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(change, "What is on the card: its names, its order. What was not packed here is left alone");
        CardChanges changes = model.changes();
        MenuItem rename = item("device-rename", "Rename…", "", () -> chosen().ifPresent(this::rename)),
                earlier = item("device-earlier", "Earlier", "Alt+Up", () -> chosen().ifPresent(p -> changes.move(p, -1))),
                later = item("device-later", "Later", "Alt+Down", () -> chosen().ifPresent(p -> changes.move(p, 1))),
                delete = item("device-delete", "Delete from the card", "Delete", () -> chosen().ifPresent(changes::delete)),
                undo = item("device-undo", "Undo on the card", "", changes::undo);
        change.getItems().setAll(rename, earlier, later, delete, undo);
        undo.disableProperty().bind(changes.canUndoProperty().not());
        change.setOnShowing(_ -> {
            Optional<Preset> now = chosen();
            rename.setDisable(now.flatMap(changes::editableName).isEmpty());
            boolean isNumbered = now.filter(changes::isNumbered).isPresent();
            earlier.setDisable(!isNumbered || presets.getSelectionModel().getSelectedIndex() == 0);
            later.setDisable(!isNumbered || presets.getSelectionModel().getSelectedIndex() == presets.getItems().size() - 1);
            delete.setDisable(now.filter(CardChanges::isApart).isEmpty());
        });
    }

    private static MenuItem item(String id, String text, String key, Runnable run) {
        MenuItem item = new MenuItem(text);
        item.setId(id);
        if (!key.isEmpty()) item.setText(text + "   " + key);
        item.setOnAction(_ -> run.run());
        return item;
    }

    private Optional<Preset> chosen() { return Optional.ofNullable(presets.getSelectionModel().getSelectedItem()); }

    private void changeByKey(KeyEvent e) {
        Optional<Preset> now = chosen();
        if (now.isEmpty() || renamed.isPresent()) return;
        boolean isMove = e.isAltDown() && (e.getCode() == KeyCode.UP || e.getCode() == KeyCode.DOWN),
                isDelete = isDelete(e.getCode()) && CardChanges.isApart(now.get());
        if (isMove) model.changes().move(now.get(), e.getCode() == KeyCode.UP ? -1 : 1);
        if (isDelete) model.changes().delete(now.get());
        if (isMove || isDelete) e.consume();
    }

    private static boolean isDelete(KeyCode code) { return code == KeyCode.DELETE || code == KeyCode.BACK_SPACE; }

    private void rename(Preset preset) {
        renamed = Optional.of(preset);
        presets.refresh();
    }

    private static void appear(Node node, boolean isThere) {
        node.setVisible(isThere);
        node.setManaged(isThere);
    }

    private Node sides() {
        HBox row = new HBox(4);
        row.setAlignment(Pos.CENTER_LEFT);
        ToggleGroup group = new ToggleGroup();
        for (DeviceModel.Side side : DeviceModel.Side.values()) {
            ToggleButton button = new ToggleButton(side.label());
            button.setId("device-side-" + side.label().toLowerCase(Locale.ROOT));
            button.setToggleGroup(group);
            button.setMinWidth(Region.USE_PREF_SIZE);
            Tips.on(button, switch (side) {
                case DEVICE -> "Pads and keys play as the device plays the card (A turns on)";
                case RESULT -> "Pads and keys play what packing makes of the line (A turns on)";
                case SOURCE -> "Pads and keys play the source (A turns on)";
            });
            button.setOnAction(_ -> model.sideProperty().set(side));
            model.sideProperty().subscribe(now -> button.setSelected(now == side));
            row.getChildren().add(button);
        }
        return row;
    }

    @Override public String id() { return "device"; }

    @Override public String title() { return "Device"; }

    @Override public Node node() { return this; }

    @Override public void focus() { face.ifPresentOrElse(Face::focus, presets::requestFocus); }

    @Override public void shown(boolean isShown) { model.lookedAt(isShown); }

    @Override public boolean takes(KeyCode code) {
        if (isDelete(code)) return presets.isFocused();
        return face.filter(f -> f.node().isFocused() && f.plays(code, model.areLettersNotes())).isPresent();
    }

    @Override public Optional<Hearable> hearable() { return Optional.of(model); }

    @Override public List<Action> keys() {
        return List.of(Action.told("device-pads", "On the device", "Play the pads", "1 … 9"),
                Action.told("device-next", "On the device", "From kit to kit, in the list of what is loaded", "↑ ↓"),
                Action.told("device-order", "On the device", "Put a kit of ours earlier or later on the card", "Alt+↑ ↓"),
                Action.told("device-remove", "On the device", "Delete it from the card, in the list of what is loaded", "Delete"));
    }

    private void renew() {
        Optional<DeviceCard.Shown> shown = model.card().shownProperty().get();
        sentence.setText(model.card().sentence());
        presets.getItems().setAll(shown.map(s -> s.loaded().presets()).orElse(List.of()));
        face = shown.map(s -> faces.get(s.device().controls()));
        middle.setCenter(face.map(Face::node).orElse(placeholder));
        BorderPane.setAlignment(placeholder, Pos.TOP_LEFT);
        BorderPane.setMargin(placeholder, new Insets(0, GAP, 0, GAP));
        appear(presets, shown.isPresent());
        boolean hasKeys = shown.filter(s -> s.device().controls() == Device.Controls.KEYS).isPresent();
        appear(letters, hasKeys);
        appear(overMidi, shown.filter(s -> s.device().takesDumps()).isPresent());
        boolean isPlayedByNotes = shown.filter(s -> s.device().controls() != Device.Controls.TRACKS).isPresent();
        appear(sides, isPlayedByNotes);
        appear(play, isPlayedByNotes);
        appear(again, model.card().hasCard());
        appear(otherCard, model.card().hasDevice());
        otherCard.setText(shown.isPresent() ? "Another card…" : "Load a card…");
        // Last, as it goes where there is no room beside the others.
        hint.setText("");
        hint.setText(face.map(Face::hint).orElse(""));
        memory.show(shown.map(DeviceCard.Shown::loaded).filter(l -> l.mostBytes() > 0).map(l -> List.of(gauge(l))).orElse(List.of()));
        List<Device.Refusal> refused = shown.map(s -> s.loaded().refusals()).orElse(List.of());
        told.setVisible(!refused.isEmpty());
        refusals.getChildren().setAll(refused.stream().map(DeviceView::refusal).toList());
    }

    private static FitModel.Gauge gauge(Device.Loaded loaded) {
        return new FitModel.Gauge("Memory", loaded.memoryBytes(), loaded.memoryBytes(), loaded.mostBytes(),
                Figures.bytes(loaded.memoryBytes()) + " of " + Figures.bytes(loaded.mostBytes()), "");
    }

    private static Node refusal(Device.Refusal refusal) {
        Label path = new Label(refusal.path()), why = new Label(refusal.reason());
        Tips.on(path, refusal.path());
        path.getStyleClass().add("beside-value");
        why.getStyleClass().add("hint");
        why.setWrapText(true);
        why.setMinHeight(Region.USE_PREF_SIZE);
        HBox row = new HBox(8, new VerdictStamp(Verdict.BLOCKED), new VBox(1, path, why));
        row.setAlignment(Pos.TOP_LEFT);
        return row;
    }

    private void showPreset() {
        Optional<Preset> now = model.card().presetProperty().get();
        now.ifPresent(p -> {
            face.ifPresent(f -> f.show(p));
            if (presets.getSelectionModel().getSelectedItem() != p) presets.getSelectionModel().select(p);
        });
        light();
    }

    private void light() { face.ifPresent(f -> f.light(model.lit())); }

    private final class PresetCell extends ListCell<Preset> {
        @Override protected void updateItem(Preset preset, boolean isEmpty) {
            super.updateItem(preset, isEmpty);
            if (isEmpty || preset == null) {
                setGraphic(null);
                return;
            }
            if (renamed.filter(r -> r == preset).isPresent()) {
                setGraphic(field(preset));
                return;
            }
            Label name = new Label(preset.name()), count = new Label(Told.count(preset.slots().size(), "sound"));
            name.setMaxWidth(Double.MAX_VALUE);
            name.setMinWidth(0);
            HBox.setHgrow(name, Priority.ALWAYS);
            count.getStyleClass().add("hint");
            count.setMinWidth(Region.USE_PREF_SIZE);
            HBox row = new HBox(6, name, count);
            row.setAlignment(Pos.CENTER_LEFT);
            setGraphic(row);
            setAccessibleText(preset.name() + ", " + count.getText());
        }

        private TextField field(Preset preset) {
            TextField field = new TextField(model.changes().editableName(preset).orElse(""));
            field.setId("device-name");
            field.setAccessibleText("Another name for " + preset.name());
            field.setOnAction(_ -> {
                end();
                model.changes().rename(preset, field.getText());
            });
            field.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
                if (e.getCode() != KeyCode.ESCAPE) return;
                e.consume();
                end();
            });
            Platform.runLater(field::requestFocus);
            return field;
        }

        private void end() {
            renamed = Optional.empty();
            presets.refresh();
            presets.requestFocus();
        }
    }
}
