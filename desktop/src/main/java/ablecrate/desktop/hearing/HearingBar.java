package ablecrate.desktop.hearing;

import ablecrate.desktop.Tips;

import java.util.Locale;
import java.util.function.DoubleConsumer;
import javafx.animation.AnimationTimer;
import javafx.beans.value.ObservableValue;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;

/// Bottom edge: play and stop, source or result, where, how loud.
public final class HearingBar extends HBox {
    private static final double METER_WIDTH = 110, METER_HEIGHT = 5, LOWEST_DB = -60, PLACE_WIDTH = 150, PLACE_HEIGHT = 12, QUIETEST_DB = -40;
    /// How long the highest level stays to be read.
    private static final long HOLD_NANOS = 1_500_000_000L;

    private final ObservableValue<Hearable> heard;
    private final Rectangle left = new Rectangle(0, METER_HEIGHT), right = new Rectangle(0, METER_HEIGHT);
    private final Label time = new Label("0:00.000"), level = new Label("–∞");
    private final Rectangle place = new Rectangle(0, PLACE_HEIGHT);
    private double held = Double.NEGATIVE_INFINITY;
    private long heldSince;

    /// @param heard what the buttons are for at this moment; what was heard before stops
    /// @param cursor told of the frame that is heard, many times a second
    public HearingBar(HearingModel model, ObservableValue<Hearable> heard, DoubleConsumer cursor) {
        this.heard = heard;
        getStyleClass().add("hearing");
        setAlignment(Pos.CENTER_LEFT);
        ObservableValue<Boolean> playing = heard.flatMap(Hearable::playing);
        Button play = new Button();
        play.setId("play");
        play.setMinWidth(64);
        play.textProperty().bind(playing.map(p -> p ? "Stop" : "Play"));
        Tips.on(play, "Hear the chosen sound, or stop (Space)");
        play.setOnAction(_ -> heard.getValue().toggle());
        Button side = new Button();
        side.setId("side");
        side.setMinWidth(72);
        side.textProperty().bind(heard.flatMap(Hearable::side));
        side.setOnAction(_ -> heard.getValue().otherSide());
        Tips.on(side, "Hear the source, or what packing makes of it (A)");
        time.getStyleClass().add("time");
        time.setMinWidth(80);
        level.getStyleClass().add("time");
        level.setMinWidth(64);
        Label note = new Label();
        note.getStyleClass().add("hint");
        note.textProperty().bind(model.noteProperty());
        VBox meters = new VBox(3, lane(left, METER_WIDTH, METER_HEIGHT), lane(right, METER_WIDTH, METER_HEIGHT));
        meters.setAlignment(Pos.CENTER_LEFT);
        HBox track = new HBox(place());
        track.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(play, side, time, track, meters, level, volume(), auto(model), note);
        AnimationTimer timer = new AnimationTimer() {
            @Override public void handle(long now) {
                tick();
                cursor.accept(model.sourceFrame());
            }
        };
        // Frames are asked for only while something plays.
        playing.subscribe(isPlaying -> {
            if (isPlaying)
                timer.start();
            else {
                timer.stop();
                held = Double.NEGATIVE_INFINITY;
                tick();
                cursor.accept(-1);
            }
        });
    }

    /// The place in the sound, to be clicked.
    private Pane place() {
        Pane lane = lane(place, PLACE_WIDTH, PLACE_HEIGHT);
        lane.setId("place");
        lane.setAccessibleText("Place in the sound");
        Tips.on(lane, "Click to play from there");
        lane.setOnMousePressed(e -> heard.getValue().playAt(Math.clamp(e.getX() / PLACE_WIDTH, 0, 1)));
        return lane;
    }

    private Slider volume() {
        Slider volume = new Slider(QUIETEST_DB, 0, 0);
        volume.setId("volume");
        volume.setPrefWidth(80);
        volume.setMinWidth(60);
        volume.setBlockIncrement(3);
        volume.setAccessibleText("Volume in dB");
        volume.valueProperty().subscribe(v -> {
            Tips.on(volume, String.format(Locale.ROOT, "Volume %.0f dB; the meters show the sound's own level", v.doubleValue()));
            heard.getValue().setVolumeDb(v.doubleValue());
        });
        heard.subscribe(h -> h.setVolumeDb(volume.getValue()));
        return volume;
    }

    private static ToggleButton auto(HearingModel model) {
        ToggleButton auto = new ToggleButton("Auto");
        auto.setId("auto-play");
        auto.setMinWidth(USE_PREF_SIZE);
        Tips.on(auto, "Play each sound as you walk through the list");
        auto.selectedProperty().bindBidirectional(model.autoProperty());
        return auto;
    }

    private static Pane lane(Rectangle bar, double width, double height) {
        bar.getStyleClass().add("meter-bar");
        Pane lane = new Pane(bar);
        lane.getStyleClass().add("meter-lane");
        lane.setMinSize(width, height);
        lane.setMaxSize(width, height);
        return lane;
    }

    private void tick() {
        Hearable.Heard now = heard.getValue().heard();
        time.setText(String.format(Locale.ROOT, "%d:%06.3f", (int) (now.seconds() / 60), now.seconds() % 60));
        left.setWidth(width(now.leftDb()));
        right.setWidth(width(now.rightDb()));
        double highest = Math.max(now.leftDb(), now.rightDb());
        place.setWidth(PLACE_WIDTH * Math.max(0, heard.getValue().share()));
        long clock = System.nanoTime();
        if (highest >= held || clock - heldSince > HOLD_NANOS) {
            held = highest;
            heldSince = clock;
        }
        highest = held;
        level.setText(highest < LOWEST_DB ? "–∞" : String.format(Locale.ROOT, "%.1f dB", highest));
    }

    private static double width(double db) { return METER_WIDTH * Math.clamp((db - LOWEST_DB) / -LOWEST_DB, 0, 1); }
}
