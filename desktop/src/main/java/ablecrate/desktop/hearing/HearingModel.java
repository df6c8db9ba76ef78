package ablecrate.desktop.hearing;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.dsp.FrameSlice;
import ablecrate.pack.PlayedClip;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SoundPath;
import ablecrate.signal.SourceChain;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.value.ObservableValue;

/// Plays and stops the current line: the source as it is, or the result as packing would make it, of a clip in pieces as these play it. FX thread only.
public final class HearingModel implements Hearable {
    private final PackingListModel list;
    private final Consumer<String> tell, fail;
    private final Playback playback;
    private final ReadOnlyStringWrapper note = new ReadOnlyStringWrapper(""), side = new ReadOnlyStringWrapper("");
    private final BooleanProperty result = new SimpleBooleanProperty(), auto = new SimpleBooleanProperty();
    private final DoubleProperty mark = new SimpleDoubleProperty(-1);
    private Optional<SoundFile.Id> current = Optional.empty();
    private final SoundPath soundPath;
    private Optional<SoundFile.Id> heardId = Optional.empty();
    private double startFrame, sourcePerHeard = 1;
    /// Which of the ways is heard in which pieces play their clip.
    private int way;

    /// @param fx where answers of the player's thread go
    /// @param tell what is to be done first
    /// @param fail what went wrong
    public HearingModel(PackingListModel list, SoundPath soundPath, Executor fx, Consumer<String> tell, Consumer<String> fail) {
        this.list = list;
        this.soundPath = soundPath;
        playback = new Playback(fx, () -> note.set("no sound device: running silent"));
        this.tell = tell;
        this.fail = fail;
        list.currentProperty().subscribe(now -> {
            nameSide();
            Optional<SoundFile.Id> next = now.flatMap(i -> i.source().clip()).map(SoundFile::id);
            if (playback.isPlaying() && !next.equals(heardId)) stop();
            if (next.isEmpty() || next.equals(current)) return;
            current = next;
            mark.set(-1);
            if (auto.get() && next.isPresent()) playFrom(0);
        });
        result.subscribe(_ -> {
            way = 0;
            turned();
        });
    }

    /// The other side goes on where this one was.
    private void turned() {
        nameSide();
        if (playback.isPlaying()) playFrom((long) sourceFrame());
    }

    private List<PlayedClip> ways() { return list.currentProperty().get().map(i -> PlayedClip.of(i, soundPath)).orElse(List.of()); }

    private void nameSide() {
        List<PlayedClip> ways = ways();
        side.set(!result.get() ? "Source" : ways.isEmpty() ? "Result" : ways.get(Math.min(way, ways.size() - 1)).side());
    }

    public ReadOnlyBooleanProperty playingProperty() { return playback.playingProperty(); }

    /// Whether the result is heard rather than the source.
    public BooleanProperty resultProperty() { return result; }

    /// The frame of the source from which playing starts; below 0 its beginning. Another sound has none.
    public DoubleProperty markProperty() { return mark; }

    /// Whether sounds are played as one walks through the list.
    public BooleanProperty autoProperty() { return auto; }

    /// Where sound goes, if that is worth a word.
    public ReadOnlyStringProperty noteProperty() { return note.getReadOnlyProperty(); }

    @Override public Playback playback() { return playback; }

    @Override public ObservableValue<String> side() { return side.getReadOnlyProperty(); }

    @Override public void otherSide() {
        if (result.get() && way + 1 < ways().size()) {
            way++;
            turned();
        } else
            result.set(!result.get());
    }

    @Override public void toggle() {
        if (playback.isPlaying())
            stop();
        else
            playFrom((long) Math.max(0, mark.get()));
    }

    /// @param sourceFrame of the current line's source, on both sides
    public void playFrom(long sourceFrame) {
        Optional<SoundFile> sound = list.currentProperty().get().flatMap(i -> i.source().clip());
        if (sound.isEmpty()) {
            tell.accept("there is nothing to hear: choose a sound of the list");
            return;
        }
        SoundFile file = sound.get();
        List<PlayedClip> ways = result.get() ? ways() : List.of();
        if (!ways.isEmpty()) {
            PlayedClip clip = ways.get(Math.min(way, ways.size() - 1));
            startFrame = Math.clamp(sourceFrame, 0, file.frames());
            sourcePerHeard = (double) file.rateHz() / clip.rateHz();
            play(file, () -> clip.from(startFrame / file.rateHz()));
            return;
        }
        Optional<PlannedOutput> output = list.currentProperty().get().flatMap(PackingItem::output);
        boolean hearResult = result.get() && output.isPresent();
        long from = Math.clamp(sourceFrame, 0, file.frames());
        startFrame = from;
        sourcePerHeard = 1;
        if (hearResult) {
            SourceChain sourceChain = output.get().sourceChain();
            startFrame = Math.clamp(from, sourceChain.part().start(), sourceChain.part().end());
            sourcePerHeard = (double) sourceChain.inputStep() / sourceChain.outputStep();
        }
        long heardFrom = hearResult
                ? Math.min(output.get().shape().frames(), (long) ((startFrame - output.get().sourceChain().part().start()) / sourcePerHeard))
                : from;
        play(file, () -> hearResult ? soundPath.openAt(file, output.get().sourceChain(), output.get().outputChain(), heardFrom) : source(file, from));
    }

    private void play(SoundFile file, Callable<FrameSource> opening) {
        heardId = Optional.of(file.id());
        playback.play(opening, fault -> fail.accept("cannot play " + file.path().getFileName() + ": " + fault.getMessage()));
    }

    /// A part of the current line's source, up to its end.
    public void playPart(FrameRange part) {
        list.currentProperty().get().flatMap(i -> i.source().clip()).ifPresent(f -> {
            startFrame = part.start();
            sourcePerHeard = 1;
            play(f, () -> new FrameSlice(source(f, part.start()), 0, part.length()));
        });
    }

    private static FrameSource source(SoundFile file, long from) throws java.io.IOException {
        SeekableSource source = file.open();
        source.seek(from);
        return source;
    }

    @Override public double share() {
        return list.currentProperty().get().flatMap(i -> i.source().clip()).filter(_ -> playback.isPlaying())
                .map(f -> Math.clamp(sourceFrame() / Math.max(1, f.frames()), 0, 1)).orElse(-1.0);
    }

    @Override public void playAt(double share) {
        list.currentProperty().get().flatMap(i -> i.source().clip()).ifPresent(f -> playFrom((long) (share * f.frames())));
    }

    /// Where hearing is, in frames of the source; below 0 when nothing plays.
    public double sourceFrame() { return playback.isPlaying() ? startFrame + playback.heardFrames() * sourcePerHeard : -1; }

    /// Where in the source, and how loud; nothing while nothing plays.
    @Override public Hearable.Heard heard() {
        return list.currentProperty().get().flatMap(i -> i.source().clip())
                .map(f -> playback.heardAt(Math.clamp(sourceFrame(), 0, f.frames()) / f.rateHz())).orElse(Heard.NOTHING);
    }
}
