package ablecrate.desktop.session;

import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.desktop.Tips;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.bench.BenchSide;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.list.Sketches;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.relink.SessionCheck;
import ablecrate.relink.Trouble;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.animation.AnimationTimer;
import javafx.geometry.BoundingBox;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The face of the bench for a recording session: tracks along bars, what of them cannot play, and the way to make it whole.
public final class SessionView extends BorderPane implements Bench {
    private static final double HEADS = 176, MOST_ZOOM = 32;

    private final SessionModel model;
    private final Supplier<Optional<Path>> folder;
    private final TimeLine timeLine;
    private final VBox heads = new VBox(), files = new VBox(7);
    private final Label sentence = new Label(), none = new Label();
    private final ScrollPane scroll;
    private final Button repair, search, takeBack;
    private final CheckBox isProven = new CheckBox("Then compare the mixes before and after");
    private double zoom = 1;

    /// @param open chooses another session
    /// @param folder asks where offline files may be
    public SessionView(SessionModel model, Sketches sketches, Runnable open, Supplier<Optional<Path>> folder) {
        this.model = model;
        this.folder = folder;
        setId("session");
        getStyleClass().add("levels");
        timeLine = new TimeLine(sketches, frame -> model.playFrom((long) frame));
        sentence.getStyleClass().add("beside-sentence");
        sentence.setId("session-sentence");
        sentence.setWrapText(true);
        sentence.setMinHeight(Region.USE_PREF_SIZE);
        none.getStyleClass().add("placeholder");
        none.setWrapText(true);
        repair = Buttons.of("session-repair", "Make it whole", "Convert and copy everything into the session's audio folder; clips follow", this::repair);
        search = Buttons.of("session-search", "Look in a folder…", "Look for offline files there, with all folders below it", this::search);
        takeBack = Buttons.of("session-undo", "Take back", "Bring back what the last pack or repair changed in the session", model::takeBack);
        Button out = Buttons.of("session-zoom-out", "−", "Show more of the time line", () -> zoom(zoom / 2)),
                in = Buttons.of("session-zoom-in", "+", "Show less of the time line, larger", () -> zoom(zoom * 2));
        ToggleButton click = new ToggleButton("Metronome");
        click.setId("session-click");
        click.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(click, "Hear the beats with the session, the first of a bar higher");
        click.setOnAction(_ -> model.click(click.isSelected()));
        BenchHead head = new BenchHead(new Label("Click the time line to hear it from there"),
                Buttons.of("session-open", "Open a session…", "Pack into the session of a folder", open), click, out, in);
        heads.setMinWidth(HEADS);
        heads.setMaxWidth(HEADS);
        HBox.setHgrow(timeLine, Priority.ALWAYS);
        scroll = new ScrollPane(new HBox(heads, timeLine));
        scroll.setFitToWidth(true);
        scroll.getStyleClass().add("time-line-scroll");
        isProven.setId("session-prove");
        isProven.setSelected(true);
        Tips.on(isProven, "Play the session as it was and as it is now, and measure what is left of one without the other");
        isProven.disableProperty().bind(repair.disabledProperty());
        scroll.hvalueProperty().subscribe(this::look);
        scroll.vvalueProperty().subscribe(this::look);
        scroll.viewportBoundsProperty().subscribe(this::look);
        timeLine.widthProperty().subscribe(this::look);
        timeLine.heightProperty().subscribe(this::look);
        VBox side = new VBox(8, sentence, new FlowPane(8, 4, repair, search, takeBack), isProven, proof(model.proof()),
                Headings.subheading("Files of the session"), files);
        BorderPane picture = new BorderPane(scroll);
        picture.setTop(head);
        setCenter(picture);
        setRight(new BenchSide(side, 356, this));
        model.shownProperty().subscribe(_ -> renew());
        AnimationTimer timer = new AnimationTimer() {
            @Override public void handle(long now) { timeLine.showHead(model.playedFrame()); }
        };
        model.playing().subscribe(isPlaying -> {
            if (isPlaying)
                timer.start();
            else {
                timer.stop();
                timeLine.showHead(-1);
            }
        });
    }

    @Override public String id() { return "session"; }

    @Override public String title() { return "Session"; }

    @Override public Node node() { return this; }

    @Override public void focus() { timeLine.requestFocus(); }

    @Override public Optional<Hearable> hearable() { return Optional.of(model); }

    private void zoom(double wanted) {
        zoom = Math.clamp(wanted, 1, MOST_ZOOM);
        scroll.setFitToWidth(zoom == 1);
        timeLine.setMinWidth(zoom == 1 ? Region.USE_COMPUTED_SIZE : (scroll.getViewportBounds().getWidth() - HEADS) * zoom);
    }

    /// Tells the time line what of it is in view.
    private void look() {
        Bounds port = scroll.getViewportBounds();
        double left = scroll.getHvalue() * Math.max(0, HEADS + timeLine.getWidth() - port.getWidth()) - HEADS,
                top = scroll.getVvalue() * Math.max(0, timeLine.getHeight() - port.getHeight());
        timeLine.look(new BoundingBox(left, top, port.getWidth(), port.getHeight()));
    }

