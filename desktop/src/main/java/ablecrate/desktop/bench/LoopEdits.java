package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.LoopFinder;
import ablecrate.detect.LoopWish;
import ablecrate.dsp.LoopLevel;
import ablecrate.dsp.ZeroCrossings;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.option.ItemEdit;
import ablecrate.option.LoopFinds;
import ablecrate.plan.PackingItem;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.UnaryOperator;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// The loops of the current sound as the user wants them. FX thread only.
public final class LoopEdits {
    private static final int SNAPS_WITHIN = 4096, MOST_FOUND = 12;

    private final CrateModel crate;
    private final PackingListModel list;
    private final Background background;
    private final IntegerProperty chosen = new SimpleIntegerProperty();
    private final BooleanProperty snaps = new SimpleBooleanProperty();
    private final ObservableList<FoundLoop> found = FXCollections.observableArrayList();
    private Optional<SoundFile> searched = Optional.empty();

    public LoopEdits(CrateModel crate, PackingListModel list, Background background) {
        this.crate = crate;
        this.list = list;
        this.background = background;
        list.currentProperty().subscribe((before, now) -> {
            if (!before.map(i -> i.source().path()).equals(now.map(i -> i.source().path()))) chosen.set(0);
            // While a list is made anew there is no line for a moment.
            if (now.isPresent() && !now.flatMap(i -> i.source().clip()).map(SoundFile::path).equals(searched.map(SoundFile::path))) found.clear();
        });
    }

    /// Which of the loops is edited, from 0.
    public IntegerProperty chosenProperty() { return chosen; }

    /// Whether ends go to the nearest zero crossing.
    public BooleanProperty snapsProperty() { return snaps; }

    /// Tells when there is something else to show.
    void subscribe(Runnable changed) {
        list.currentProperty().subscribe(_ -> changed.run());
        crate.jobProperty().subscribe(_ -> changed.run());
        chosen.subscribe(_ -> changed.run());
    }

    /// Whose loops can be edited: a sample of a bank and what is joined of others are no files.
    Optional<SoundFile> file() { return list.currentProperty().get().flatMap(i -> i.source().clip()).filter(f -> f.id().isWholeFile()); }

    /// As edited, else as the file says them; of what is no file, as they are planned.
    public List<Loop> loops() {
        return file().map(f -> crate.job().edits().getOrDefault(f.path(), ItemEdit.NONE).loop().loops().orElse(f.metadata().loops()))
                .or(() -> list.currentProperty().get().flatMap(PackingItem::output).map(o -> o.source().metadata().loops())).orElse(List.of());
    }

    public Optional<Loop> loop() { return chosen.get() < loops().size() ? Optional.of(loops().get(chosen.get())) : Optional.empty(); }

    /// Whether the loops are not those of the file.
    boolean isEdited() { return file().filter(f -> !loops().equals(f.metadata().loops())).isPresent(); }

    private Optional<List<Loop>> wanted(SoundFile file, List<Loop> loops) {
        return loops.equals(file.metadata().loops()) ? Optional.empty() : Optional.of(loops);
    }

    private void change(UnaryOperator<Loop> change, String label) {
        file().ifPresent(f -> loop().ifPresent(l -> {
            List<Loop> all = new ArrayList<>(loops());
            Loop changed = change.apply(l);
            all.set(chosen.get(), changed);
            double longer = (double) changed.frames().length() / l.frames().length();
            crate.dragEdit(Set.of(f.path()), e -> e.withLoops(wanted(f, all)).withLoopRise(rise(e, longer)), label + " of " + f.path().getFileName());
        }));
    }

    /// A longer part of a decay falls farther.
    private static Optional<Double> rise(ItemEdit of, double longer) {
        return of.loop().riseDb().map(db -> Math.min(LoopLevel.MOST_DB, db * longer));
    }

    /// Moves an end to a frame of the source; several calls are one step to undo.
    public void moveStart(double frame) {
        change(l -> l.withFrames(new FrameRange(Math.clamp(Math.round(frame), 0, l.frames().end() - 1), l.frames().end())), "loop start");
    }

    public void moveEnd(double frame) {
        file().ifPresent(f -> change(
                l -> l.withFrames(new FrameRange(l.frames().start(), Math.clamp(Math.round(frame), l.frames().start() + 1, f.frames()))), "loop end"));
    }

    /// To the zero crossing that is nearest, where that is wanted.
    public void settle(boolean isStart) {
        Optional<SoundFile> file = file();
        Optional<Loop> loop = loop();
        if (!snaps.get() || file.isEmpty() || loop.isEmpty()) return;
        long at = isStart ? loop.get().frames().start() : loop.get().frames().end();
        background.run(() -> crossing(file.get(), at), found -> {
            if (found.isPresent() && file().equals(file) && loop().equals(loop))
                if (isStart)
                    moveStart(found.getAsLong());
            else
                    moveEnd(found.getAsLong());
        }, e -> crate.fail("could not be read: " + e.getMessage()));
    }

