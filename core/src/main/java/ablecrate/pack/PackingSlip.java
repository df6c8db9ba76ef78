package ablecrate.pack;

import ablecrate.change.ChangeEntry;
import ablecrate.dsp.Levels;
import ablecrate.verify.Outcome;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;

/// The record of a folder that was packed into: what the last run wrote, checked and measured, what was not written and why, and what earlier runs left there.
/// The JSON file has these keys; they are stable.
/// @param version of the program
/// @param status `complete`, or `stopped` where the user ended it
/// @param options that were chosen, with the keys of a job file
/// @param totals items of this run by verdict, as in the packing list
/// @param outcomes items of this run by what became of them: `packed`, `skipped`, `left`, `blocked`, `failed`, `pending`
/// @param misses how many things that were asked for were not reached, in this run
/// @param damaged items of this run in which damage was found that is still there
/// @param items of this run, then those of earlier ones
@JsonInclude(JsonInclude.Include.NON_ABSENT) public record PackingSlip(String product, String version, String destination, String destinationName, String into,
        String packedAt, double seconds, String status, Map<String, Object> options, Map<String, Integer> totals, Map<String, Integer> outcomes, int misses,
        int damaged, List<Item> items) {
    public PackingSlip {
        options = options == null ? Map.of() : options;
    }

    /// What [#misses] counts, in words.
    public String missed() { return misses == 1 ? "target missed" : "targets missed"; }

    /// The folder that all sources lie below; empty where there is none.
    public Path root() { return common(items.stream().map(i -> Path.of(i.source()).getParent()).filter(Objects::nonNull).toList()); }

    private static Path common(List<Path> folders) {
        Path common = folders.isEmpty() ? Path.of("") : folders.getFirst();
        for (Path folder : folders)
            while (common != null && !folder.startsWith(common))
                common = common.getParent();
        return common == null ? Path.of("") : common;
    }

    /// @param outcome `packed`; `skipped` (all outputs were there); `left` (what was there had been changed by somebody); `blocked`; `failed`; `pending` (the
    ///     run was stopped before)
    /// @param packedAt of an earlier run; absent for this one
    /// @param error why it was blocked or failed
    @JsonInclude(JsonInclude.Include.NON_ABSENT) public record Item(String source, String verdict, String outcome, Optional<String> packedAt,
            List<ChangeEntry> changes, List<Output> outputs, List<MapFile> maps, List<SidecarFile> sidecars, Optional<String> error) {
        public Item {
            maps = maps == null ? List.of() : maps;
            sidecars = sidecars == null ? List.of() : sidecars;
            packedAt = packedAt == null ? Optional.empty() : packedAt;
        }

        /// All that was written of it: files of instruments, sounds, and what lies beside them.
        public List<Written> files() { return Stream.of(maps, outputs, sidecars).<Written>flatMap(List::stream).toList(); }

        public List<Check> checks() { return files().stream().flatMap(f -> f.checks().stream()).toList(); }

        public long bytes() { return files().stream().mapToLong(Written::bytes).sum(); }

        /// What was asked for and not reached.
        public List<Check> misses() { return checks().stream().filter(Check::isMissed).toList(); }

        /// With those files of it that a test takes.
        Item with(Predicate<Written> test, String at) {
            return new Item(source, verdict, outcome, Optional.of(packedAt.orElse(at)), changes, outputs.stream().filter(test).toList(),
                    maps.stream().filter(test).toList(), sidecars.stream().filter(test).toList(), error);
        }
    }

    /// What the slip holds of any file.
    public sealed interface Written {
        String path();

        String state();

        String recipe();

        long bytes();

        long modifiedMillis();

        String xxh128();

        List<Check> checks();
    }

    /// @param path below the folder packed into
    /// @param state `written`, `replaced`, `numbered`, `updated` (its source or the options had changed), `renewed` (what was there was damaged), `skipped` or
    ///     `left`
    /// @param sampleFormat `integer` or `float`
    /// @param recipe what it was made of and how, as a checksum: a later run that would do the same need not
    /// @param modifiedMillis when the file was last changed as it was left here; since 1970
    /// @param levels where levels were set: measured before, and again of the file
    /// @param mended clicks that were filled in
    @JsonInclude(JsonInclude.Include.NON_ABSENT) public record Output(String path, String state, String recipe, long bytes, long modifiedMillis, String xxh128,
            long frames, int rateHz, int bitDepth, String sampleFormat, int channels, List<Check> checks, Optional<LevelsBeforeAfter> levels,
            Optional<List<Mended>> mended) implements Written {
        Output withPath(String other) {
            return new Output(other, state, recipe, bytes, modifiedMillis, xxh128, frames, rateHz, bitDepth, sampleFormat, channels, checks, levels, mended);
        }

        Output withState(String other) {
            return new Output(path, other, recipe, bytes, modifiedMillis, xxh128, frames, rateHz, bitDepth, sampleFormat, channels, checks, levels, mended);
        }
    }

    /// A stretch of the source that was filled in; half-open, in its frames.
    public record Mended(long startFrame, long endFrame) {}

    /// A file of instruments.
    /// @param format `sfz`, `sf2`…
    public record MapFile(String path, String state, String recipe, long bytes, long modifiedMillis, String xxh128, String format, int instruments, int zones,
            List<Check> checks) implements Written {
        MapFile withPath(String other) { return new MapFile(other, state, recipe, bytes, modifiedMillis, xxh128, format, instruments, zones, checks); }

        MapFile withState(String other) { return new MapFile(path, other, recipe, bytes, modifiedMillis, xxh128, format, instruments, zones, checks); }
    }

    /// A small file beside the sounds.
    /// @param kind `midi`, `csv`, `cue`
    /// @param entries notes, or sounds, that it tells
    public record SidecarFile(String path, String state, String recipe, long bytes, long modifiedMillis, String xxh128, String kind, int entries,
            List<Check> checks) implements Written {
        SidecarFile withPath(String other) { return new SidecarFile(other, state, recipe, bytes, modifiedMillis, xxh128, kind, entries, checks); }

        SidecarFile withState(String other) { return new SidecarFile(path, other, recipe, bytes, modifiedMillis, xxh128, kind, entries, checks); }
    }

    public record LevelsBeforeAfter(Levels before, Levels after) {}

    /// @param name of a [ablecrate.verify.Check]
    /// @param ok whether it is as expected
    /// @param outcome `held`; `missed` (the file is whole, but what was asked for was not reached); `failed` is never published
    /// @param measured the value in words, with its unit
    /// @param asked,reached in `unit`, where something was missed
    @JsonInclude(JsonInclude.Include.NON_ABSENT) public record Check(String name, boolean ok, String outcome, String measured, Optional<Double> asked,
            Optional<Double> reached, Optional<String> unit) {
        static Check of(Outcome outcome) {
            return switch (outcome) {
                case Outcome.Held(var check, String text) ->
                    new Check(check.id(), true, "held", text, Optional.empty(), Optional.empty(), Optional.empty());
                case Outcome.Missed(var check, double asked, double reached, String unit, String text) ->
                    new Check(check.id(), false, "missed", text, Optional.of(asked), Optional.of(reached), Optional.of(unit));
                case Outcome.Failed f -> new Check(f.check().id(), false, "failed", f.text(), Optional.empty(), Optional.empty(), Optional.empty());
            };
        }

        public boolean isMissed() { return outcome.equals("missed"); }
    }

    /// After files were moved or taken away.
    /// @param now where a file is now; empty where it is gone
    PackingSlip moved(Function<String, Optional<String>> now) {
        List<Item> left = items.stream()
                .map(i -> new Item(i.source, i.verdict, i.outcome, i.packedAt, i.changes,
                        i.outputs.stream().flatMap(o -> now.apply(o.path).map(o::withPath).stream()).toList(),
                        i.maps.stream().flatMap(m -> now.apply(m.path).map(m::withPath).stream()).toList(),
                        i.sidecars.stream().flatMap(f -> now.apply(f.path).map(f::withPath).stream()).toList(), i.error))
                .filter(i -> !i.files().isEmpty() || i.error.isPresent()).toList();
        return new PackingSlip(product, version, destination, destinationName, into, packedAt, seconds, status, options, totals, outcomes, misses, damaged,
                left);
    }

    /// After a file of instruments was written anew.
    PackingSlip rewritten(String path, long bytes, long modifiedMillis, String xxh128) {
        List<Item> now = items.stream().map(i -> new Item(i.source, i.verdict, i.outcome, i.packedAt, i.changes, i.outputs,
                i.maps.stream().map(m -> m.path.equals(path)
                        ? new MapFile(path, m.state, m.recipe, bytes, modifiedMillis, xxh128, m.format, m.instruments, m.zones, m.checks)
                        : m).toList(),
                i.sidecars, i.error)).toList();
        return new PackingSlip(product, version, destination, destinationName, into, packedAt, seconds, status, options, totals, outcomes, misses, damaged,
                now);
    }

    /// Those of this run alone.
    public List<Item> ofThisRun() { return items.stream().filter(i -> i.packedAt().isEmpty()).toList(); }

    /// Whether everything that was to be packed is there.
    public boolean isAllPacked() {
        return ofThisRun().stream().noneMatch(i -> i.outcome().equals("blocked") || i.outcome().equals("failed") || i.outcome().equals("pending"));
    }

    /// Whether damage was found that counts as a failure, by the options of the run.
    public boolean isDamageFailure() {
        return damaged > 0 && !"tell".equals(options.get("damage"));
    }

    public boolean isStopped() { return status.equals("stopped"); }
}
