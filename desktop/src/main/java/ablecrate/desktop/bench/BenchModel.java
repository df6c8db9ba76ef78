package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import ablecrate.change.Change;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.PeakPyramid;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.About;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Span;
import ablecrate.plan.PackingItem;
import ablecrate.signal.Measurement;
import ablecrate.signal.Measurements;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;

/// What the bench shows of the current line. FX thread only.
public final class BenchModel {
    private final Background background;
    private final ReadOnlyObjectWrapper<Optional<PackingItem>> item = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<PeakPyramid>> pyramid = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Samples>> samples = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final Measurements book;
    private final AtomicInteger generation = new AtomicInteger();
    private final BooleanProperty midSide = new SimpleBooleanProperty();
    private Optional<SoundFile.Id> loaded = Optional.empty();

    /// Samples of a stretch, for zooms closer than the pyramid.
    /// @param planes `[channel][frame - range.start()]`
    public record Samples(SoundFile.Id id, FrameRange range, double[][] planes) {}

    /// @param book what was listened to
    public BenchModel(Background background, PackingListModel list, Measurements book) {
        this.background = background;
        this.book = book;
        list.currentProperty().subscribe(this::show);
        midSide.subscribe((_, _) -> {
            loaded = Optional.empty();
            show(item.get());
        });
    }

    /// Whether a stereo sound is shown as its middle and its sides.
    public BooleanProperty midSideProperty() { return midSide; }

    private static final double[][] MID_SIDE = {{0.5, 0.5}, {0.5, -0.5}};

    public ReadOnlyObjectProperty<Optional<PackingItem>> itemProperty() { return item.getReadOnlyProperty(); }

    /// Absent while it is made.
    public ReadOnlyObjectProperty<Optional<PeakPyramid>> pyramidProperty() { return pyramid.getReadOnlyProperty(); }

    public ReadOnlyObjectProperty<Optional<Samples>> samplesProperty() { return samples.getReadOnlyProperty(); }

    /// What each lane shows of each channel: left, right and so on, or middle and sides of a stereo sound.
    static double[][] weights(int channels, boolean asMidSide) {
        if (asMidSide && channels == 2) return MID_SIDE;
        double[][] each = new double[channels][channels];
        for (int channel = 0; channel < channels; channel++)
            each[channel][channel] = 1;
        return each;
    }

    private void show(Optional<PackingItem> next) {
        item.set(next);
        Optional<SoundFile.Id> id = next.flatMap(i -> i.source().clip()).map(SoundFile::id);
        if (id.equals(loaded)) return;
        loaded = id;
        pyramid.set(Optional.empty());
        samples.set(Optional.empty());
        int mine = generation.incrementAndGet();
        boolean asMidSide = midSide.get();
        next.flatMap(i -> i.source().clip()).ifPresent(file -> background.run(() -> {
            try (FrameSource source = asMidSide && file.channels() == 2 ? new ChannelMixer(file.open(), weights(2, true)) : file.open()) {
                return PeakPyramid.of(source, () -> generation.get() != mine);
            }
        }, made -> {
            if (generation.get() == mine) pyramid.set(Optional.of(made));
        }, _ -> {}));
    }

    /// Asks for the samples of a stretch; they come as [#samplesProperty].
    public void wantSamples(FrameRange range) {
        int mine = generation.get();
        boolean asMidSide = midSide.get();
        item.get().flatMap(i -> i.source().clip()).ifPresent(file -> background.run(() -> {
            try (SeekableSource source = file.open()) {
                source.seek(range.start());
                double[][] planes = new double[file.channels()][(int) range.length()];
                source.readFully(planes, 0, (int) range.length());
                if (asMidSide && planes.length == 2) toMidSide(planes);
                return new Samples(file.id(), range, planes);
            }
        }, read -> {
            if (generation.get() == mine) samples.set(Optional.of(read));
        }, _ -> {}));
    }

    private static void toMidSide(double[][] planes) {
        for (int i = 0; i < planes[0].length; i++) {
            double left = planes[0][i], right = planes[1][i];
            planes[0][i] = (left + right) / 2;
            planes[1][i] = (left - right) / 2;
        }
    }

