package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.Parameter;
import ablecrate.option.Chop;
import ablecrate.option.Finds;
import ablecrate.option.ItemEdit;
import ablecrate.option.Rhythm;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.sidecar.RhythmFile;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// MIDI files that play the pieces of a clip: as they lie in it, or on a grid. Their bars are the clip's: where it begins within one, so do they.
record ClipRhythm(List<PlannedSidecar> files, List<Change> changes, List<Measurement.Request> wanted) {
    private static final ClipRhythm NONE = new ClipRhythm(List.of(), List.of(), List.of());
    private static final double USUAL_BPM = 120;

    /// A piece on its key.
    /// @param sound its place among those of the line
    /// @param inSeconds from its first frame to where it was cut for
    private record Placed(int key, int sound, double startSeconds, double seconds, double inSeconds) {
        RhythmFile.Note at(double otherStart) { return new RhythmFile.Note(key, Math.max(0, otherStart), seconds, sound); }
    }

    static ClipRhythm of(InstrumentTask task, PlayedSounds played, PlannedParts parts) {
        ItemEdit edit = task.edits().getOrDefault(task.gathered().path(), ItemEdit.NONE);
        Finds finds = edit.treatment(task.options().treatment()).finds();
        Rhythm rhythm = finds.rhythm();
        if (!task.file().formatId().equals(ClipPieces.ID) || rhythm.as() == Rhythm.As.NONE) return NONE;
        if (task.accepted().sheet().layout().soundsOnly())
            return new ClipRhythm(List.of(), List.of(new FileChange.SidecarLeftOut("MIDI file", FileChange.SidecarLeftOut.SOUNDS_ONLY)), List.of());
        // The whole clip, behind its slices, plays by itself.
        int whole = finds.chop().by() != Chop.By.NONE && finds.pieces().withWhole() ? task.file().samples().size() - 1 : -1;
        List<Placed> pieces = played.zones().filter(z -> z.zone().sample() != whole)
                .flatMap(z -> parts.of(z).stream().map(p -> placed(z.zone().get(Parameter.KEYS).low(), p.first(), p.item().outputs().getFirst())))
                .distinct().toList();
        SoundFile clip = ((AudioPlace.Slice) task.file().sound(0).orElseThrow().audio()).whole();
        ClipTempo tempo = ClipTempo.of(finds.chop().bpm(), task.gathered(), clip, task.measured());
        if (tempo.wanted().isPresent()) return new ClipRhythm(List.of(), List.of(), tempo.wanted().stream().toList());
        List<PlannedSidecar> files = new ArrayList<>();
        List<Change> changes = new ArrayList<>();
        double bpm = tempo.bpm().orElse(USUAL_BPM);
        double pickUp = tempo.bpm().isPresent() ? finds.chop().beats().pickUpSeconds(bpm) : 0;
        String name = task.gathered().stem(), begins = pickUp == 0
                ? ""
                : String.format(Locale.ROOT, "; the clip begins at beat %.2f of bar 1", 1 + pickUp * bpm / 60);
        if (rhythm.isPlayed())
            add(new RhythmFile(name, bpm, false, pickUp, pieces.stream().map(p -> p.at(pickUp + p.startSeconds())).toList()), "",
                    tempo.bpm().isPresent() ? begins : ", its tempo is not known, its bars mean nothing", files, changes);
        if (rhythm.isQuantised() && tempo.bpm().isEmpty())
            changes.add(new FileChange.SidecarLeftOut("quantised MIDI file", "no tempo is heard; say one (--bpm)"));
        if (rhythm.isQuantised() && tempo.bpm().isPresent())
            add(new RhythmFile(name + " quantised", bpm, true, pickUp,
                    pieces.stream().map(p -> p.at(rhythm.quantised(pickUp + p.startSeconds() + p.inSeconds(), bpm) - p.inSeconds())).toList()),
                    " quantised", ", on a grid of " + rhythm.grid().id() + begins, files, changes);
        return new ClipRhythm(files, changes, List.of());
    }

    /// @param end of its name
    private static void add(RhythmFile file, String end, String detail, List<PlannedSidecar> files, List<Change> changes) {
        files.add(new PlannedSidecar(end, file));
        changes.add(new FileChange.SidecarAdded(file.label(), file.entries(), file.noun(),
                String.format(Locale.ROOT, "%.4g beats a minute", file.bpm()) + detail));
    }

    /// Where it begins in the clip, whatever was trimmed off its start.
    private static Placed placed(int key, int sound, PlannedOutput output) {
        AudioPlace.Slice slice = (AudioPlace.Slice) output.source().audio();
        double rateHz = output.source().rateHz();
        long trimmed = output.sourceChain().part().start();
        return new Placed(key, sound, (slice.frames().start() + trimmed) / rateHz, (double) output.shape().frames() / output.shape().rateHz(),
                Math.max(0, slice.fadeInFrames() - trimmed) / rateHz);
    }
}
