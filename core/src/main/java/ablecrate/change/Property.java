package ablecrate.change;

import java.util.Locale;

/// What can change about an item; also what a rule of a sheet is about.
public enum Property {
    KIND("Kind"), CONTAINER("Container"), RATE("Sample rate"), DEPTH("Bit depth"), CHANNELS("Channels"), TEMPO("Tempo"), DAMAGE("Damage"), START("Start"),
    TRIM("Trim"), OFFSET(
            "DC offset"),
    LEVEL("Level"), FADES("Fades"), LENGTH("Length"), LOOPS("Loops"), MAPPING("Key mapping"), PLAYING("Playing"), ZONES("Zones"), ABOUT("About"), CUES(
            "Cue points"),
    BROADCAST("Time stamp"), TEXTS("Texts"), CHUNKS("Other chunks"), STRUCTURE("Structure"), SIDECARS("Sidecar files"), NAME("Name"), FOLDER("Folder"),
    SPACE("Space"),
    TIMELINE("Time line");

    private final String label;

    Property(String label) { this.label = label; }

    public String id() { return name().toLowerCase(Locale.ROOT); }

    /// For people.
    public String label() { return label; }
}
