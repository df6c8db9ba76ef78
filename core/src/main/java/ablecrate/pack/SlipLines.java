package ablecrate.pack;

import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.ChangeEntry;
import ablecrate.change.DamageChange;
import ablecrate.change.LevelChange;
import ablecrate.change.Property;
import ablecrate.change.SeveralChanges;
import ablecrate.change.Verdict;
import ablecrate.dsp.Levels;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.verify.Finding;
import ablecrate.verify.Outcome;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/// What the slip says of a file and of an item, from what was written and found.
final class SlipLines {
    static final String SKIPPED = "skipped", LEFT = "left";

    private SlipLines() {}

    /// Levels as they were before, and as they are in the file.
    static Optional<PackingSlip.LevelsBeforeAfter> levels(SoundWriter.Written done, Finding found) {
        Optional<Levels> after = done.rendered().levels().or(() -> found.content() instanceof Finding.Content.Decoded d ? d.levels() : Optional.empty());
        return done.output().levels().before().flatMap(b -> after.map(a -> new PackingSlip.LevelsBeforeAfter(b.rounded(), a.rounded())));
    }

    static PackingSlip.MapFile line(Targets.Target target, String state, PlannedMap map, String recipe, Path file, String xxh128,
            List<Outcome> outcomes) throws IOException {
        return new PackingSlip.MapFile(target.shownPath(), state, recipe, Files.size(file), Files.getLastModifiedTime(file).toMillis(), xxh128, map.formatId(),
                map.instruments().size(), map.instruments().stream().mapToInt(i -> i.zones().size()).sum(),
                outcomes.stream().map(PackingSlip.Check::of).toList());
    }

    static PackingSlip.Output line(Targets.Target target, String state, PlannedOutput output, String recipe, Path file, String xxh128,
            List<Outcome> outcomes, Optional<PackingSlip.LevelsBeforeAfter> levels) throws IOException {
        List<PackingSlip.Mended> mended = output.sourceChain().mends().stream().map(m -> new PackingSlip.Mended(m.start(), m.end())).toList();
        return new PackingSlip.Output(target.shownPath(), state, recipe, Files.size(file), Files.getLastModifiedTime(file).toMillis(), xxh128,
                output.shape().frames(), output.shape().rateHz(), output.shape().depth().bits(), output.shape().depth().isFloat() ? "float" : "integer",
                output.shape().channels(), outcomes.stream().map(PackingSlip.Check::of).toList(), levels,
                mended.isEmpty() ? Optional.empty() : Optional.of(mended));
    }

    static PackingSlip.SidecarFile line(Targets.Target target, String state, PlannedSidecar sidecar, String recipe, Path file, String xxh128,
            List<Outcome> outcomes) throws IOException {
        return new PackingSlip.SidecarFile(target.shownPath(), state, recipe, Files.size(file), Files.getLastModifiedTime(file).toMillis(), xxh128,
                sidecar.sidecar().id(), sidecar.sidecar().entries(), outcomes.stream().map(PackingSlip.Check::of).toList());
    }

    static PackingSlip.Item without(PackingItem item, String outcome, Optional<String> error) {
        return new PackingSlip.Item(item.source().path().toString(), item.verdict().id(), outcome, Optional.empty(), changes(item.changes()), List.of(),
                List.of(), List.of(), error);
    }

    /// @param earlier what was told of the source when it was packed before
    static PackingSlip.Item whole(PackingItem item, List<PackingSlip.Output> outputs, List<PackingSlip.MapFile> maps, List<PackingSlip.SidecarFile> sidecars,
            List<ChangeEntry> earlier, List<Change> settled) {
        List<String> states = Stream.of(outputs, maps, sidecars).<PackingSlip.Written>flatMap(List::stream).map(PackingSlip.Written::state).toList();
        boolean isLeft = states.contains(LEFT), isSkipped = states.stream().allMatch(SKIPPED::equals);
        List<Change> all = new ArrayList<>(item.changes());
        // Samples that turned out to be exact are not rounded, as had been planned.
        if (settled.stream().filter(AudioChange.DepthExact.class::isInstance).count() == outputs.size()
                || earlier.stream().anyMatch(c -> c.is(AudioChange.DepthExact.class)) && (isLeft || isSkipped))
            all.removeIf(c -> c.property() == Property.DEPTH);
        // What the plan had told already is not told twice.
        together(settled).stream().filter(c -> all.stream().noneMatch(known -> known.property() == c.property() && known.reason().equals(c.reason())))
                .forEach(all::add);
        List<ChangeEntry> told = new ArrayList<>(changes(all));
        // What stays there is what it was: what had turned out while it was written holds on.
        if (isLeft || isSkipped) earlier.stream().filter(c -> isSettledWhilePacking(c) && !told.contains(c)).forEach(told::add);
        String verdict = told.stream().map(c -> Verdict.valueOf(c.verdict().toUpperCase(Locale.ROOT))).reduce(Verdict.KEPT, Verdict::worse).id();
        return new PackingSlip.Item(item.source().path().toString(), verdict, isLeft ? LEFT : isSkipped ? SKIPPED : "packed", Optional.empty(), told,
                outputs, maps, sidecars,
                isLeft
                        ? Optional.of("what is there was changed since it was packed, and stays as it is; replace it to have it written anew")
                        : Optional.empty());
    }

    /// What turned out in several sounds of an instrument is one line, with the farthest as its number.
    private static List<Change> together(List<Change> settled) {
        Map<List<Object>, List<Change>> alike = new LinkedHashMap<>();
        settled.forEach(c -> alike.computeIfAbsent(List.of(c.property(), c.verdict(), c.after(), c.numbers().map(Change.Numbers::unit)), _ -> new ArrayList<>())
                .add(c));
        return alike.values().stream().map(all -> {
            Change first = all.stream().max(Comparator.comparingDouble(c -> c.numbers().map(Change.Numbers::before).orElse(0.0))).orElseThrow();
            return all.size() == 1 ? first : new SeveralChanges.WhilePacking(first, all.size(), all.stream().flatMap(c -> which(c).stream()).toList());
        }).toList();
    }

    private static Optional<String> which(Change settled) {
        return settled instanceof LevelChange.BeyondFullScale over ? over.output().map(o -> "'" + o + "': " + over.before()) : Optional.empty();
    }

    private static boolean isSettledWhilePacking(ChangeEntry c) {
        return c.is(LevelChange.BeyondFullScale.class) || c.is(AudioChange.DepthExact.class) || c.is(DamageChange.FramesHeld.class)
                || c.is(DamageChange.FramesSilenced.class);
    }

    private static List<ChangeEntry> changes(List<Change> changes) { return changes.stream().map(ChangeEntry::of).toList(); }
}