    /// What was found damaged in the current sound; empty where nobody looked.
    public List<FaultFinder.Fault> faults() {
        return item.get().flatMap(i -> i.source().clip()).flatMap(f -> book.find(new Measurement.OfFaults(f)))
                .filter(Measurement.Faults.class::isInstance).map(m -> ((Measurement.Faults) m).faults()).orElse(List.of());
    }

    /// One line of what the file says of itself.
    public record Fact(String name, String value) {}

    public List<Fact> facts() {
        List<Fact> facts = new ArrayList<>();
        item.get().ifPresent(i -> {
            facts.add(new Fact("File", i.source().path().toString()));
            i.source().clip().ifPresentOrElse(f -> soundMetadata(f, facts), () -> i.source().instruments().ifPresentOrElse(f -> instrumentMetadata(f, facts),
                    () -> facts.add(new Fact("Kind", i.changes().getFirst().before() + ": " + i.reason()))));
        });
        return facts;
    }

    private static void instrumentMetadata(InstrumentFile f, List<Fact> facts) {
        facts.add(new Fact("Format", String.format(Locale.ROOT, "%s, %,d bytes", f.container(), f.fileBytes())));
        facts.add(new Fact("Holds",
                String.format(Locale.ROOT, "%,d instruments, %,d zones, %,d samples", f.instruments().size(), f.zoneCount(), f.samples().size())));
        for (About.Field field : About.Field.values())
            if (!field.of(f.about()).isEmpty()) facts.add(new Fact(capital(field.label()), field.of(f.about())));
        for (Problem p : f.problems())
            facts.add(new Fact("Note", p.place().isEmpty() ? p.text() : p.place() + ": " + p.text()));
    }

    private static void soundMetadata(SoundFile f, List<Fact> facts) {
        facts.add(new Fact("Format", String.format(Locale.ROOT, "%s, %s, %,d bytes", f.container(), f.codec(), f.fileBytes())));
        facts.add(new Fact("Audio", String.format(Locale.ROOT, "%,d Hz, %s, %s, %,d frames", f.rateHz(), f.depthLabel(),
                f.channels() == 1 ? "mono" : f.channels() == 2 ? "stereo" : f.channels() + " channels", f.frames())));
        for (Loop l : f.metadata().loops())
            facts.add(new Fact("Loop",
                    String.format(Locale.ROOT, "%,d…%,d, %,d frames, %s%s", l.frames().start(), l.frames().end(), l.frames().length(), l.mode().label(),
                            l.use() == Loop.Use.RELEASE ? ", after release" : "")));
        var m = f.metadata().mapping();
        m.rootKey().ifPresent(
                k -> facts.add(new Fact("Root key", k + (m.fineTuneCents() == 0 ? "" : String.format(Locale.ROOT, ", tuned %+.2f cents", m.fineTuneCents())))));
        m.keys().ifPresent(k -> facts.add(new Fact("Keys", span(k) + m.velocities().map(v -> ", velocities " + span(v)).orElse(""))));
        f.metadata().broadcast().ifPresent(b -> facts.add(new Fact("Time stamp",
                String.format(Locale.ROOT, "frame %,d (%s)", b.timeReferenceFrames(), clock(b.timeReferenceFrames() / (double) f.rateHz())))));
        f.metadata().texts().entrySet().stream().sorted(java.util.Map.Entry.comparingByKey())
                .forEach(e -> facts.add(new Fact(capital(e.getKey().label()), e.getValue())));
        facts.add(new Fact("Chunks", String.join(" ", f.chunks().stream().map(c -> c.id().strip()).toList())));
        for (Problem p : f.problems())
            facts.add(new Fact("Note", p.text()));
    }

    private static String span(Span s) { return s.low() + "…" + s.high(); }

    private static String capital(String word) { return word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1); }

    static String clock(double seconds) {
        return String.format(Locale.ROOT, "%02d:%02d:%06.3f", (int) (seconds / 3600), (int) (seconds / 60) % 60, seconds % 60);
    }

    /// The changes of the current line, worst first.
    public List<Change> changes() {
        return item.get().map(i -> i.changes().stream().sorted(java.util.Comparator.comparing(Change::verdict).reversed()).toList()).orElse(List.of());
    }
}
