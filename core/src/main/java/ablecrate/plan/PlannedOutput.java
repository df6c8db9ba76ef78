package ablecrate.plan;

import ablecrate.codec.OutputShape;
import ablecrate.dsp.Dither;
import ablecrate.instrument.SoundFacts;

/// One file that packing would write.
/// @param path below the chosen folder, `/` between folders
/// @param facts what the file will say of itself
/// @param dither what is really done where samples are rounded; [Dither#NONE] where none are
/// @param isVerbatim whether the source is copied bit for bit
/// @param audioChanges whether samples differ from the source's
public record PlannedOutput(String path, String formatId, OutputShape shape, SoundFacts facts, ChannelMix mix, Dither dither, boolean isVerbatim,
        boolean audioChanges) {
    PlannedOutput at(String otherPath) { return new PlannedOutput(otherPath, formatId, shape, facts, mix, dither, isVerbatim, audioChanges); }
}
