package ablecrate.desktop.compare;

import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.hearing.Playback;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.disk.DiskFault;
import ablecrate.dsp.Levels;
import ablecrate.pack.Preview;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.AbComparison;
import ablecrate.signal.Measurement;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.Executor;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.value.ObservableValue;

/// The current sound and what packing makes of it. The result is really written, into a folder that goes again: what is heard and measured is what
/// packing gives. Where the sound was packed, the packed file can be looked at instead. FX thread only.
public final class CompareModel implements Hearable {

    /// What is heard.
    public enum Heard {
        SOURCE("Source"), RESULT("Result"), DIFFERENCE("Difference");

        private final String label;

        Heard(String label) { this.label = label; }

        public String label() { return label; }
    }

    /// One fact of both.
    public record Row(String name, String source, String result) {}

    /// @param isPacked whether the result is the packed file, not a preview
    public record Compared(PackingItem item, PlannedOutput output, SoundFile result, boolean isPacked, AbComparison.Found found, Optional<Levels> sourceLevels,
            Optional<Levels> resultLevels) {}

    /// The difference is made as loud as this, so that it can be heard.
    private static final double HEARD_RMS_DBFS = -30, MOST_LIFT_DB = 90;

    private final CrateModel crate;
    private final PackingListModel list;
    private final Background background;
    private final Playback playback;
    private final BooleanProperty shown = new SimpleBooleanProperty(), packed = new SimpleBooleanProperty(), matched = new SimpleBooleanProperty(true);
    private final ObjectProperty<Heard> heard = new SimpleObjectProperty<>(Heard.SOURCE);
    private final ReadOnlyObjectWrapper<Optional<Compared>> compared = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<String> state = new ReadOnlyObjectWrapper<>("");
    private final PackRunModel run;
    private volatile Heard heardNow = Heard.SOURCE;
    private Optional<PlannedOutput> wanted = Optional.empty();
    private boolean wantedPacked;
    private StopSignal stop = new StopSignal();
    private Optional<Path> folder = Optional.empty();

    public CompareModel(CrateModel crate, PackingListModel list, PackRunModel run, Background background, Executor fx) {
        this.crate = crate;
        this.list = list;
        this.run = run;
        this.background = background;
        playback = new Playback(fx, () -> crate.tell("no sound device: running silent"));
        heard.subscribe(h -> heardNow = h);
        list.currentProperty().subscribe(_ -> renew());
        crate.onList(this::renew);
        shown.subscribe(this::renew);
        packed.subscribe(this::renew);
        run.slipProperty().subscribe(_ -> renew());
        run.doneProperty().subscribe(_ -> renew());
        matched.subscribe(() -> {
            if (playback.isPlaying()) play();
        });
    }

    /// Nothing is made while nobody looks.
    public BooleanProperty shownProperty() { return shown; }

    /// Whether the packed file is looked at, where there is one.
    public BooleanProperty packedProperty() { return packed; }

    public BooleanProperty matchedProperty() { return matched; }

    public ObjectProperty<Heard> heardProperty() { return heard; }

    public ReadOnlyObjectProperty<Optional<Compared>> comparedProperty() { return compared.getReadOnlyProperty(); }

    /// What is going on instead of a comparison, in words.
    public ReadOnlyObjectProperty<String> stateProperty() { return state.getReadOnlyProperty(); }

    public ReadOnlyBooleanProperty playingProperty() { return playback.playingProperty(); }

    /// The packed file of the current sound, if this run or the last one wrote one.
    public Optional<Path> packedFile() { return list.currentProperty().get().flatMap(i -> run.written(i.source().path())); }

