package ablecrate.planner.place;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.CardChange;
import ablecrate.change.FitChange;
import ablecrate.codec.Capabilities;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.fit.Fit;
import ablecrate.fit.FitClaim;
import ablecrate.fit.FitRules;
import ablecrate.fit.FitSound;
import ablecrate.fit.FitStep;
import ablecrate.fit.FitTask;
import ablecrate.fit.Size;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.option.Choice;
import ablecrate.option.Fitting;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.IntStream;

/// Loose sounds for a device that has memory for sounds alone: where all of them together are too much, each is made smaller as far as that is heard least.
///
/// What that is, is known only by hearing them; until then they stay whole. Each is to the fitter an instrument of one key. Instruments, slices and joined sounds stay as they are.
/// @param sizes of sounds that are not kept whole, by what was gathered
/// @param wanted what has to be listened to
/// @param whole what would come of it, where that is told and not done
/// @param isWaiting whether something has to be listened to before it is known what has room
public record FittedSounds(Map<Path, Fitted> sizes, Optional<FitTask> wanted, Optional<CardChange.AllFitted> whole, boolean isWaiting) {
    private static final FittedSounds NONE = new FittedSounds(Map.of(), Optional.empty(), Optional.empty(), false),
            WAITING = new FittedSounds(Map.of(), Optional.empty(), Optional.empty(), true);
    /// The key on which each sounds as it was recorded.
    private static final int KEY = 60;
    /// For each sound: a loop that is kept whole may take a few frames more than were reckoned with.
    private static final int RESERVE_BYTES = 64;

    /// @param part of the source that is kept
    /// @param isCut whether that leaves out what would be written otherwise
    public record Fitted(Size size, FrameRange part, boolean isCut, FitChange.SoundFitted told, FitClaim claim) {}

    /// @param placed the list with all sounds whole
    public static FittedSounds of(DestinationSheet sheet, PackOptions options, List<PackingItem> placed,
            Function<Measurement.Request, Optional<Measurement>> measured) {
        Fitting fitting = options.instruments().fitting();
        DeviceLimits limits = fitting.within(sheet);
        if (!sheet.sharesMemory() || fitting.mode() == Fitting.Mode.OFF || CardMemory.bytes(limits, placed) <= limits.totalBytes()) return NONE;
        // Levels may shorten sounds, and loops that are found: all of them are known before anything is weighed.
        if (!placed.stream().allMatch(PackingItem::isSettled)) return WAITING;
        List<PackingItem> items = placed.stream().filter(FittedSounds::isFitted).toList();
        // What is larger than the whole memory has no room whatever the others take.
        long fixed = placed.stream().filter(i -> !isFitted(i)).mapToLong(i -> CardMemory.bytes(limits, List.of(i))).filter(b -> b <= limits.totalBytes()).sum(),
                free = limits.totalBytes() - fixed - RESERVE_BYTES * (long) items.size();
        if (items.isEmpty()) return NONE;
        if (free <= 0) return told(new CardChange.AllFitted.Impossible(fixed));
        FitTask task = task(sheet, options, items, free);
        return measured.apply(task).map(m -> m instanceof Fit fit ? found(task, items, fit, fixed, fitting.mode()) : NONE)
                .orElse(new FittedSounds(Map.of(), Optional.of(task), Optional.empty(), true));
    }

    private static boolean isFitted(PackingItem item) {
        return item.output().isPresent() && item.outputs().size() == 1 && item.isSettled() && !item.source().sound().get().isJoined();
    }

    private static FitTask task(DestinationSheet sheet, PackOptions options, List<PackingItem> items, long bytes) {
        Set<FitStep.Kind> forbidden = EnumSet.noneOf(FitStep.Kind.class);
        forbidden.addAll(options.instruments().fitting().forbidden());
        // What the user asked for stays.
        if (options.rateHz() instanceof Choice.Of) forbidden.add(FitStep.Kind.RATE);
        if (options.depth() instanceof Choice.Of) forbidden.add(FitStep.Kind.DEPTH);
        if (options.channels().isPresent()) forbidden.add(FitStep.Kind.MONO);
        List<Instrument> instruments = new ArrayList<>();
        List<Optional<FitSound>> sounds = new ArrayList<>();
        for (PackingItem item : items) {
            PlannedOutput output = item.output().orElseThrow();
            SoundFile used = used(output);
            Set<Depth> written = SoundFormats.written(output.formatId()).orElseThrow().capabilities().depths();
            sounds.add(Optional.of(new FitSound(used, output.shape().rateHz(), output.shape().channels(),
                    FitSound.depths(output.shape().depth(), sheet.accepts().depthList().stream().filter(written::contains).toList()),
                    Capabilities.Loops.any().with(sheet.accepts().loops().frames()), Optional.empty())));
            instruments.add(played(loops(used, output), sounds.size() - 1, item.source().fileName()));
        }
        DeviceLimits memory = new DeviceLimits(0, 0, 0, 0, List.of(), DeviceLimits.Playing.ANY, 0, bytes, sheet.limits().sampleOverheadBytes());
        boolean takesMono = sheet.accepts().channels().isEmpty() || sheet.accepts().channels().contains(1);
        return new FitTask(instruments, sounds, memory, sheet.accepts().rateChoices(), takesMono,
                new FitTask.Format(FitTask.Format.ANY.carried(), Parameter.LEAST_GAIN, 0, false, false, 0),
                FitRules.without(forbidden));
    }

