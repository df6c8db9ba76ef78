package ablecrate.planner.instrument;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.Cue;
import ablecrate.option.ClipPart;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/// Where the parts of a clip lie that were asked for.
/// @param pieces in the order in which they were asked for
/// @param missing a sentence for each that the clip does not have
record PlacedParts(List<ClipPieces.Piece> pieces, List<String> missing) {
    /// @param bpm,downbeatSeconds of its bars; not looked at where no part is in bars
    static PlacedParts of(List<ClipPart> parts, SoundFile sound, double bpm, double downbeatSeconds) {
        List<ClipPieces.Piece> pieces = new ArrayList<>();
        List<String> missing = new ArrayList<>();
        for (ClipPart part : parts) {
            List<ClipPieces.Piece> found = switch (part.where()) {
                case ClipPart.Where.Between(ClipPart.Place from, ClipPart.Place to) ->
                    between(ClipPart.frame(from, sound.frames(), sound.rateHz(), bpm, downbeatSeconds),
                            ClipPart.frame(to, sound.frames(), sound.rateHz(), bpm, downbeatSeconds), sound.frames())
                            .map(f -> new ClipPieces.Piece(part.name(), f, 0, 0)).stream().toList();
                case ClipPart.Where.OfCue(String name) -> sound.metadata().cues().stream().filter(c -> c.label().filter(name::equalsIgnoreCase).isPresent())
                        .limit(1).flatMap(c -> ofCue(c, sound, part.name())).toList();
                case ClipPart.Where.EachCue() -> eachCue(sound);
            };
            pieces.addAll(found);
            if (found.isEmpty()) missing.add(missing(part, sound));
        }
        return new PlacedParts(pieces, missing);
    }

    /// What reaches beyond the end ends there.
    private static Optional<FrameRange> between(long from, long to, long frames) {
        return from < Math.min(to, frames) ? Optional.of(new FrameRange(from, Math.min(to, frames))) : Optional.empty();
    }

    private static Stream<ClipPieces.Piece> ofCue(Cue cue, SoundFile sound, Optional<String> name) {
        long next = sound.metadata().cues().stream().mapToLong(Cue::frame).filter(f -> f > cue.frame()).min().orElse(sound.frames());
        return between(cue.frame(), cue.lengthFrames() > 0 ? cue.frame() + cue.lengthFrames() : next, sound.frames())
                .map(f -> new ClipPieces.Piece(name, f, 0, 0)).stream();
    }

    /// Points between stretches, as joined sounds have them of their own, are no sounds.
    private static List<ClipPieces.Piece> eachCue(SoundFile sound) {
        List<Cue> cues = sound.metadata().cues().stream().sorted(Comparator.comparingLong(Cue::frame)).toList();
        boolean haveStretches = cues.stream().anyMatch(c -> c.lengthFrames() > 0);
        return cues.stream().filter(c -> !haveStretches || c.lengthFrames() > 0).flatMap(c -> ofCue(c, sound, c.label())).toList();
    }

    private static String missing(ClipPart part, SoundFile sound) {
        return switch (part.where()) {
            case ClipPart.Where.EachCue() -> "there are no cue points to take it apart by";
            case ClipPart.Where.OfCue(String name) -> "no cue point is called '" + name + "'";
            case ClipPart.Where.Between _ ->
                String.format(Locale.ROOT, "nothing lies in part %s of a sound of %.3f s", part.whereText(), sound.durationSeconds());
        };
    }
}
