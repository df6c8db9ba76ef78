package ablecrate.option;

import ablecrate.audio.FrameRange;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/// What the user wants otherwise for one line than for all.
/// @param part of the source to use, instead of what trimming finds
/// @param loop its loops, and what is done at their seams
/// @param own of levels, ends and loops, instead of what holds for all; single fades above go before it
/// @param group sounds of one group get one gain where sounds are levelled together
/// @param names what is said about the names of a folder
/// @param map instruments as the user made them, instead of those of the file; zones refer to the file's samples, and behind them to `added`
/// @param added sounds of the job that the map uses beside the file's
public record ItemEdit(Optional<FrameRange> part, Optional<Double> fadeInMs, Optional<Double> fadeOutMs, LoopEdit loop,
        OwnTreatment own, Optional<MonoLaw> monoLaw, Optional<String> group, Optional<NameReading> names, Optional<List<Instrument>> map,
        List<Path> added) {
    public static final ItemEdit NONE = new ItemEdit(Optional.empty(), Optional.empty(), Optional.empty(), LoopEdit.NONE, OwnTreatment.NONE, Optional.empty(),
            Optional.empty(), Optional.empty(), Optional.empty(), List.of());

    public ItemEdit {
        added = List.copyOf(added);
        fadeInMs.ifPresent(Fade.NONE_IN::withMs);
        fadeOutMs.ifPresent(Fade.NONE_OUT::withMs);
    }

    public ItemEdit withPart(Optional<FrameRange> p) {
        return new ItemEdit(p, fadeInMs, fadeOutMs, loop, own, monoLaw, group, names, map, added);
    }

    public ItemEdit withFadeIn(Optional<Double> ms) { return new ItemEdit(part, ms, fadeOutMs, loop, own, monoLaw, group, names, map, added); }

    public ItemEdit withFadeOut(Optional<Double> ms) { return new ItemEdit(part, fadeInMs, ms, loop, own, monoLaw, group, names, map, added); }

    public ItemEdit withLoopCrossfade(Optional<Double> ms) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop.withCrossfade(ms), own, monoLaw, group, names, map, added);
    }

    public ItemEdit withLoopRise(Optional<Double> db) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop.withRise(db), own, monoLaw, group, names, map, added);
    }

    public ItemEdit withLoops(Optional<List<Loop>> l) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop.withLoops(l), own, monoLaw, group, names, map, added);
    }

    public ItemEdit withOwn(OwnTreatment o) { return new ItemEdit(part, fadeInMs, fadeOutMs, loop, o, monoLaw, group, names, map, added); }

    /// With what differs from how the line is treated.
    /// @param all what holds for all
    public ItemEdit treated(Treatment all, UnaryOperator<Treatment> change) { return withOwn(own.changed(all, change.apply(own.over(all)))); }

    /// What holds for the line.
    /// @param all what holds for all
    public Treatment treatment(Treatment all) { return own.over(all); }

    public ItemEdit withMonoLaw(Optional<MonoLaw> law) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, own, law, group, names, map, added);
    }

    public ItemEdit withGroup(Optional<String> g) { return new ItemEdit(part, fadeInMs, fadeOutMs, loop, own, monoLaw, g, names, map, added); }

    /// A map made of another reading is no more.
    public ItemEdit withNames(Optional<NameReading> n) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, own, monoLaw, group, n, Optional.empty(), List.of());
    }

    public ItemEdit withMap(Optional<List<Instrument>> m) {
        return new ItemEdit(part, fadeInMs, fadeOutMs, loop, own, monoLaw, group, names, m, m.isEmpty() ? List.of() : added);
    }

    public ItemEdit withAdded(List<Path> a) { return new ItemEdit(part, fadeInMs, fadeOutMs, loop, own, monoLaw, group, names, map, a); }
}
