package ablecrate.planner.instrument;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.Cue;
import ablecrate.option.ClipPart;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// Where the parts of a clip lie that were asked for.
/// @param pieces in the order in which they were asked for
/// @param missing a sentence for each that the clip does not have
record PlacedParts(List<ClipPieces.Piece> pieces, List<String> missing) {
    /// @param bpm of its bars; not looked at where no part is in bars
    static PlacedParts of(List<ClipPart> parts, SoundFile sound, double bpm) {
        List<ClipPieces.Piece> pieces = new ArrayList<>();
        List<String> missing = new ArrayList<>();
        for (ClipPart part : parts) {
            Optional<FrameRange> frames = switch (part.where()) {
                case ClipPart.Where.Between(ClipPart.Place from, ClipPart.Place to) -> between(ClipPart.frame(from, sound.frames(), sound.rateHz(), bpm),
                        ClipPart.frame(to, sound.frames(), sound.rateHz(), bpm), sound.frames());
                case ClipPart.Where.OfCue(String name) -> ofCue(name, sound);
            };
            frames.ifPresentOrElse(f -> pieces.add(new ClipPieces.Piece(part.name(), f, 0, 0)), () -> missing.add(missing(part, sound)));
        }
        return new PlacedParts(pieces, missing);
    }

    /// What reaches beyond the end ends there.
    private static Optional<FrameRange> between(long from, long to, long frames) {
        return from < Math.min(to, frames) ? Optional.of(new FrameRange(from, Math.min(to, frames))) : Optional.empty();
    }

    private static Optional<FrameRange> ofCue(String name, SoundFile sound) {
        List<Cue> cues = sound.metadata().cues();
        return cues.stream().filter(c -> c.label().filter(name::equalsIgnoreCase).isPresent()).findFirst().flatMap(cue -> {
            long next = cues.stream().mapToLong(Cue::frame).filter(f -> f > cue.frame()).min().orElse(sound.frames());
            return between(cue.frame(), cue.lengthFrames() > 0 ? cue.frame() + cue.lengthFrames() : next, sound.frames());
        });
    }

    private static String missing(ClipPart part, SoundFile sound) {
        return switch (part.where()) {
            case ClipPart.Where.OfCue(String name) -> "no cue point is called '" + name + "'";
            case ClipPart.Where.Between _ ->
                String.format(Locale.ROOT, "nothing lies in part %s of a sound of %.3f s", part.whereText(), sound.durationSeconds());
        };
    }
}
