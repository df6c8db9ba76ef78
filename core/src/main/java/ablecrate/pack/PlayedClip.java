package ablecrate.pack;

import ablecrate.audio.FrameSource;
import ablecrate.codec.AudioPlace;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.sidecar.RhythmFile;
import ablecrate.signal.LaidSounds;
import ablecrate.signal.LaidSounds.Laid;
import ablecrate.signal.RenderedPiece;
import ablecrate.signal.SoundPath;
import java.util.ArrayList;
import java.util.List;

/// A clip as its pieces play it, for listening: by a MIDI file of theirs, or laid back where they were cut.
/// @param side which of them, in a word or two
/// @param clipSeconds where the clip's start is
public record PlayedClip(String side, double clipSeconds, int rateHz, List<Laid> sounds) {
    /// As the MIDI files of a line play it; where it has none, as its pieces lie. Empty for what is no clip in pieces.
    public static List<PlayedClip> of(PackingItem line, SoundPath path) {
        if (line.source().pieces().isEmpty() || line.outputs().isEmpty()) return List.of();
        int rateHz = line.outputs().getFirst().shape().rateHz();
        List<PlayedClip> all = new ArrayList<>();
        for (PlannedSidecar planned : line.sidecars())
            if (planned.sidecar() instanceof RhythmFile midi)
                all.add(new PlayedClip(midi.isQuantised() ? "On the grid" : "By MIDI", midi.clipSeconds(), rateHz,
                        midi.notes().stream().map(n -> laid(line.outputs().get(n.sound()), midi.writtenSeconds(n), path)).toList()));
        return all.isEmpty() ? List.of(new PlayedClip("Result", 0, rateHz, asTheyLie(line, path))) : all;
    }

    private static List<Laid> asTheyLie(PackingItem line, SoundPath path) {
        List<Laid> laid = new ArrayList<>();
        // The whole clip on a key of its own is none of its slices: it has no fades, of which each of them has one at least.
        boolean areSlices = line.outputs().stream().anyMatch(o -> o.source().audio() instanceof AudioPlace.Slice s && isFaded(s));
        for (PlannedOutput output : line.outputs())
            if (output.source().audio() instanceof AudioPlace.Slice slice && (!areSlices || isFaded(slice)))
                laid.add(laid(output, (double) (slice.frames().start() + output.sourceChain().part().start()) / output.source().rateHz(), path));
        return laid;
    }

    private static boolean isFaded(AudioPlace.Slice slice) { return slice.fadeInFrames() > 0 || slice.fadeOutFrames() > 0; }

    private static Laid laid(PlannedOutput output, double seconds, SoundPath path) {
        return new Laid(Math.round(seconds * output.shape().rateHz()), output.shape().frames(), output.shape().channels(),
                new RenderedPiece(path, output.source(), output.sourceChain(), output.outputChain()));
    }

    /// @param seconds of the clip
    public FrameSource from(double seconds) { return new LaidSounds(sounds, rateHz, Math.round((seconds + clipSeconds) * rateHz)); }
}