    /// The part of the source that is written, as a sound.
    private static SoundFile used(PlannedOutput output) {
        SoundFile file = output.source();
        FrameRange part = output.sourceChain().part();
        if (part.start() == 0 && part.end() >= file.frames()) return file;
        long end = Math.min(part.end(), file.frames());
        List<Loop> loops = file.metadata().loops().stream().filter(l -> l.frames().start() >= part.start() && l.frames().end() <= end)
                .map(l -> l.withFrames(new FrameRange(l.frames().start() - part.start(), l.frames().end() - part.start()))).toList();
        return file.slice(new FrameRange(part.start(), end), file.metadata().withLoops(loops));
    }

    /// The loops as the destination plays them: what else becomes of them is no matter of memory. Those that it does not play stay too, as a sound is not cut within them.
    private static List<Loop> loops(SoundFile used, PlannedOutput output) {
        List<Loop> all = used.metadata().loops(), written = output.metadata().loops();
        return written.isEmpty()
                ? List.of()
                : IntStream.range(0, all.size()).mapToObj(i -> i < written.size() ? all.get(i).withMode(written.get(i).mode()) : all.get(i)).toList();
    }

    private static Instrument played(List<Loop> loops, int sample, String name) {
        Zone zone = Zone.of(sample).with(Parameter.KEYS, new Span(KEY, KEY)).with(Parameter.ROOT_KEY, KEY);
        zone = loops.isEmpty() ? zone.with(Parameter.ONE_SHOT, true) : zone.with(Parameter.LOOPS, loops);
        return new Instrument(About.named(name), Optional.empty(), List.of(new ZoneGroup("", List.of(zone))));
    }

    /// @param fixed bytes of what stays as it is
    private static FittedSounds found(FitTask task, List<PackingItem> items, Fit fit, long fixed, Fitting.Mode mode) {
        // Where even the least is too much, what goes is not ours to choose.
        if (fit.instruments().stream().anyMatch(f -> !f.fits())) return told(new CardChange.AllFitted.Impossible(fixed + fit.bytes()));
        if (mode == Fitting.Mode.ADVISE)
            return told(new CardChange.AllFitted.Possible(fit.instruments().stream().mapToDouble(f -> f.harm().meanDb()).average().orElse(0)));
        Map<Path, Fitted> out = new HashMap<>();
        for (int i = 0; i < items.size(); i++) {
            Size size = fit.sizes().get(i);
            Fit.Fitted fitted = fit.instruments().get(i);
            if (size == null || !fitted.isChanged()) continue;
            PlannedOutput whole = items.get(i).output().orElseThrow();
            long start = whole.sourceChain().part().start();
            FitSound sound = task.sounds().get(i).orElseThrow();
            out.put(items.get(i).source().path(),
                    new Fitted(size, new FrameRange(start, start + size.frames()), size.frames() < sound.file().frames(),
                            new FitChange.SoundFitted(fitted.needed().bytes(), fitted.need().bytes(), task.bytesOfAll(), fit.bytes(), fitted.harm().meanDb()),
                            new FitClaim(task, fitted.before(), fitted.harm())));
        }
        return new FittedSounds(out, Optional.empty(), Optional.empty(), false);
    }

    private static FittedSounds told(CardChange.AllFitted whole) { return new FittedSounds(Map.of(), Optional.empty(), Optional.of(whole), false); }

    /// The list of sounds that are made smaller, with what was done; or the whole one, with what has to be listened to.
    public List<PackingItem> told(List<PackingItem> placed) {
        if (wanted.isPresent()) {
            boolean[] isAsked = {false};
            return placed.stream().map(i -> {
                if (isAsked[0] || !isFitted(i)) return i;
                isAsked[0] = true;
                return i.wanting(List.of(wanted.get()));
            }).toList();
        }
        return placed.stream().map(i -> Optional.ofNullable(sizes.get(i.source().path())).filter(_ -> i.output().isPresent())
                .map(f -> i.explained(f.told, i.outputs().stream().map(o -> o.claiming(f.claim)).toList())).orElse(i)).toList();
    }
}
