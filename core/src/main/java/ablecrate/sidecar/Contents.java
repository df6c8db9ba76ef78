package ablecrate.sidecar;

import java.util.List;

/// What a long sound is made of.
/// @param rateHz of the long sound, in whose frames places are told
public record Contents(String title, int rateHz, List<Entry> entries) {
    /// @param source path below the folder that was gathered
    public record Entry(String name, long startFrame, long frames, String source) {}

    public Contents {
        entries = List.copyOf(entries);
    }

    double seconds(long frames) { return (double) frames / rateHz; }
}
