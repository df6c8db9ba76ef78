package ablecrate.planner.sound;

import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.library.Stems;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;

/// Stems that begin at different times, as their time stamps say, brought to one start: silence comes in front of those that are later, so that they lie as they
/// did in the session that they are of.
public final class StampedStems {
    private StampedStems() {}

    /// @param pads which sounds are to be as long as the others of their folder
    /// @return all sounds, those of such folders with silence in front
    public static List<Gathered> aligned(List<Gathered> sounds, Predicate<Path> pads) {
        Map<Path, Gathered> later = new HashMap<>();
        for (List<Gathered> stems : Stems.atDifferentTimes(sounds, pads)) {
            double first = stems.stream().map(g -> g.sound().orElseThrow()).mapToDouble(StampedStems::seconds).min().orElseThrow();
            for (Gathered stem : stems) {
                SoundFile file = stem.sound().orElseThrow();
                long silence = Math.round((seconds(file) - first) * file.rateHz());
                if (silence > 0) later.put(stem.path(), new Gathered(stem.path(), stem.relative(), new Gathered.Content.Sound(delayed(file, silence))));
            }
        }
        return later.isEmpty() ? sounds : sounds.stream().map(g -> later.getOrDefault(g.path(), g)).toList();
    }

    private static double seconds(SoundFile file) { return (double) file.metadata().broadcast().orElseThrow().timeReferenceFrames() / file.rateHz(); }

    private static SoundFile delayed(SoundFile file, long silence) {
        SoundMetadata metadata = file.metadata().withCues(file.metadata().cues().stream().map(c -> c.at(c.frame() + silence, c.lengthFrames())).toList())
                .withBroadcast(file.metadata().broadcast().map(b -> b.withTimeReference(Math.max(0, b.timeReferenceFrames() - silence))));
        return new SoundFile(file.path(), file.fileBytes(), file.formatId(), file.container(), file.codec(), file.encoding(), file.rateHz(), file.channels(),
                silence + file.frames(), new AudioPlace.Delayed(file, silence), metadata, file.chunks(), file.problems());
    }
}
