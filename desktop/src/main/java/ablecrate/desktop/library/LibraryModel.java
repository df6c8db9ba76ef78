package ablecrate.desktop.library;

import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.hearing.Playback;
import ablecrate.disk.DiskFault;
import ablecrate.dsp.Gain;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.plan.PackingItem;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executor;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.value.ObservableValue;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.collections.transformation.FilteredList;

/// A folder of sounds of which nothing is gathered: they are heard one after another, and taken into the job or left. FX thread only.
public final class LibraryModel implements Hearable {
    private static final int FIRST_FILES = 64, MOST_FILES = 2_000;
    /// How much of a sound says how loud it is, so that it starts soon.
    private static final double MEASURED_SECONDS = 3;
    /// Where sounds are heard at one level: low enough that few have to be raised into their peaks.
    private static final double MATCHED_LUFS = -20, MOST_RAISE_DB = 12;

    private final CrateModel crate;
    private final Background background;
    private final Playback playback;
    private final ReadOnlyObjectWrapper<Optional<Path>> folder = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<Gathered> sounds = FXCollections.observableArrayList();
    private final FilteredList<Gathered> shown = new FilteredList<>(sounds);
    private final ReadOnlyIntegerWrapper toRead = new ReadOnlyIntegerWrapper();
    private final BooleanProperty playsOnChoice = new SimpleBooleanProperty(true), matched = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<Set<Path>> taken = new ReadOnlyObjectWrapper<>(Set.of());
    /// Asked by the player's thread as well.
    private final Map<SoundFile.Id, Double> gains = new ConcurrentHashMap<>();
    private Optional<SoundFile> current = Optional.empty();
    private long startFrame;
    private int search;

    public LibraryModel(CrateModel crate, Background background, Executor fx) {
        this.crate = crate;
        this.background = background;
        playback = new Playback(fx, () -> crate.tell("no sound device: running silent"));
        matched.subscribe(_ -> {
            // The other side goes on where this one was.
            if (playback.isPlaying()) playFrom(heardFrame());
        });
        crate.onList(() -> {
            Set<Path> now = new HashSet<>();
            for (PackingItem item : crate.listProperty().get().items())
                now.add(item.source().path());
            taken.set(now);
        });
    }

    public ReadOnlyObjectProperty<Optional<Path>> folderProperty() { return folder.getReadOnlyProperty(); }

    /// Those of the folder that can be heard, as far as they are read and the filter lets them through.
    public ObservableList<Gathered> sounds() { return shown; }

    /// How many of the folder there are, whatever the filter lets through.
    public int count() { return sounds.size(); }

    /// How many files are not looked into yet.
    public ReadOnlyIntegerProperty toReadProperty() { return toRead.getReadOnlyProperty(); }

    /// Whether a sound is heard as soon as it is chosen.
    public BooleanProperty playsOnChoiceProperty() { return playsOnChoice; }

    /// Whether all are heard equally loud.
    public BooleanProperty matchedProperty() { return matched; }

    /// Files that the job has.
    public ReadOnlyObjectProperty<Set<Path>> takenProperty() { return taken.getReadOnlyProperty(); }

    /// @param text that names, or folders, have in them
    public void filter(String text) {
        String wanted = text.strip().toLowerCase(Locale.ROOT);
        shown.setPredicate(g -> wanted.isEmpty() || g.relative().toString().toLowerCase(Locale.ROOT).contains(wanted));
    }

    /// Walks through another folder, with all below it.
    public void open(Path other) {
        int mine = ++search;
        stop();
        current = Optional.empty();
        folder.set(Optional.of(other));
        sounds.clear();
        background.run(() -> Gatherer.find(List.of(other), () -> false), found -> {
            if (mine != search) return;
            toRead.set(found.size());
            read(found, 0, FIRST_FILES, mine);
        }, e -> failed(other, e));
    }

