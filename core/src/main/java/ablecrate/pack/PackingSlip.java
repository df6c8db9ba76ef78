package ablecrate.pack;

import ablecrate.dsp.Levels;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// The record of a run: what was written, checked and measured, and what was not written and why.
/// The JSON file has these keys; they are stable.
/// @param status `complete`, or `stopped` where the user ended it
/// @param totals items by verdict, as in the packing list
/// @param outcomes items by what became of them: `packed`, `skipped`, `blocked`, `failed`, `pending`
@JsonInclude(JsonInclude.Include.NON_ABSENT) public record PackingSlip(String product, String destination, String destinationName, String into, String packedAt,
        double seconds, String status,
        Map<String, Integer> totals, Map<String, Integer> outcomes, List<Item> items) {

    /// @param outcome `packed`; `skipped` (all outputs were there); `blocked`; `failed`; `pending` (the run was stopped before)
    /// @param error why it was blocked or failed
    @JsonInclude(JsonInclude.Include.NON_ABSENT) public record Item(String source, String verdict, String outcome, List<SlipChange> changes,
            List<Output> outputs, List<MapFile> maps, Optional<String> error) {
        public Item {
            maps = maps == null ? List.of() : maps;
        }
    }

    public record SlipChange(String property, String before, String after, String verdict, String reason) {}

    /// @param path below the folder packed into
    /// @param state `written`, `replaced`, `numbered` or `skipped`
    /// @param sampleFormat `integer` or `float`
    /// @param recipe what it was made of and how, as a checksum: a later run that would do the same need not
    /// @param levels where levels were set: measured before, and again of what was written
    /// @param mended clicks that were filled in
    @JsonInclude(JsonInclude.Include.NON_ABSENT) public record Output(String path, String state, String recipe, long bytes, String xxh128, long frames,
            int rateHz,
            int bitDepth, String sampleFormat, int channels,
            List<Check> checks, Optional<LevelsBeforeAfter> levels, Optional<List<Mended>> mended) {}

    /// A stretch of the source that was filled in; half-open, in its frames.
    public record Mended(long startFrame, long endFrame) {}

    /// A file of instruments.
    /// @param format `sfz`, `sf2`…
    public record MapFile(String path, String state, String recipe, long bytes, String xxh128, String format, int instruments, int zones, List<Check> checks) {}

    public record LevelsBeforeAfter(Levels before, Levels after) {}

    /// @param measured the value in words, with its unit
    public record Check(String name, boolean ok, String measured) {}

    /// Whether everything that was to be packed is there.
    public boolean isAllPacked() { return items.stream().allMatch(i -> i.outcome().equals("packed") || i.outcome().equals("skipped")); }

    public boolean isStopped() { return status.equals("stopped"); }
}
