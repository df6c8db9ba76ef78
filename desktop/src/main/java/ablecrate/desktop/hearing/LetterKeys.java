package ablecrate.desktop.hearing;

import java.util.List;
import java.util.OptionalInt;
import javafx.scene.input.KeyCode;

/// Keys of a typewriter as two octaves, as many programs have it.
public final class LetterKeys {
    private static final int FIRST_NOTE = 48;
    private static final List<KeyCode> NOTES = List.of(KeyCode.Z, KeyCode.S, KeyCode.X, KeyCode.D, KeyCode.C, KeyCode.V, KeyCode.G, KeyCode.B, KeyCode.H,
            KeyCode.N, KeyCode.J, KeyCode.M, KeyCode.Q, KeyCode.DIGIT2, KeyCode.W, KeyCode.DIGIT3, KeyCode.E, KeyCode.R, KeyCode.DIGIT5, KeyCode.T,
            KeyCode.DIGIT6, KeyCode.Y, KeyCode.DIGIT7, KeyCode.U);

    private LetterKeys() {}

    /// The key of the keyboard that a letter plays; empty for most.
    public static OptionalInt note(KeyCode code) {
        int at = NOTES.indexOf(code);
        return at < 0 ? OptionalInt.empty() : OptionalInt.of(FIRST_NOTE + at);
    }
}
