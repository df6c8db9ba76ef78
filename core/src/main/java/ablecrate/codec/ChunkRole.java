package ablecrate.codec;

import java.util.Set;

/// What becomes of a chunk when its file is written anew.
public enum ChunkRole {
    /// Nothing is lost without it: padding, headers, what is derived from the audio and would be stale.
    FILLER,
    /// Read into the sound's metadata and written from them.
    FACT,
    /// Says nothing about frames, and goes along into a file of the same format.
    TRAVELLER,
    /// Goes along only where the audio is not changed.
    UNKNOWN;

    public static ChunkRole of(String id, Set<String> filler, Set<String> metadata, Set<String> travellers) {
        return filler.contains(id) ? FILLER : metadata.contains(id) ? FACT : travellers.contains(id) ? TRAVELLER : UNKNOWN;
    }
}
