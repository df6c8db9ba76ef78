package ablecrate.desktop.bench;

import ablecrate.change.Told;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.detect.TempoDetector;
import ablecrate.library.Gathered;
import ablecrate.library.Stated;
import ablecrate.option.Beats;
import ablecrate.option.ItemEdit;
import ablecrate.option.Treatment;
import ablecrate.plan.PackingItem;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// How fast the current clip goes, and what else it may be. FX thread only.
public final class TempoModel {
    /// A tempo that can be taken.
    /// @param why it may be this one, in words
    public record Choice(double bpm, String why) {}

    /// Nearer ones are the same.
    private static final double SAME_BPM = 0.05, SHORTEST_SECONDS = 1;

    private final CrateModel crate;
    private final PackingListModel list;
    private final Background background;
    private final ReadOnlyDoubleWrapper downbeat = new ReadOnlyDoubleWrapper();
    private final ReadOnlyObjectWrapper<Optional<Double>> tempo = new ReadOnlyObjectWrapper<>(Optional.empty());

    public TempoModel(CrateModel crate, PackingListModel list, Background background) {
        this.crate = crate;
        this.list = list;
        this.background = background;
        list.currentProperty().subscribe(_ -> renew());
        crate.onList(this::renew);
    }

    /// Beats a minute: as was chosen, as texts or names have it, or as was heard; empty where nothing tells.
    public ReadOnlyObjectProperty<Optional<Double>> tempoProperty() { return tempo.getReadOnlyProperty(); }

    /// Where a bar begins, in seconds of the clip.
    public ReadOnlyDoubleProperty downbeatProperty() { return downbeat.getReadOnlyProperty(); }

    private void renew() {
        downbeat.set(beats().flatMap(Beats::downbeatSeconds).orElse(0.0));
        tempo.set(said().or(this::stated).or(() -> heard().map(TempoDetector.Tempo::bpm)));
    }

    private Optional<Beats> beats() { return file().map(f -> treatment(f.path()).finds().chop().beats()); }

    private Optional<Gathered> clip() { return list.currentProperty().get().map(PackingItem::source).filter(s -> s.clip().isPresent()); }

    private Optional<SoundFile> file() { return clip().flatMap(Gathered::clip).filter(f -> f.id().isWholeFile()); }

    /// Whether there is a tempo to speak of: what lies on a key is a note.
    public boolean isOfClip() {
        return file().filter(f -> tempo.get().isPresent() || f.durationSeconds() >= SHORTEST_SECONDS && f.metadata().mapping().rootKey().isEmpty()).isPresent();
    }

    private Treatment treatment(Path file) {
        return crate.job().edits().getOrDefault(file, ItemEdit.NONE).treatment(crate.job().options().treatment());
    }

    public Optional<Double> said() { return beats().flatMap(Beats::bpm); }

    public boolean hasDownbeat() { return beats().flatMap(Beats::downbeatSeconds).isPresent(); }

    /// A bar of the current clip begins at a frame.
    public void beginBarAt(double frame) {
        if (frame < 0 || file().isEmpty())
            crate.tell(frame < 0 ? "click into the wave first: bar 1 begins at the mark" : "choose a sound of the list first");
        else
            beginBar(Optional.of(Math.rint(frame * 1e6 / file().get().rateHz()) / 1e6));
    }

    public void beginBarWithClip() { beginBar(Optional.empty()); }

    private void beginBar(Optional<Double> seconds) {
        file().ifPresent(f -> {
            Treatment all = crate.job().options().treatment();
            crate.edit(Set.of(f.path()), e -> e.treated(all, t -> t.withFinds(t.finds().withChop(t.finds().chop().withDownbeat(seconds)))),
                    "downbeat of " + f.path().getFileName());
        });
    }

    private Optional<Double> stated() { return clip().flatMap(Stated::tempo); }

    private Optional<TempoDetector.Tempo> heard() {
        return clip().flatMap(Gathered::clip).flatMap(f -> crate.book().find(new Measurement.OfOnsets(f))).filter(Measurement.Onsets.class::isInstance)
                .flatMap(m -> ((Measurement.Onsets) m).tempo());
    }

    public boolean isHeard() { return file().flatMap(f -> crate.book().find(new Measurement.OfOnsets(f))).isPresent(); }

    /// What it may be: what is known and heard, the next best that was heard, half and double.
    public List<Choice> choices() {
        List<Choice> all = new ArrayList<>();
        said().ifPresent(bpm -> add(all, bpm, "chosen"));
        stated().ifPresent(bpm -> add(all, bpm, "by its texts, its name or its folder"));
        heard().ifPresent(t -> {
            add(all, t.bpm(), String.format(Locale.ROOT, "heard, %.0f %% sure", 100 * t.confidence()));
            if (t.rivalBpm() > 0) add(all, t.rivalBpm(), "heard, next best");
        });
        tempo.get().ifPresent(bpm -> {
            add(all, bpm / 2, "half");
            add(all, bpm * 2, "double");
        });
        return all;
    }

    private static void add(List<Choice> all, double bpm, String why) {
        if (Beats.isTempo(bpm) && all.stream().noneMatch(c -> Math.abs(c.bpm() - bpm) < SAME_BPM)) all.add(new Choice(bpm, why));
    }

    /// Listens to the current clip.
    public void listen() {
        file().ifPresent(f -> {
            crate.tell("listening for the tempo of " + f.path().getFileName() + " …");
            background.run(() -> {
                crate.book().measure(new Measurement.OfOnsets(f), () -> false);
                return f;
            }, _ -> {
                renew();
                crate.tell(heard().map(t -> f.path().getFileName() + " goes at " + Told.bpm(t.bpm()) + " bpm, as far as is heard")
                        .orElse("no tempo is heard in " + f.path().getFileName()));
            }, e -> crate.fail("could not be listened to: " + e.getMessage()));
        });
    }

    /// The chosen clips go at this tempo; absent for what is stated or heard.
    public void take(Optional<Double> bpm) {
        Set<Path> files = list.chosen().stream().flatMap(i -> i.source().clip().stream()).filter(f -> f.id().isWholeFile()).map(SoundFile::path)
                .collect(Collectors.toSet());
        file().map(SoundFile::path).ifPresent(files::add);
        Treatment all = crate.job().options().treatment();
        crate.editEach(files, (_, e) -> e.treated(all, t -> t.withFinds(t.finds().withChop(t.finds().chop().withBpm(bpm)))),
                bpm.map(b -> "tempo of " + Told.bpm(b) + " bpm").orElse("tempo as it is told"));
    }
}
