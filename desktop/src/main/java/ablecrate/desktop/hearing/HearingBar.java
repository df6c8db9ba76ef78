package ablecrate.desktop.hearing;

import java.util.Locale;
import java.util.function.DoubleConsumer;
import java.util.function.Supplier;
import javafx.animation.AnimationTimer;
import javafx.beans.value.ObservableValue;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;

/// Bottom edge: play and stop, source or result, where, how loud.
public final class HearingBar extends HBox {
    private static final double METER_WIDTH = 150, METER_HEIGHT = 5, LOWEST_DB = -60;

    private final Controls controls;
    private final Rectangle left = new Rectangle(0, METER_HEIGHT), right = new Rectangle(0, METER_HEIGHT);
    private final Label time = new Label("0:00.000"), level = new Label("–∞");

    /// What the two buttons do and say; the bench may hear something else than the list.
    /// @param side what is heard, in a word
    /// @param heard asked many times a second while something plays
    public record Controls(Runnable play, Runnable other, ObservableValue<Boolean> playing, ObservableValue<String> side, Supplier<Heard> heard) {}

    /// What comes to the ear at this moment.
    public record Heard(double seconds, double leftDb, double rightDb) {
        public static final Heard NOTHING = new Heard(0, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY);
    }

    /// @param cursor told of the frame that is heard, many times a second
    public HearingBar(HearingModel model, Controls controls, DoubleConsumer cursor) {
        this.controls = controls;
        getStyleClass().add("hearing");
        setAlignment(Pos.CENTER_LEFT);
        Button play = new Button();
        play.setId("play");
        play.setMinWidth(64);
        play.textProperty().bind(controls.playing().map(p -> p ? "Stop" : "Play"));
        play.setTooltip(new Tooltip("Hear the chosen sound, or stop (Space)"));
        play.setOnAction(_ -> controls.play().run());
        Button side = new Button();
        side.setId("side");
        side.setMinWidth(72);
        side.textProperty().bind(controls.side());
        side.setOnAction(_ -> controls.other().run());
        side.setTooltip(new Tooltip("Hear the source, or what packing makes of it (A)"));
        time.getStyleClass().add("time");
        time.setMinWidth(80);
        level.getStyleClass().add("time");
        level.setMinWidth(64);
        Label note = new Label();
        note.getStyleClass().add("hint");
        note.textProperty().bind(model.noteProperty());
        getChildren().addAll(play, side, time, new VBox(3, lane(left), lane(right)), level, note);
        ((VBox) getChildren().get(3)).setAlignment(Pos.CENTER_LEFT);
        AnimationTimer timer = new AnimationTimer() {
            @Override public void handle(long now) {
                tick();
                cursor.accept(model.sourceFrame());
            }
        };
        // Frames are asked for only while something plays.
        controls.playing().subscribe(playing -> {
            if (playing)
                timer.start();
            else {
                timer.stop();
                tick();
                cursor.accept(-1);
            }
        });
    }

    private static Pane lane(Rectangle bar) {
        bar.getStyleClass().add("meter-bar");
        Pane lane = new Pane(bar);
        lane.getStyleClass().add("meter-lane");
        lane.setMinSize(METER_WIDTH, METER_HEIGHT);
        lane.setMaxSize(METER_WIDTH, METER_HEIGHT);
        return lane;
    }

    private void tick() {
        Heard heard = controls.heard().get();
        time.setText(String.format(Locale.ROOT, "%d:%06.3f", (int) (heard.seconds() / 60), heard.seconds() % 60));
        left.setWidth(width(heard.leftDb()));
        right.setWidth(width(heard.rightDb()));
        double highest = Math.max(heard.leftDb(), heard.rightDb());
        level.setText(highest < LOWEST_DB ? "–∞" : String.format(Locale.ROOT, "%.1f dB", highest));
    }

    private static double width(double db) { return METER_WIDTH * Math.clamp((db - LOWEST_DB) / -LOWEST_DB, 0, 1); }
}
