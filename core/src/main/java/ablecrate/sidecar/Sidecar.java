package ablecrate.sidecar;

import java.util.List;

/// A small file that lies beside sounds and says something of them.
public sealed interface Sidecar permits RhythmFile, ContentsTable, CueSheet {
    /// `midi`, `csv`, `cue`.
    String id();

    /// For people: what kind of file it is.
    String label();

    String extension();

    /// How many notes, or sounds, it tells.
    int entries();

    /// What it tells that many of: `note`, `sound`.
    String noun();

    /// @param sounds names of the files that it is about, as seen from it
    byte[] bytes(List<String> sounds);

    /// Reads it again.
    /// @param written its bytes on the disk
    Found found(byte[] written);

    /// What was found in a written one.
    /// @param isAsPlanned whether that is what it was made of, as near as its own steps allow
    /// @param text how near, in words
    record Found(boolean isAsPlanned, String text) {}
}
