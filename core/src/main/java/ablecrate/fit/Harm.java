package ablecrate.fit;

import java.util.List;

/// What an instrument loses, measured on rendered notes, in dB.
/// @param meanDb over its keys, and over velocities as they are played
/// @param ninetiethDb what nine notes of ten stay below
/// @param levelDb mean difference of levels; `worstLevelDb` is the largest
/// @param notes that were compared, by key and velocity
public record Harm(double meanDb, double ninetiethDb, double worstDb, int worstKey, int worstVelocity, double levelDb, double worstLevelDb,
        List<Note> notes) {
    public static final Harm NONE = new Harm(0, 0, 0, 0, 0, 0, 0, List.of());

    /// @param db of the press that differs most, where a note was pressed several times
    public record Note(int key, int velocity, double db) {}

    public Harm {
        notes = List.copyOf(notes);
    }
}
