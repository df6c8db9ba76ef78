package ablecrate.planner.instrument;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.fit.FitSound;
import ablecrate.fit.Size;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.OwnMaps;
import ablecrate.format.Sample;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.option.ItemEdit;
import ablecrate.planner.instrument.PlayedSounds.PlayedSound;
import ablecrate.planner.sound.SoundPlan;
import ablecrate.planner.sound.SoundTarget;
import ablecrate.planner.sound.SoundTask;
import java.nio.file.Path;
import java.util.Optional;
import java.util.regex.Pattern;

/// Sounds of instruments as sounds like any other, so that rates, levels and loops go the same way.
final class InstrumentSounds {
    /// What paths cannot hold.
    private static final Pattern UNFIT = Pattern.compile("[/\\\\\\x00-\\x1f]");

    private InstrumentSounds() {}

    /// @param size that it is cut down to, where it has to fit
    /// @param as what its zones want of it
    static SoundPlan plan(InstrumentTask task, PlayedSound sound, Optional<Size> size, SoundTask.PlayedAs as) {
        return new SoundPlan(soundTask(task, sound, size, as.loop().isPresent()).as(as));
    }

    /// @param isLooped whether a loop is found for it
    static SoundTask soundTask(InstrumentTask task, PlayedSound sound, Optional<Size> size, boolean isLooped) {
        Sample.Found sample = (Sample.Found) task.file().samples().get(sound.sample());
        SoundFile source = sample.file();
        Path path = isOfBank(source) ? source.path().resolve(plainName(sample.name())) : source.path();
        Path relative = task.gathered().relative().resolveSibling(plainName(sound.by().name())).resolve(path.getFileName());
        ItemEdit own = task.edits().getOrDefault(path, ItemEdit.NONE), all = task.edits().getOrDefault(task.gathered().path(), ItemEdit.NONE);
        return SoundTask.played(new Gathered(path, relative, new Gathered.Content.Sound(source)), source, metadata(task, sound, source),
                target(task, source, size.isPresent()),
                size.map(s -> task.accepted().reduced(s, source)).orElse(task.accepted()),
                cut(own.withOwn(all.own().with(own.own())), size, source, isLooped || !sound.loops().isEmpty()), task.measured());
    }

    /// A part that the user drew goes before that.
    private static ItemEdit cut(ItemEdit edit, Optional<Size> size, SoundFile source, boolean isLooped) {
        if (size.filter(s -> s.frames() < source.frames()).isEmpty() || edit.part().isPresent()) return edit;
        return SoundTask.cut(edit, new FrameRange(0, size.get().frames()), isLooped);
    }

    /// @param isReduced whether it is cut down to fit the device
    static SoundTarget target(InstrumentTask task, SoundFile source, boolean isReduced) {
        return anyTarget(task, source, isReduced).within(task.accepted().sheet().accepts().loops());
    }

    private static SoundTarget anyTarget(InstrumentTask task, SoundFile source, boolean isReduced) {
        return switch (task.format().orElse(null)) {
            case BankFormat bank ->
                SoundTarget.pooled(bank, !isReduced && task.accepted().rateHz(source.rateHz()) == source.rateHz());
            case null -> SoundTarget.file(task.accepted().container(source.formatId()), task.accepted().sheet().keeps(), task.options().metadata().written());
            case InstrumentFormat map when map.zonesInSounds() ->
                SoundTarget.file(task.accepted().container(source.formatId()), task.accepted().sheet().keeps(), mapped(task.options().metadata().written()));
            case InstrumentFormat map -> SoundTarget.mapped(task.accepted().container(source.formatId()), map, task.options().metadata().written());
        };
    }

    /// What plays the sound is not the user's to leave out.
    private static Keeps mapped(Keeps written) { return new Keeps(true, true, written.cues(), written.broadcast(), written.texts()); }

    /// What the instrument says of a sound that it plays.
    private static SoundMetadata metadata(InstrumentTask task, PlayedSound sound, SoundFile source) {
        boolean isLeft = task.options().metadata().leavesFiles() && !isOfBank(source);
        if (isLeft && (task.isLoose() || !task.isSaidBySounds())) return source.metadata();
        if (task.isSaidBySounds()) return OwnMaps.metadata(sound.zone(), source.metadata());
        if (isOfBank(source))
            return source.metadata().withMapping(Mapping.NONE.withRootKey(sound.zone().said(Parameter.ROOT_KEY))).withLoops(sound.loops());
        return sound.loops().isEmpty() ? source.metadata() : source.metadata().withLoops(sound.loops());
    }

    private static boolean isOfBank(SoundFile source) { return SoundFormats.byId(source.formatId()).isEmpty(); }

    private static String plainName(String name) {
        String plain = UNFIT.matcher(name).replaceAll("_").strip();
        return plain.chars().allMatch(c -> c == '.') ? "sound" : plain;
    }
}
