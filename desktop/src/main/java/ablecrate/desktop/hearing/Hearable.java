package ablecrate.desktop.hearing;

import javafx.beans.value.ObservableValue;

/// Something that can be heard, from one or the other side: what the two buttons of the bar do and say.
public interface Hearable {
    /// What comes to the ear at this moment.
    record Heard(double seconds, double leftDb, double rightDb) {
        public static final Heard NOTHING = new Heard(0, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY);
    }

    void toggle();

    void stop();

    /// From one side to the next: source, result…
    void otherSide();

    ObservableValue<Boolean> playing();

    /// Which side is heard, in a word.
    ObservableValue<String> side();

    /// Where in the sound, and how loud; asked many times a second while something plays.
    Heard heard();
}