    private void read(List<Gathered> found, int from, int count, int mine) {
        int to = Math.min(found.size(), from + count);
        if (from == to) return;
        background.run(() -> Gatherer.readAll(found.subList(from, to), crate.catalogue()), read -> {
            if (mine != search) return;
            sounds.addAll(read.stream().filter(g -> g.sound().filter(f -> f.frames() > 0).isPresent()).toList());
            toRead.set(found.size() - to);
            read(found, to, Math.min(2 * count, MOST_FILES), mine);
        }, e -> failed(found.get(from).path(), e));
    }

    private void failed(Path where, Exception e) {
        crate.fail(where.getFileName() + ": " + (e instanceof IOException io ? DiskFault.text(io) : "a fault in Able Crate itself: " + e));
    }

    /// The one that is looked at; it is heard at once, unless that is turned off.
    public void choose(Optional<Gathered> sound) {
        Optional<SoundFile> next = sound.flatMap(Gathered::sound);
        if (next.map(SoundFile::id).equals(current.map(SoundFile::id))) return;
        stop();
        current = next;
        if (next.isPresent() && playsOnChoice.get()) playFrom(0);
    }

    /// Into the job, or out of it again where all of them are in it.
    public void take(List<Gathered> chosen) {
        Set<Path> paths = new HashSet<>();
        chosen.forEach(g -> paths.add(g.path()));
        if (paths.isEmpty()) return;
        if (taken.get().containsAll(paths))
            crate.remove(paths);
        else
            crate.gather(chosen.stream().map(Gathered::path).filter(p -> !taken.get().contains(p)).toList());
    }

    private void playFrom(long frame) {
        stop();
        SoundFile file = current.orElseThrow();
        startFrame = Math.clamp(frame, 0, file.frames());
        boolean isMatched = matched.get();
        playback.play(() -> opened(file, startFrame, isMatched), fault -> crate.fail("cannot play " + file.path().getFileName() + ": " + fault.getMessage()));
    }

    private FrameSource opened(SoundFile file, long from, boolean isMatched) throws IOException {
        double gainDb = isMatched ? gainDb(file) : 0;
        SeekableSource source = file.open();
        source.seek(from);
        return gainDb == 0 ? source : new Gain(source, gainDb);
    }

    private double gainDb(SoundFile file) throws IOException {
        Double known = gains.get(file.id());
        if (known != null) return known;
        LevelMeter meter = new LevelMeter(file.rateHz(), file.channels());
        double[][] block = new double[file.channels()][4096];
        try (FrameSource source = file.open()) {
            long left = Math.round(MEASURED_SECONDS * file.rateHz());
            for (int got; left > 0 && (got = source.read(block, 0, (int) Math.min(left, block[0].length))) > 0; left -= got)
                meter.add(block, 0, got);
        }
        Levels levels = meter.finish();
        OptionalDouble loud = levels.loudnessMomentaryMaxLufs();
        // Raised no farther than its peaks allow, nor far, as it may become louder later on; silence stays silent.
        double gain = loud.isEmpty()
                ? 0
                : Math.min(MATCHED_LUFS - loud.getAsDouble(), Math.min(MOST_RAISE_DB, Math.max(0, -levels.samplePeakDbfs().orElse(0))));
        gains.put(file.id(), gain);
        return gain;
    }

    private long heardFrame() { return playback.isPlaying() ? startFrame + (long) playback.heardFrames() : 0; }

    @Override public void toggle() {
        if (playback.isPlaying())
            stop();
        else
            if (current.isPresent())
                playFrom(0);
            else
                crate.tell("there is nothing to hear: choose a sound of the folder");
    }

    @Override public void otherSide() { matched.set(!matched.get()); }

    @Override public Playback playback() { return playback; }

    @Override public ObservableValue<String> side() { return matched.map(m -> m ? "One level" : "As it is"); }

    @Override public double share() {
        return !playback.isPlaying() ? -1 : current.map(f -> Math.clamp((double) heardFrame() / Math.max(1, f.frames()), 0, 1)).orElse(-1.0);
    }

    @Override public void playAt(double share) { current.ifPresent(f -> playFrom((long) (share * f.frames()))); }

    @Override public Heard heard() {
        return current.map(f -> playback.heardAt((double) Math.clamp(heardFrame(), 0, f.frames()) / f.rateHz())).orElse(Heard.NOTHING);
    }
}
