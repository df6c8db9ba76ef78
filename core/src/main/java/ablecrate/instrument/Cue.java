package ablecrate.instrument;

import java.util.Optional;

/// A named point, or stretch, of a sound.
/// @param id the number that the file gives it
/// @param frame the frame before which it stands
/// @param lengthFrames 0 for a point
public record Cue(long id, long frame, long lengthFrames, Optional<String> label, Optional<String> note) {
    public Cue at(long newFrame, long newLengthFrames) { return new Cue(id, newFrame, newLengthFrames, label, note); }
}
