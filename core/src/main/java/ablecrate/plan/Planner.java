package ablecrate.plan;

import ablecrate.codec.ChunkRole;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.destination.DestinationSheet;
import ablecrate.library.Gathered;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/// Makes packing lists. Reads no audio and writes nothing: what has to be listened to is asked for, and taken from what was measured.
/// The same input gives the same list.
public final class Planner {
    private final DestinationSheet sheet;
    private final PackOptions options;
    private final Map<Path, ItemEdit> edits;
    private final Accepted accepted;
    private final Function<Measurement.Request, Optional<Measurement>> measured;

    private Planner(DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured)
            throws OptionConflict {
        this.sheet = sheet;
        this.options = options;
        this.edits = edits;
        this.measured = measured;
        this.accepted = new Accepted(sheet, options);
    }

    /// @param edits what is wanted otherwise for single files
    /// @param measured what was listened to; empty for what was not
    /// @throws OptionConflict if an option asks for what the destination does not accept, or the name pattern is none
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits,
            Function<Measurement.Request, Optional<Measurement>> measured) throws OptionConflict {
        Planner planner = new Planner(sheet, options, edits, measured);
        return new PackingList(sheet, options, new Placement(sheet, options).place(planner.items(gathered)));
    }

    /// From headers alone, all sounds alike.
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options) throws OptionConflict {
        return plan(gathered, sheet, options, Map.of(), _ -> Optional.empty());
    }

    private List<PackingItem> items(List<Gathered> gathered) {
        List<Optional<SoundPlan>> sounds = gathered.stream().map(g -> g.sound().filter(f -> f.frames() > 0).map(f -> sound(g, f))).toList();
        Leveling leveling = new Leveling(options.treatment(),
                sounds.stream().flatMap(Optional::stream).filter(SoundPlan::setsLevels).map(SoundPlan::toLevel).toList());
        List<PackingItem> items = new ArrayList<>();
        for (int i = 0; i < gathered.size(); i++) {
            Gathered g = gathered.get(i);
            items.add(sounds.get(i).map(s -> s.item(leveling)).orElseGet(() -> refused(g)));
        }
        return items;
    }

    private SoundPlan sound(Gathered gathered, SoundFile file) {
        return new SoundPlan(gathered, file, accepted, sheet, options, edits.getOrDefault(gathered.path(), ItemEdit.NONE), measured);
    }

    private static PackingItem refused(Gathered gathered) {
        return switch (gathered.content()) {
            case Gathered.Content.Unread() -> blocked(gathered, "not read yet", "its headers are being read");
            case Gathered.Content.Refused(_, String name, String reason) -> blocked(gathered, name, reason);
            case Gathered.Content.Sound(SoundFile file) -> blocked(gathered, file.container(), "the sound is empty: it has no frames");
        };
    }

    private static PackingItem blocked(Gathered gathered, String kind, String reason) {
        return PackingItem.of(gathered, List.of(new Change(Property.KIND, kind, "–", Verdict.BLOCKED, reason)), List.of(), List.of(), true);
    }

    static String channelName(int channels) { return channels == 1 ? "mono" : channels == 2 ? "stereo" : channels + " channels"; }

    /// Whether a chunk of the source goes into an output of the same format.
    public static boolean carries(SoundFormat format, String chunkId, boolean audioChanges) {
        return format.role(chunkId) != ChunkRole.UNKNOWN || !audioChanges;
    }
}
