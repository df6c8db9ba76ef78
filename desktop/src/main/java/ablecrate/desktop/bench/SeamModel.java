package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.LoopCrossfade;
import ablecrate.dsp.LoopLevel;
import ablecrate.dsp.Seam;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.plan.PackingItem;
import ablecrate.signal.LoopCarry;
import java.io.IOException;
import java.util.Arrays;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;

/// The seam of the loop that is edited, frame by frame. FX thread only.
final class SeamModel {
    /// Frames to each side that are read.
    static final int AROUND = 2048;

    /// What lies around the seam; all `[channel][frame]`, the last frame of what is before and the first of what is after beside the seam.
    /// @param tail up to the loop's end
    /// @param lead up to the loop's start, as long as the tail
    /// @param blended the tail as it is played after a crossfade; empty where there is none
    /// @param onwards from the loop's end
    /// @param start from the loop's start
    /// @param crossfadeMs that was blended
    record Seams(double[][] tail, double[][] lead, Optional<double[][]> blended, double[][] onwards, double[][] start, double crossfadeMs) {
        Seam.Gap before() { return Seam.gap(around(tail), around(lead)); }

        Optional<Seam.Gap> after() { return blended.map(b -> Seam.gap(around(b), around(lead))); }

        private static double[][] around(double[][] planes) {
            return Arrays.stream(planes).map(p -> Arrays.copyOfRange(p, Math.max(0, p.length - Seam.AROUND), p.length)).toArray(double[][]::new);
        }
    }

    private final LoopEdits loops;
    private final BenchModel bench;
    private final Background background;
    private final ReadOnlyObjectWrapper<Optional<Seams>> seams = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final BooleanProperty open = new SimpleBooleanProperty(true);
    private record Wanted(SoundFile file, Loop loop, int crossfadeFrames, double riseDb) {}
    private Optional<Wanted> shown = Optional.empty();

    SeamModel(LoopEdits loops, BenchModel bench, Background background) {
        this.loops = loops;
        this.bench = bench;
        this.background = background;
        loops.subscribe(this::renew);
        bench.itemProperty().subscribe(_ -> renew());
        open.subscribe(_ -> renew());
    }

    /// Whether it is looked at.
    BooleanProperty openProperty() { return open; }

    ReadOnlyObjectProperty<Optional<Seams>> seamsProperty() { return seams.getReadOnlyProperty(); }

    private Optional<Wanted> wanted() {
        // A loop of a frame or two, or one that starts with the sound, has nothing that leads to its start.
        return !open.get()
                ? Optional.empty()
                : loops.file().flatMap(f -> loops.loop()
                        .filter(l -> l.mode() == LoopMode.FORWARD && l.frames().start() >= 2 && l.frames().length() >= 2 && l.frames().end() <= f.frames())
                        .map(l -> new Wanted(f, l, carried(l).map(LoopCarry::crossfadeFrames).orElse(0), carried(l).map(LoopCarry::riseDb).orElse(0.0))));
    }

    /// As it is planned, where it is of this loop.
    private Optional<LoopCarry> carried(Loop loop) {
        return bench.itemProperty().get().flatMap(PackingItem::output).map(o -> o.sourceChain())
                .flatMap(
                        c -> c.loop().filter(l -> l.from().start() + c.part().start() == loop.frames().start() && l.from().length() == loop.frames().length()));
    }

    private void renew() {
        Optional<Wanted> wanted = wanted();
        if (wanted.equals(shown)) return;
        shown = wanted;
        if (wanted.isEmpty()) {
            seams.set(Optional.empty());
            return;
        }
        background.run(() -> read(wanted.get()), read -> {
            if (shown.equals(wanted)) seams.set(Optional.of(read));
        }, _ -> {});
    }

    private static Seams read(Wanted w) throws IOException {
        FrameRange loop = w.loop().frames();
        try (SeekableSource source = w.file().open()) {
            int before = (int) Math.min(Math.min(loop.start(), loop.length()), Math.max(AROUND, w.crossfadeFrames()));
            double[][] tail = frames(source, loop.end() - before, before), lead = frames(source, loop.start() - before, before),
                    onwards = frames(source, loop.end(), (int) Math.min(AROUND, w.file().frames() - loop.end()));
            level(tail, loop.end() - before, loop, w.riseDb());
            level(onwards, loop.end(), loop, w.riseDb());
            level(lead, loop.start() - before, loop, w.riseDb());
            Optional<double[][]> blended = Optional.empty();
            if (w.crossfadeFrames() > 0 && w.crossfadeFrames() <= before) {
                double[][] end = last(tail, w.crossfadeFrames()), whole = last(tail, before);
                LoopCrossfade.blend(end, last(lead, w.crossfadeFrames()));
                for (int channel = 0; channel < whole.length; channel++)
                    System.arraycopy(end[channel], 0, whole[channel], before - w.crossfadeFrames(), w.crossfadeFrames());
                blended = Optional.of(whole);
            }
            return new Seams(tail, lead, blended, onwards,
                    frames(source, loop.start(), (int) Math.min(AROUND, loop.length())), w.crossfadeFrames() * 1000.0 / w.file().rateHz());
        }
    }

    /// As the sound is raised where it is played.
    private static void level(double[][] planes, long from, FrameRange loop, double riseDb) {
        for (double[] plane : planes)
            for (int i = 0; i < plane.length && riseDb != 0; i++)
                plane[i] *= LoopLevel.factor(loop, riseDb, from + i);
    }

    private static double[][] last(double[][] planes, int frames) {
        return Arrays.stream(planes).map(p -> Arrays.copyOfRange(p, p.length - frames, p.length)).toArray(double[][]::new);
    }

    private static double[][] frames(SeekableSource source, long from, int count) throws IOException {
        double[][] planes = new double[source.channels()][count];
        source.seek(from);
        source.readFully(planes, 0, count);
        return planes;
    }
}