    private void repair() { model.repair(List.of(), isProven.isSelected()); }

    private void search() { folder.get().ifPresent(f -> model.repair(List.of(f), isProven.isSelected())); }

    /// What came of comparing the mixes, and a way to stop it.
    private Node proof(MixProof from) {
        VerdictStamp stamp = new VerdictStamp(Verdict.KEPT);
        Button stop = Buttons.of("session-prove-stop", "Stop", "Stop comparing; the session stays whole", from::stop);
        stop.setMinWidth(Region.USE_PREF_SIZE);
        Label proof = new Label();
        proof.setId("session-proof");
        proof.setWrapText(true);
        proof.setMinHeight(Region.USE_PREF_SIZE);
        HBox.setHgrow(proof, Priority.ALWAYS);
        proof.setMaxWidth(Double.MAX_VALUE);
        HBox row = new HBox(8, stamp, proof, stop);
        row.managedProperty().bind(row.visibleProperty());
        from.resultProperty().subscribe(result -> {
            row.setVisible(result.isPresent());
            proof.setText(result.map(MixProof.Result::text).orElse(""));
            Optional<Verdict> verdict = result.flatMap(MixProof.Result::verdict);
            verdict.ifPresent(stamp::show);
            stamp.setVisible(verdict.isPresent());
            stop.setVisible(result.filter(MixProof.Result::isRunning).isPresent());
            for (Node optional : List.of(stamp, stop))
                optional.setManaged(optional.isVisible());
        });
        return row;
    }

    private void renew() {
        Optional<SessionModel.Shown> shown = model.shownProperty().get();
        timeLine.show(shown);
        heads.getChildren().clear();
        files.getChildren().clear();
        Region ruler = new Region();
        ruler.setMinHeight(TimeLine.RULER);
        ruler.setMaxHeight(TimeLine.RULER);
        heads.getChildren().add(ruler);
        boolean isThere = shown.filter(SessionModel.Shown::isThere).isPresent();
        repair.setDisable(!isThere || shown.get().toMend().isEmpty());
        search.setDisable(!isThere || shown.get().toMend().stream().noneMatch(f -> f.has(Trouble.OFFLINE)));
        takeBack.setDisable(!isThere);
        if (shown.isEmpty()) {
            sentence.setText("Choose the destination Recording session and a folder to pack into, or open a session.");
            return;
        }
        sentence.setText(model.sentence());
        for (int lane = 0; lane < shown.get().lanes().size(); lane++)
            heads.getChildren().add(head(lane, shown.get().lanes().get(lane)));
        if (!isThere)
            none.setText(shown.get().lanes().isEmpty()
                    ? "The session is made by packing. Among the options on the right, under Session, sounds can be put on tracks."
                    : "The session is made by packing.");
        else
            none.setText(shown.get().toMend().isEmpty() ? "Every file is there, at the session's rate and depth." : "");
        if (!none.getText().isEmpty()) files.getChildren().add(none);
        shown.get().files().stream().filter(f -> !f.troubles().isEmpty()).forEach(f -> files.getChildren().add(file(f)));
    }

    private Node head(int lane, SessionModel.Lane shown) {
        Label name = new Label(shown.name());
        Tips.on(name, shown.name());
        name.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(name, Priority.ALWAYS);
        HBox row = new HBox(4, name);
        row.getStyleClass().add("time-line-track");
        row.setAlignment(Pos.CENTER_LEFT);
        row.setMinHeight(TimeLine.ROW);
        row.setMaxHeight(TimeLine.ROW);
        if (shown.isNew()) {
            Label isNew = new Label("new");
            isNew.getStyleClass().add("hint");
            isNew.setMinWidth(Region.USE_PREF_SIZE);
            row.getChildren().add(isNew);
            return row;
        }
        ToggleButton mute = new ToggleButton("Mute"), solo = new ToggleButton("Solo");
        mute.setId("mute-" + lane);
        solo.setId("solo-" + lane);
        mute.setSelected(model.isMuted(lane));
        solo.setSelected(model.isSoloed(lane));
        mute.setOnAction(_ -> model.mute(lane, mute.isSelected()));
        solo.setOnAction(_ -> model.solo(lane, solo.isSelected()));
        for (ToggleButton button : List.of(mute, solo)) {
            button.getStyleClass().add("small");
            button.setMinWidth(Region.USE_PREF_SIZE);
            button.setAccessibleText(button.getText() + " " + shown.name());
        }
        row.getChildren().addAll(mute, solo);
        return row;
    }

    private static Node file(SessionCheck.Entry entry) {
        Label name = new Label(entry.path().substring(entry.path().lastIndexOf('/') + 1)), why = new Label(entry.text());
        Tips.on(name, entry.path() + (entry.clips() > 0 ? ", " + Told.count(entry.clips(), "clip") : ""));
        name.getStyleClass().add("beside-value");
        why.getStyleClass().add("hint");
        why.setWrapText(true);
        why.setMinHeight(Region.USE_PREF_SIZE);
        HBox row = new HBox(8, new VerdictStamp(entry.verdict()), new VBox(1, name, why));
        row.setAlignment(Pos.TOP_LEFT);
        return row;
    }
}
