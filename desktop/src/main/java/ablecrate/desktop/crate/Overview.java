package ablecrate.desktop.crate;

import ablecrate.change.FileChange;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/// A packing list with what is told of all of its lines together. Made where the list is planned, as to go through a hundred thousand lines takes longer than a picture may.
public final class Overview {
    /// Sounds whose names come out otherwise than the pattern has them, in one way.
    public record Renamed(int count, Optional<FileChange.Named> first) {
        private static Renamed of(List<FileChange.Named> names, Predicate<FileChange.Named> which) {
            int count = 0;
            FileChange.Named first = null;
            for (FileChange.Named named : names)
                if (which.test(named)) {
                    if (first == null) first = named;
                    count++;
                }
            return new Renamed(count, Optional.ofNullable(first));
        }
    }

    /// What the sounds that go will be called.
    /// @param first of all of them
    public record Names(int count, Optional<FileChange.Named> first, Renamed numbered, Renamed cut, Renamed respelt) {
        private static Names of(PackingList list) {
            List<FileChange.Named> names = new ArrayList<>();
            for (PackingItem item : list.items())
                if (!item.outputs().isEmpty() && item.change(Property.NAME).orElse(null) instanceof FileChange.Named named) names.add(named);
            return new Names(names.size(), names.stream().findFirst(), Renamed.of(names, FileChange.Named::isNumbered),
                    Renamed.of(names, FileChange.Named::isCut), Renamed.of(names, FileChange.Named::isRespelt));
        }
    }

    private final PackingList list;
    private final boolean isSettled, isLossy;
    private final long audioBytes;
    private final List<Measurement.Request> wanted;
    private final Map<Verdict, Integer> totals;
    private final Map<Property, PackingList.Touched> touched;
    private final Names names;
    private final List<FolderTree> folders;
    private final Map<Path, PackingItem> lines = new HashMap<>();

    public Overview(PackingList list) {
        this.list = list;
        isSettled = list.isSettled();
        isLossy = list.items().stream().flatMap(i -> i.outputs().stream()).anyMatch(Overview::losesByCoding);
        audioBytes = list.audioBytes();
        wanted = list.wanted();
        totals = list.totals();
        touched = list.touched();
        names = Names.of(list);
        folders = FolderTree.of(list.items());
        list.items().forEach(i -> lines.putIfAbsent(i.source().path(), i));
    }

    public PackingList list() { return list; }

    /// Whether all outputs are known.
    public boolean isSettled() { return isSettled; }

    /// Whether a sound that was not is coded with loss.
    public boolean isLossy() { return isLossy; }

    private static boolean losesByCoding(PlannedOutput output) { return output.isLossy() && !output.isVerbatim() && !output.source().isLossy(); }

    /// Bytes of audio that would be written, headers aside.
    public long audioBytes() { return audioBytes; }

    /// What has to be listened to before all of the list is known.
    public List<Measurement.Request> wanted() { return wanted; }

    /// How many lines have each verdict; all verdicts are there.
    public Map<Verdict, Integer> totals() { return totals; }

    /// How many lines are packed.
    public int going() { return list.items().size() - totals.get(Verdict.BLOCKED); }

    public Map<Property, PackingList.Touched> touched() { return touched; }

    public Names names() { return names; }

    /// The folders of the gathering that have lines.
    public List<FolderTree> folders() { return folders; }

    /// The line of a file; of several, the first.
    public Optional<PackingItem> line(Path file) { return Optional.ofNullable(lines.get(file)); }
}
