package ablecrate.verify;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SampleSum;
import ablecrate.dsp.Levels;
import java.util.List;
import java.util.Optional;

/// What was handed to a file while it was written.
/// @param samples of what was handed over, on the steps of the file's depth
/// @param levels of the same, where something is said of them
/// @param clippedSamples that lay beyond full scale
/// @param overDb how far the farthest of them; 0 for none
/// @param bad frames of the source that were no numbers, or could not be decoded
/// @param likeness where the file is compressed with loss
public record Rendered(SampleSum.Value samples, Optional<Levels> levels, long clippedSamples, double overDb, List<FrameRange> bad,
        Optional<Likeness.Trace> likeness) {}
