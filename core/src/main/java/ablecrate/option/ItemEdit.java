package ablecrate.option;

import ablecrate.audio.FrameRange;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// What the user wants otherwise for one line than for all.
/// @param part of the source to use, instead of what trimming finds
/// @param loop its loops, and what is done at their seams
/// @param treatment of levels, ends and loops, instead of the job's; single fades above go before it
/// @param group sounds of one group get one gain where sounds are levelled together
/// @param names what is said about the names of a folder
/// @param map instruments as the user made them, instead of those of the file; zones refer to the file's samples, and behind them to `added`
/// @param added sounds of the job that the map uses beside the file's
public record ItemEdit(Optional<FrameRange> part, Optional<Double> fadeInMs, Optional<Double> fadeOutMs, LoopEdit loop,
        Optional<Treatment> treatment, Optional<MonoLaw> monoLaw, Optional<String> group, Optional<NameReading> names, Optional<List<Instrument>> map,
        List<Path> added) {
    public static final ItemEdit NONE = new ItemEdit(Optional.empty(), Optional.empty(), Optional.empty(), LoopEdit.NONE, Optional.empty(), Optional.empty(),
            Optional.empty(), Optional.empty(), Optional.empty(), List.of());

    public ItemEdit {
        added = List.copyOf(added);
        fadeInMs.ifPresent(Fade.NONE_IN::withMs);
        fadeOutMs.ifPresent(Fade.NONE_OUT::withMs);
    }

    public ItemEdit withPart(Optional<FrameRange> p) {
        return new ItemEdit(p, fadeInMs, fadeOutMs, loop, treatment, monoLaw, group, names, map, added);
    }

    public ItemEdit withFadeIn(Optional<Double> ms) { return new ItemEdit(part, ms, fadeOutMs, loop, treatment, monoLaw, group, names, map, added); }

    public ItemEdit withFadeOut(Optional<Double> ms) { return new ItemEdit(part, fadeInMs, ms, loop, treatment, monoLaw, group, names, map, added); }

    public ItemEdit withLoopCrossfade(Optional<Double> ms) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop.withCrossfade(ms), treatment, monoLaw, group, names, map, added);
    }

    public ItemEdit withLoopRise(Optional<Double> db) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop.withRise(db), treatment, monoLaw, group, names, map, added);
    }

    public ItemEdit withLoops(Optional<List<Loop>> l) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop.withLoops(l), treatment, monoLaw, group, names, map, added);
    }

    public ItemEdit withTreatment(Optional<Treatment> t) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, t, monoLaw, group, names, map, added);
    }

    public ItemEdit withMonoLaw(Optional<MonoLaw> law) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, treatment, law, group, names, map, added);
    }

    public ItemEdit withGroup(Optional<String> g) { return new ItemEdit(part, fadeInMs, fadeOutMs, loop, treatment, monoLaw, g, names, map, added); }

    /// A map made of another reading is no more.
    public ItemEdit withNames(Optional<NameReading> n) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, treatment, monoLaw, group, n, Optional.empty(), List.of());
    }

    public ItemEdit withMap(Optional<List<Instrument>> m) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, treatment, monoLaw, group, names, m, m.isEmpty() ? List.of() : added);
    }

    public ItemEdit withAdded(List<Path> a) { return new ItemEdit(part, fadeInMs, fadeOutMs, loop, treatment, monoLaw, group, names, map, a); }
}
