package ablecrate.plan;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.Instrument;
import java.util.List;
import java.util.Optional;

/// What the user wants otherwise for one sound than for all.
/// @param part of the source to use, instead of what trimming finds
/// @param map instruments as the user made them, instead of those of the file; zones refer to the file's samples
/// @param group sounds of one group get one gain where sounds are levelled together
public record ItemEdit(Optional<FrameRange> part, Optional<Double> fadeInMs, Optional<Double> fadeOutMs, Optional<Double> loopCrossfadeMs,
        Optional<MonoLaw> monoLaw, Optional<String> group, Optional<List<Instrument>> map) {
    public static final ItemEdit NONE = new ItemEdit(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(),
            Optional.empty(), Optional.empty());

    public ItemEdit withPart(Optional<FrameRange> p) { return new ItemEdit(p, fadeInMs, fadeOutMs, loopCrossfadeMs, monoLaw, group, map); }

    public ItemEdit withFadeIn(Optional<Double> ms) { return new ItemEdit(part, ms, fadeOutMs, loopCrossfadeMs, monoLaw, group, map); }

    public ItemEdit withFadeOut(Optional<Double> ms) { return new ItemEdit(part, fadeInMs, ms, loopCrossfadeMs, monoLaw, group, map); }

    public ItemEdit withLoopCrossfade(Optional<Double> ms) { return new ItemEdit(part, fadeInMs, fadeOutMs, ms, monoLaw, group, map); }

    public ItemEdit withMonoLaw(Optional<MonoLaw> law) { return new ItemEdit(part, fadeInMs, fadeOutMs, loopCrossfadeMs, law, group, map); }

    public ItemEdit withGroup(Optional<String> g) { return new ItemEdit(part, fadeInMs, fadeOutMs, loopCrossfadeMs, monoLaw, g, map); }

    public ItemEdit withMap(Optional<List<Instrument>> m) { return new ItemEdit(part, fadeInMs, fadeOutMs, loopCrossfadeMs, monoLaw, group, m); }
}
