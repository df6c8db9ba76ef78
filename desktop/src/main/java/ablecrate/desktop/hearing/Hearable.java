package ablecrate.desktop.hearing;

import javafx.beans.value.ObservableValue;

/// Something that can be heard, from one or the other side: what the two buttons of the bar do and say.
public interface Hearable {
    /// What comes to the ear at this moment.
    record Heard(double seconds, double leftDb, double rightDb) {
        public static final Heard NOTHING = new Heard(0, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY);
    }

    void toggle();

    /// The one sound of it that plays.
    Playback playback();

    default void stop() { playback().stop(); }

    /// From one side to the next: source, result…
    void otherSide();

    default ObservableValue<Boolean> playing() { return playback().playingProperty(); }

    /// Which side is heard, in a word.
    ObservableValue<String> side();

    /// Where it is on its way from start to end, 0 to 1; below 0 where nothing plays.
    double share();

    /// Goes on at another place, where it can.
    /// @param share 0 to 1
    default void playAt(double share) {}

    /// How loud it is heard.
    /// @param db 0 or below
    default void setVolumeDb(double db) { playback().setVolumeDb(db); }

    /// Where in the sound, and how loud; asked many times a second while something plays.
    Heard heard();
}
