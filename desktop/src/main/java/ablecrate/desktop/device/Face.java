package ablecrate.desktop.device;

import ablecrate.standins.Preset;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;

/// What is under the fingers: pads, keys or tracks.
interface Face {
    Node node();

    void show(Preset preset);

    /// @param keys that sound
    void light(Set<Integer> keys);

    /// Puts the keyboard on it.
    default void focus() { node().requestFocus(); }

    /// Whether it plays this letter or digit while it has the focus.
    /// @param areLetters whether the user wants notes of letters
    boolean plays(KeyCode code, boolean areLetters);

    /// What the mouse and the letters do, in a few words.
    String hint();
}