    private void renew() {
        if (!shown.get()) {
            forget();
            return;
        }
        Optional<PackingItem> item = list.currentProperty().get();
        Optional<PlannedOutput> output = item.filter(i -> i.source().sound().isPresent()).map(PackingItem::outputs).filter(o -> !o.isEmpty())
                .map(List::getFirst);
        boolean fromDisk = packed.get() && packedFile().isPresent();
        if (output.equals(wanted) && fromDisk == wantedPacked && output.isPresent()) return;
        forget();
        if (output.isEmpty()) {
            state.set(item.isEmpty()
                    ? ""
                    : item.get().isInstruments()
                            ? "Choose one of the sounds, not an instrument of them."
                            : "Nothing comes of this line, so there is nothing to compare.");
            return;
        }
        if (!item.orElseThrow().isSettled()) {
            state.set("Listening first …");
            return;
        }
        wanted = output;
        wantedPacked = fromDisk;
        state.set(fromDisk ? "Reading the packed file …" : "Making a preview …");
        StopSignal mine = new StopSignal();
        stop = mine;
        PackingItem current = item.orElseThrow();
        Optional<Path> onDisk = fromDisk ? packedFile() : Optional.empty();
        background.run(() -> compare(current, output.get(), onDisk, mine), done -> {
            if (mine != stop || mine.isStopped()) {
                done.folder().ifPresent(CompareModel::delete);
                return;
            }
            folder = done.folder();
            state.set("");
            compared.set(done.compared());
        }, e -> {
            if (mine == stop) state.set(e instanceof IOException io ? DiskFault.text(io) : "a fault in Able Crate itself: " + e);
        });
    }

    private record Done(Optional<Compared> compared, Optional<Path> folder) {}

    private Done compare(PackingItem item, PlannedOutput output, Optional<Path> onDisk, StopSignal mine) throws IOException {
        Optional<Path> made = onDisk.isPresent() ? Optional.empty() : Optional.of(Files.createTempDirectory("ablecrate-preview"));
        try {
            Optional<SoundFile> result = onDisk.isPresent()
                    ? Optional.of(read(onDisk.get(), output))
                    : Preview.write(output, crate.path(), made.orElseThrow(), mine);
            if (result.isEmpty()) return new Done(Optional.empty(), made);
            Optional<AbComparison.Found> found = AbComparison.compare(output.source(), output.sourceChain(), result.get(), mine::isStopped);
            Optional<Levels> before = levels(output.source(), mine), after = levels(result.get(), mine);
            return new Done(found.map(f -> new Compared(item, output, result.get(), onDisk.isPresent(), f, before, after)), made);
        } catch (IOException | RuntimeException e) {
            made.ifPresent(CompareModel::delete);
            throw e;
        }
    }

    private static SoundFile read(Path file, PlannedOutput output) throws IOException {
        try {
            return SoundFormats.byId(output.formatId()).orElseThrow().read(file);
        } catch (FormatException e) {
            throw new IOException(e.getMessage(), e);
        }
    }

    private Optional<Levels> levels(SoundFile file, StopSignal mine) {
        Measurement.Request request = new Measurement.OfFile(file, OptionalDouble.empty());
        crate.book().measure(request, mine::isStopped);
        return crate.book().find(request).filter(Measurement.Survey.class::isInstance).map(m -> ((Measurement.Survey) m).levels());
    }

    private void forget() {
        stop();
        stop.stop();
        wanted = Optional.empty();
        compared.set(Optional.empty());
        state.set("");
        folder.ifPresent(CompareModel::delete);
        folder = Optional.empty();
    }

    private static void delete(Path made) {
        try (var files = Files.list(made)) {
            files.toList().forEach(DiskFault::deleteQuietly);
        } catch (IOException e) {
            // The system clears its own folder.
        }
        DiskFault.deleteQuietly(made);
    }

    /// From one to the next: source, result, difference.
    @Override public void otherSide() { heard.set(Heard.values()[(heard.get().ordinal() + 1) % Heard.values().length]); }

    @Override public void toggle() {
        if (playback.isPlaying())
            stop();
        else
            play();
    }

    @Override public double share() {
        return compared.get().filter(_ -> playback.isPlaying()).map(c -> Math.clamp(playback.heardFrames() / Math.max(1, c.output().source().frames()), 0, 1))
                .orElse(-1.0);
    }

    /// Where in the sound, and how loud; nothing while nothing plays.
    @Override public Hearable.Heard heard() {
        return compared.get().map(c -> c.output().source()).map(f -> playback.heardAt(Math.min(playback.heardFrames(), f.frames()) / f.rateHz()))
                .orElse(Hearable.Heard.NOTHING);
    }

    @Override public Playback playback() { return playback; }

