package ablecrate.desktop.hearing;

import java.util.Locale;
import java.util.function.DoubleConsumer;
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

    private final ObservableValue<Hearable> heard;
    private final Rectangle left = new Rectangle(0, METER_HEIGHT), right = new Rectangle(0, METER_HEIGHT);
    private final Label time = new Label("0:00.000"), level = new Label("–∞");

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
        play.setTooltip(new Tooltip("Hear the chosen sound, or stop (Space)"));
        play.setOnAction(_ -> heard.getValue().toggle());
        Button side = new Button();
        side.setId("side");
        side.setMinWidth(72);
        side.textProperty().bind(heard.flatMap(Hearable::side));
        side.setOnAction(_ -> heard.getValue().otherSide());
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
        playing.subscribe(isPlaying -> {
            if (isPlaying)
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
        Hearable.Heard now = heard.getValue().heard();
        time.setText(String.format(Locale.ROOT, "%d:%06.3f", (int) (now.seconds() / 60), now.seconds() % 60));
        left.setWidth(width(now.leftDb()));
        right.setWidth(width(now.rightDb()));
        double highest = Math.max(now.leftDb(), now.rightDb());
        level.setText(highest < LOWEST_DB ? "–∞" : String.format(Locale.ROOT, "%.1f dB", highest));
    }

    private static double width(double db) { return METER_WIDTH * Math.clamp((db - LOWEST_DB) / -LOWEST_DB, 0, 1); }
}
