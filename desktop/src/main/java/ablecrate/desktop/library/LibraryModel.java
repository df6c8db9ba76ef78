package ablecrate.desktop.library;

import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import java.util.LinkedHashMap;
import java.nio.file.Files;
import ablecrate.option.SessionOptions;
import ablecrate.library.Stated;
import ablecrate.dsp.StereoWidth;
import ablecrate.dsp.RateConverters;
import ablecrate.change.Told;
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
    /// As much of a sound tells how wide it is.
    private static final long WIDTH_SECONDS = 60;
    /// Ratios of speed are told in so many steps: 0.02 cents.
    private static final long SPEED_STEPS = 100_000;
    private static final double MATCHED_LUFS = -20, MOST_RAISE_DB = 12;

    private final CrateModel crate;
    private final Background background;
    private final Playback playback;
    private final ReadOnlyObjectWrapper<Optional<Path>> folder = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<Gathered> sounds = FXCollections.observableArrayList();
    private final FilteredList<Gathered> shown = new FilteredList<>(sounds);
    private final ReadOnlyIntegerWrapper toRead = new ReadOnlyIntegerWrapper();
    private final BooleanProperty playsOnChoice = new SimpleBooleanProperty(true), matched = new SimpleBooleanProperty();

    /// Asked by the player's thread as well.
    private final Map<SoundFile.Id, Double> gains = new ConcurrentHashMap<>();
    private final BooleanProperty inTime = new SimpleBooleanProperty();
    private final DoubleProperty bpm = new SimpleDoubleProperty(SessionOptions.DEFAULT.bpm());
    private final RateConverters converters = new RateConverters();
    private final ReadOnlyObjectWrapper<Optional<StereoWidth>> width = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final Map<Path, FolderWatch> watches = new LinkedHashMap<>();
    private final ReadOnlyObjectWrapper<Set<Path>> watched = new ReadOnlyObjectWrapper<>(Set.of());
    private final ObservableList<Gathered> landed = FXCollections.observableArrayList();
    /// Of the session that was packed into last; 0 before there was one.
    private double sessionBpm;
    private Optional<Gathered> chosen = Optional.empty();
    private final ReadOnlyDoubleWrapper speed = new ReadOnlyDoubleWrapper(1);
    private Optional<SoundFile> current = Optional.empty();
    private long startFrame;
    private int search;

    public LibraryModel(CrateModel crate, Background background, Executor fx) {
        this.crate = crate;
        this.background = background;
        playback = new Playback(fx, () -> crate.tell("no sound device: running silent"));
        matched.subscribe(this::goOn);
        crate.onList(() -> crate.listProperty().get().session().map(s -> s.document().tempo().getFirst().bpm()).filter(t -> t != sessionBpm).ifPresent(t -> {
            sessionBpm = t;
            bpm.set(t);
        }));
        inTime.subscribe(this::goOn);
        bpm.subscribe(this::goOn);
    }

    /// The other side goes on where this one was.
    private void goOn() {
        if (playback.isPlaying()) playFrom(heardFrame());
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

    /// Whether clips whose tempo is known are heard at [#bpmProperty], half of it or twice, by playing them faster or slower.
    public BooleanProperty inTimeProperty() { return inTime; }

    /// The session's tempo, until another is said.
    public DoubleProperty bpmProperty() { return bpm; }

    /// How much faster the sound that plays is heard than it is.
    public ReadOnlyDoubleProperty speedProperty() { return speed.getReadOnlyProperty(); }

    /// How wide the sound is that is looked at; empty where it is not stereo, or not measured yet.
    public ReadOnlyObjectProperty<Optional<StereoWidth>> widthProperty() { return width.getReadOnlyProperty(); }

    /// Folders in which it is seen what lands there.
    public ReadOnlyObjectProperty<Set<Path>> watchedProperty() { return watched.getReadOnlyProperty(); }

    /// Sounds that have landed in watched folders, the latest last.
    public ObservableList<Gathered> landed() { return landed; }

    /// Watches a folder with all below it, or does no longer.
    public void watch(Path at, boolean isOn) {
        if (isOn == watches.containsKey(at)) return;
        background.run(() -> {
            if (isOn) return Optional.of(new FolderWatch(at, files -> background.onFx(() -> landed(at, files))));
            return Optional.<FolderWatch>empty();
        }, watch -> {
            FolderWatch before = watch.isPresent() ? watches.put(at, watch.get()) : watches.remove(at);
            if (before != null) close(before);
            watched.set(Set.copyOf(watches.keySet()));
        }, e -> failed(at, e));
    }

    private void close(FolderWatch watch) {
        try {
            watch.close();
        } catch (IOException e) {
            crate.fail(DiskFault.text(e));
        }
    }

    private void landed(Path at, List<Path> files) {
        background.run(() -> Gatherer.readAll(Gatherer.find(files.stream().filter(Files::isRegularFile).toList(), () -> false), crate.catalogue()), read -> {
            List<Gathered> there = read.stream().filter(g -> g.sound().filter(f -> f.frames() > 0).isPresent())
                    .filter(g -> landed.stream().noneMatch(l -> l.path().equals(g.path()))).toList();
            if (there.isEmpty()) return;
            landed.addAll(there);
            if (folder.get().filter(f -> there.getFirst().path().startsWith(f)).isPresent())
                sounds.addAll(there.stream().filter(g -> sounds.stream().noneMatch(s -> s.path().equals(g.path()))).toList());
            crate.tell((there.size() == 1 ? there.getFirst().fileName() + " has" : Told.count(there.size(), "sound") + " have") + " landed in "
                    + at.getFileName() + ": bench Library, New");
        }, e -> failed(at, e));
    }

    /// Shows what has landed in watched folders.
    public void showLanded() {
        ++search;
        stop();
        current = Optional.empty();
        folder.set(Optional.empty());
        toRead.set(0);
        sounds.setAll(landed);
    }

    /// Whether the job has a file.
    public ObservableValue<Boolean> taken(Path file) { return crate.listProperty().map(_ -> isTaken(file)); }

    private boolean isTaken(Path file) { return crate.overview().line(file).isPresent(); }

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
        chosen = sound;
        measureWidth();
        if (next.isPresent() && playsOnChoice.get()) playFrom(0);
    }

    private void measureWidth() {
        width.set(Optional.empty());
        Optional<SoundFile> file = current.filter(f -> f.channels() == 2);
        file.ifPresent(f -> background.run(() -> {
            try (FrameSource source = f.open()) {
                return StereoWidth.of(source, WIDTH_SECONDS * f.rateHz());
            }
        }, found -> {
            if (current.filter(c -> c.id().equals(f.id())).isPresent()) width.set(found);
        }, _ -> {
            // Whether it opens is told where it is heard.
        }));
    }

    /// Into the job, or out of it again where all of them are in it.
    public void take(List<Gathered> chosen) {
        Set<Path> paths = new HashSet<>();
        chosen.forEach(g -> paths.add(g.path()));
        if (paths.isEmpty()) return;
        if (paths.stream().allMatch(this::isTaken))
            crate.remove(paths);
        else
            crate.gather(chosen.stream().map(Gathered::path).filter(p -> !isTaken(p)).toList());
    }

    private void playFrom(long frame) {
        stop();
        SoundFile file = current.orElseThrow();
        startFrame = Math.clamp(frame, 0, file.frames());
        boolean isMatched = matched.get();
        double faster = inTime.get() ? chosen.flatMap(Stated::tempo).map(t -> Stated.nearest(t, bpm.get()) / t).orElse(1.0) : 1;
        speed.set(faster);
        playback.play(() -> opened(file, startFrame, isMatched, faster),
                fault -> crate.fail("cannot play " + file.path().getFileName() + ": " + fault.getMessage()));
    }

    private FrameSource opened(SoundFile file, long from, boolean isMatched, double faster) throws IOException {
        double gainDb = isMatched ? gainDb(file) : 0;
        SeekableSource source = file.open();
        source.seek(from);
        FrameSource heard = faster == 1 ? source : converters.convert(source, Math.round(SPEED_STEPS / faster), SPEED_STEPS, file.rateHz());
        return gainDb == 0 ? heard : new Gain(heard, gainDb);
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

    private long heardFrame() { return playback.isPlaying() ? startFrame + (long) (speed.get() * playback.heardFrames()) : 0; }

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