    private static OptionalLong crossing(SoundFile file, long at) throws IOException {
        long from = Math.max(0, at - SNAPS_WITHIN), to = Math.min(file.frames(), at + SNAPS_WITHIN);
        try (SeekableSource source = file.open()) {
            source.seek(from);
            double[][] planes = new double[file.channels()][(int) (to - from)];
            source.readFully(planes, 0, planes[0].length);
            OptionalInt near = ZeroCrossings.nearest(planes, (int) (at - from));
            return near.isEmpty() ? OptionalLong.empty() : OptionalLong.of(from + near.getAsInt());
        }
    }

    /// Places to loop that were found, the best first.
    public ObservableList<FoundLoop> found() { return found; }

    /// Looks for places to loop; they come as [#found], and the best is taken at once.
    public void find() {
        file().ifPresent(f -> {
            searched = Optional.of(f);
            LoopFinds wanted = crate.job().options().treatment().finds().loops();
            LoopWish wish = LoopWish.usual(f.rateHz()).levelled(wanted.levelled()).in(wanted.way().modes());
            crate.tell("looking for places to loop " + f.path().getFileName() + " …");
            background.run(() -> {
                try (SeekableSource source = f.open()) {
                    return LoopFinder.find(source, wish, MOST_FOUND, () -> false);
                }
            }, all -> {
                if (!searched.equals(Optional.of(f))) return;
                found.setAll(all);
                crate.tell(all.isEmpty() ? "no place to loop was found" : all.size() + " places to loop were found, the best first");
                if (!all.isEmpty() && file().equals(Optional.of(f))) take(all.getFirst());
            }, e -> crate.fail("could not be listened to: " + e.getMessage()));
        });
    }

    /// Takes a place that was found, with the crossfade that it needs, for the loop that is edited, or for a new one.
    public void take(FoundLoop place) {
        file().ifPresent(f -> {
            List<Loop> all = new ArrayList<>(loops());
            if (chosen.get() < all.size())
                all.set(chosen.get(), Loop.sustain(place.frames(), place.mode()));
            else
                all.add(Loop.sustain(place.frames(), place.mode()));
            double ms = Math.rint(place.crossfadeFrames() * 10_000.0 / f.rateHz()) / 10;
            Optional<Double> rise = place.riseDb() == 0 ? Optional.empty() : Optional.of(place.riseDb());
            crate.dragEdit(Set.of(f.path()), e -> e.withLoops(wanted(f, all)).withLoopCrossfade(Optional.of(ms)).withLoopRise(rise),
                    "found loop of " + f.path().getFileName());
        });
    }

    public void nudge(boolean isStart, long frames) {
        loop().ifPresent(l -> {
            if (isStart)
                moveStart(l.frames().start() + frames);
            else
                moveEnd(l.frames().end() + frames);
        });
    }

    public void setMode(LoopMode mode) {
        if (loop().filter(l -> l.mode() != mode).isPresent()) change(l -> l.withMode(mode), "loop mode");
    }

    /// @param times how often it is played; 0 for as long as the key is held
    public void setCount(long times) {
        if (times >= 0 && loop().filter(l -> l.playCount() != times).isPresent()) change(l -> l.withPlayCount(times), "loop count");
    }

    /// From a place up to the end of what is used; from its middle where there is no place.
    /// @param place in frames of the source; below 0 for none
    public void add(double place) {
        file().ifPresent(f -> {
            FrameRange part = list.currentProperty().get().flatMap(PackingItem::output).map(o -> o.sourceChain().part())
                    .orElse(new FrameRange(0, f.frames()));
            long start = place >= part.start() && place < part.end() - 1 ? (long) place : part.start() + part.length() / 2;
            List<Loop> all = new ArrayList<>(loops());
            all.add(Loop.sustain(new FrameRange(start, part.end()), LoopMode.FORWARD));
            crate.edit(Set.of(f.path()), e -> e.withLoops(wanted(f, all)), "loop added to " + f.path().getFileName());
            chosen.set(all.size() - 1);
        });
    }

    public void remove() {
        file().ifPresent(f -> loop().ifPresent(l -> {
            List<Loop> all = new ArrayList<>(loops());
            all.remove(l);
            crate.edit(Set.of(f.path()), e -> e.withLoops(wanted(f, all)).withLoopRise(Optional.empty()), "loop removed from " + f.path().getFileName());
            chosen.set(0);
        }));
    }
}