    @Override public ObservableValue<String> side() { return heard.map(Heard::label); }

    private void play() {
        stop();
        Optional<Compared> now = compared.get();
        if (now.isEmpty()) return;
        double match = matched.get() ? now.get().found().gainDb() : 0, lift = liftDb(now.get());
        playback.play(() -> new SwitchedSource(AbComparison.open(now.get().output().source(), now.get().output().sourceChain(), now.get().result()),
                () -> heardNow, match, lift), fault -> crate.fail("cannot play: " + fault.getMessage()));
    }

    /// By how much the difference is raised to be heard: whole steps of 6 dB.
    public static double liftDb(Compared compared) {
        OptionalDouble rms = compared.found().differenceRmsDbfs();
        return rms.isEmpty() ? 0 : Math.clamp(6 * Math.floor((HEARD_RMS_DBFS - rms.getAsDouble()) / 6), 0, MOST_LIFT_DB);
    }

    /// What both are, side by side.
    public static List<Row> rows(Compared c) {
        SoundFile s = c.output().source(), r = c.result();
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("Container", s.container(), r.container()));
        rows.add(new Row("Codec", s.codec(), r.codec()));
        rows.add(new Row("Depth", s.depthLabel(), r.depthLabel()));
        rows.add(new Row("Rate", hertz(s.rateHz()), hertz(r.rateHz())));
        rows.add(new Row("Channels", Integer.toString(s.channels()), Integer.toString(r.channels())));
        rows.add(new Row("Length", seconds(s), seconds(r)));
        rows.add(new Row("Size", size(s.fileBytes()), size(r.fileBytes())));
        rows.add(new Row("Sample peak", level(c.sourceLevels().map(Levels::samplePeakDbfs), "dBFS"),
                level(c.resultLevels().map(Levels::samplePeakDbfs), "dBFS")));
        rows.add(new Row("True peak", level(c.sourceLevels().map(Levels::truePeakDbtp), "dBTP"), level(c.resultLevels().map(Levels::truePeakDbtp), "dBTP")));
        rows.add(new Row("Momentary max", level(c.sourceLevels().map(Levels::loudnessMomentaryMaxLufs), "LUFS"),
                level(c.resultLevels().map(Levels::loudnessMomentaryMaxLufs), "LUFS")));
        rows.add(new Row("Cut-off", cut(c.found().source().cutoffHz()), cut(c.found().result().cutoffHz())));
        return rows;
    }

    private static String hertz(int rate) { return String.format(Locale.ROOT, "%,d Hz", rate); }

    private static String seconds(SoundFile f) { return String.format(Locale.ROOT, "%.3f s", f.durationSeconds()); }

    private static String size(long bytes) {
        return bytes < 1_000_000 ? String.format(Locale.ROOT, "%.0f kB", bytes / 1e3) : String.format(Locale.ROOT, "%.1f MB", bytes / 1e6);
    }

    private static String level(Optional<OptionalDouble> level, String unit) {
        OptionalDouble value = level.orElse(OptionalDouble.empty());
        return value.isPresent() ? String.format(Locale.ROOT, "%.2f %s", value.getAsDouble(), unit) : "–";
    }

    private static String cut(OptionalDouble hz) { return hz.isPresent() ? String.format(Locale.ROOT, "%.1f kHz", hz.getAsDouble() / 1000) : "none"; }

    /// The null test in one sentence.
    public static String nullText(Compared c) {
        AbComparison.Found f = c.found();
        String gain = Math.abs(f.gainDb()) < 0.005 ? "at the same level" : String.format(Locale.ROOT, "after %+.2f dB on the result", f.gainDb());
        if (f.differenceRmsDbfs().isEmpty()) return "Nothing is left of the difference, " + gain + ".";
        String below = f.nullDb().isPresent() ? String.format(Locale.ROOT, ", %.1f dB below the source", -f.nullDb().getAsDouble()) : "";
        return String.format(Locale.ROOT, "The difference is %.1f dBFS%s, its peak %.1f dBFS; %s.", f.differenceRmsDbfs().getAsDouble(), below,
                f.differencePeakDbfs().orElse(Double.NEGATIVE_INFINITY), gain);
    }
}
