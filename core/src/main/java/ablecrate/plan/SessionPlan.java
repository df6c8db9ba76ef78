package ablecrate.plan;

import ablecrate.session.SessionDocument;
import java.util.Map;
import java.util.Optional;

/// What becomes of a session's document.
/// @param document as it is, or one without files where the session is new
/// @param tracks where outputs come onto new tracks, by their paths; all others stay beside the tracks
/// @param clips those that play another file from then on
/// @param files paths of files in whose place an output comes, with the path of that
public record SessionPlan(SessionDocument document, boolean isNew, Map<String, Place> tracks, Map<SessionDocument.Clip, Follow> clips,
        Map<String, String> files) {
    /// @param track its name; outputs of one sound that follow each other with the same name share a track
    /// @param startFrame on the time line
    public record Place(String track, long startFrame, double panPercent) {}

    /// @param path of the output that a clip plays
    /// @param offsetFrames,lengthFrames in it
    public record Follow(String path, long offsetFrames, long lengthFrames) {}

    public SessionPlan {
        tracks = Map.copyOf(tracks);
        clips = Map.copyOf(clips);
        files = Map.copyOf(files);
    }

    /// New sounds come in, and nothing else changes.
    public static SessionPlan adding(SessionDocument document, boolean isNew, Map<String, Place> tracks) {
        return new SessionPlan(document, isNew, tracks, Map.of(), Map.of());
    }

    public Optional<Place> of(String path) { return Optional.ofNullable(tracks.get(path)); }
}
