package ablecrate.planner.sound;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.LoopChange;
import ablecrate.change.MetadataChange;
import ablecrate.codec.Compression;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.detect.FoundLoop;
import ablecrate.fit.FitSound;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.library.Stems;
import ablecrate.option.ItemEdit;
import ablecrate.option.Overs;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/// A sound, what it becomes a part of, and what is wanted of it: what every stage may look at.
/// @param file with what an instrument says of it in place of its own metadata
/// @param own what the file says of itself
/// @param stems those that it is one of
/// @param playedAs what an instrument wants of it
/// @param measured what was listened to; empty for what was not
public record SoundTask(Gathered gathered, SoundFile file, SoundMetadata own, SoundTarget target, Accepted accepted, ItemEdit edit, Optional<Stems> stems,
        PlayedAs playedAs, Function<Measurement.Request, Optional<Measurement>> measured) {
    /// What a lossy sound, which has no depth of its own, is written in: the safest depth to hand on (common practice).
    private static final Depth HANDED_ON = Depth.INT_24;

    /// A sound that speaks for itself.
    public static SoundTask of(Gathered gathered, SoundFile file, SoundTarget target, Accepted accepted, ItemEdit edit,
            Function<Measurement.Request, Optional<Measurement>> measured) {
        return new SoundTask(gathered, edited(file, edit), file.metadata(), target, accepted, edit, Optional.empty(), PlayedAs.PLAIN, measured);
    }

    /// With the loops that the user wants.
    public static SoundFile edited(SoundFile file, ItemEdit edit) {
        return edit.loop().loops().map(loops -> loops.stream().filter(l -> l.frames().length() > 0 && l.frames().end() <= file.frames()).toList())
                .map(loops -> file.withMetadata(file.metadata().withLoops(loops))).orElse(file);
    }

    /// Of a sound that is made smaller its end goes, with a fade where no loop goes on to it.
    public static ItemEdit cut(ItemEdit edit, FrameRange part, boolean isLooped) {
        ItemEdit shorter = edit.withPart(Optional.of(part));
        return isLooped ? shorter : shorter.withFadeOut(edit.fadeOutMs().or(() -> Optional.of(FitSound.FADE_MS)));
    }

    /// A sound of which an instrument says something.
    public static SoundTask played(Gathered gathered, SoundFile file, SoundMetadata given, SoundTarget target, Accepted accepted, ItemEdit edit,
            Function<Measurement.Request, Optional<Measurement>> measured) {
        return new SoundTask(gathered, file.withMetadata(given), file.metadata(), target, accepted, edit, Optional.empty(), PlayedAs.PLAIN, measured);
    }

    /// Its beginning, as a sound.
    SoundTask first(long frames) {
        return new SoundTask(gathered, file.slice(new FrameRange(0, frames), file.metadata()), own, target, accepted, edit, stems, playedAs, measured);
    }

    /// As one of several that are treated as one, unless the user wants each by itself.
    public SoundTask amongStems(Optional<Stems> all) {
        return new SoundTask(gathered, file, own, target, accepted, edit, all.filter(_ -> chosen().asOne().stems()), playedAs, measured);
    }

    /// What an instrument wants of a sound that it plays.
    /// @param louderDb by which zones play it louder than the target can say; what headroom it has takes that over
    /// @param loop that was found for it
    public record PlayedAs(double louderDb, Optional<FoundLoop> loop) {
        static final PlayedAs PLAIN = new PlayedAs(0, Optional.empty());
    }

    public SoundTask as(PlayedAs other) { return new SoundTask(gathered, file, own, target, accepted, edit, stems, other, measured); }

    /// With cue points where slices would begin.
    public SoundTask marked(Optional<List<Cue>> cues) {
        return cues.map(c -> new SoundTask(gathered, file.withMetadata(file.metadata().withCues(c)), own, target, accepted, edit, stems, playedAs, measured))
                .orElse(this);
    }

    /// Cue points that were set where slices begin; what an instrument says of a sound has none that are not the sound's.
    Optional<MetadataChange.CuesSet> cuesSet() {
        int before = own.cues().size(), now = file.metadata().cues().size();
        return now > before ? Optional.of(new MetadataChange.CuesSet(before, now)) : Optional.empty();
    }

    PackOptions options() { return accepted.options(); }

    DestinationSheet sheet() { return accepted.sheet(); }

    private Treatment chosen() { return edit.treatment(options().treatment()); }

    Treatment treatment() { return stems.isPresent() ? chosen().ofStems() : chosen(); }

    Optional<SoundFormat> format() { return SoundFormats.byId(file.formatId()); }

    boolean staysInFormat() { return file.formatId().equals(target.id()); }

    int rateHz() { return target.rateHz(accepted.rateHz(file.rateHz())); }

    boolean changesRate() { return rateHz() != file.rateHz(); }

    Depth sourceDepth() { return file.encoding().depth(); }

    Depth depth() { return target.depth(accepted.depth(file.isLossy() ? HANDED_ON : sourceDepth()), sheet().accepts().depthList()); }

    /// Whether what is written has another depth, or one for the first time.
    boolean changesDepth() { return !target.isLossy() && (depth() != sourceDepth() || file.isLossy()); }

    /// Whether samples beyond full scale are cut where they are written.
    boolean writesIntegers() { return !depth().isFloat() && !target.isLossy(); }

    /// By which the sound is made louder where it has headroom. Levels that the user sets are another matter.
    double raiseDb() { return treatment().setsLevels() ? 0 : Math.max(0, playedAs.louderDb()); }

    double fadeInMs() { return edit.fadeInMs().orElse(treatment().fadeIn().ms()); }

    double fadeOutMs() { return edit.fadeOutMs().orElse(treatment().fadeOut().ms()); }

    double crossfadeMs() { return edit.loop().crossfadeMs().orElse(treatment().loopCrossfadeMs()); }

    /// By how much the sound is raised within its loop.
    double loopRiseDb() { return edit.loop().riseDb().orElse(0.0); }

    /// The loop that a rate change has to keep whole: the first for the held key that the destination plays.
    /// @param ratio frames of the result for one of the source
    Optional<Loop> rulingLoop(double ratio) {
        return target.carriesLoops()
                ? file.metadata().loops().stream().filter(l -> l.use() == Loop.Use.SUSTAIN && l.frames().length() > 1 && l.frames().end() <= file.frames())
                        .filter(l -> target.loops().plays(l.mode(), Math.round(l.frames().length() * ratio))).findFirst()
                : Optional.empty();
    }

    /// The same at the speed of the source.
    Optional<Loop> rulingLoop() { return rulingLoop((double) rateHz() / file.rateHz()); }

    /// With loops that were found, the crossfade that they need unless another is asked for, and the rise in level.
    SoundTask looped(List<Loop> loops, double crossfadeMs, double riseDb) {
        ItemEdit blended = (edit.loop().crossfadeMs().isPresent() ? edit : edit.withLoopCrossfade(Optional.of(crossfadeMs)))
                .withLoopRise(riseDb == 0 ? Optional.empty() : Optional.of(riseDb));
        return new SoundTask(gathered, file, own, target, accepted, blended, stems, playedAs, measured).withLoops(loops);
    }

    SoundTask withLoops(List<Loop> loops) {
        return new SoundTask(gathered, file.withMetadata(file.metadata().withLoops(loops)), own, target, accepted, edit, stems, playedAs, measured);
    }

    /// Loops that the user wants otherwise than the file has them.
    Optional<LoopChange> loopsSet() {
        List<Loop> before = own.loops(), now = file.metadata().loops();
        return edit.loop().loops().isEmpty() || before.equals(now) ? Optional.empty() : Optional.of(LoopChange.LoopsSet.of(before, now));
    }

    long likelyDelay() { return likelyDelay(file); }

    /// How late a file starts that does not say so, where that is to be taken off.
    long likelyDelay(SoundFile any) {
        if (!options().mending().takesLikelyDelay()) return 0;
        return any.compression().map(Compression::start).filter(Compression.Start.Unknown.class::isInstance).map(Compression.Start.Unknown.class::cast)
                .map(Compression.Start.Unknown::likelyFrames).map(f -> Math.min(f, any.frames() - 1)).orElse(0L);
    }

    /// Sounds of one group get one gain; each is a group of its own unless they are levelled, or lowered, together.
    String group() {
        boolean isOne = treatment().together() || treatment().limits().overs() == Overs.LOWER_TOGETHER && !treatment().setsLevels();
        return isOne ? edit.group().orElse(gathered.folderName()) : gathered.path().toString();
    }

    <T extends Measurement> Answer<T> ask(Measurement.Request request, Class<T> kind, boolean isNeeded) {
        return new Answer<>(request, kind, isNeeded, measured.apply(request));
    }
}
