package ablecrate.planner.place;

import ablecrate.change.CardChange;
import ablecrate.change.Change;
import ablecrate.change.Verdict;
import ablecrate.destination.CardRules;
import ablecrate.destination.DestinationSheet;
import ablecrate.plan.Card;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// The room of a card, shared out in the order of the list: bytes in whole clusters, files of a folder, depth and length of paths. What has no room is
/// blocked; a smaller line behind it may go.
public final class CardRoom {
    /// Of headers, chunks and texts beside the audio; the audio itself is exact.
    private static final long BESIDE_AUDIO = 1024;

    private final CardRules rules;
    private final Map<String, Integer> inFolder = new HashMap<>();
    private long free;

    private CardRoom(CardRules rules) {
        this.rules = rules;
        free = rules.capacityBytes();
    }

    public static List<PackingItem> shared(DestinationSheet sheet, Card card, List<PackingItem> placed) {
        if (sheet.card().equals(CardRules.NONE)) return placed;
        CardRoom room = new CardRoom(sheet.card());
        Set<String> renewed = new HashSet<>();
        placed.stream().filter(i -> i.verdict() != Verdict.BLOCKED).forEach(i -> renewed.addAll(files(i).keySet()));
        card.files().forEach((path, bytes) -> {
            if (!renewed.contains(path)) room.take(path, bytes);
        });
        List<PackingItem> out = new ArrayList<>();
        for (PackingItem item : placed) {
            Map<String, Long> files = item.verdict() == Verdict.BLOCKED || item.isNotFittedYet() ? Map.of() : files(item);
            Optional<Change> refused = room.refused(files);
            // What is not renewed stays as it is there.
            files.forEach((path, bytes) -> {
                if (refused.isEmpty())
                    room.take(path, bytes);
                else
                    if (card.files().containsKey(path)) room.take(path, card.files().get(path));
            });
            out.add(refused.map(c -> item.isInstruments() ? item.with(c, item.parts(), item.maps()) : item.with(c, List.of())).orElse(item));
        }
        return out;
    }

    /// Bytes of all files of a line, by their paths.
    private static Map<String, Long> files(PackingItem item) {
        Map<String, Long> files = new LinkedHashMap<>();
        boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
        List<PlannedOutput> outputs = item.outputs();
        if (!isBank) outputs.forEach(o -> files.put(o.path(), o.audioBytes() + BESIDE_AUDIO));
        item.maps().forEach(m -> files.put(m.path(), BESIDE_AUDIO + (isBank ? audio(m, outputs) : 0)));
        item.sidecars().forEach(s -> files.put(s.path(), BESIDE_AUDIO));
        return files;
    }

    private static long audio(PlannedMap map, List<PlannedOutput> outputs) {
        return map.instruments().stream().flatMap(i -> i.zones().stream()).mapToInt(z -> z.sample()).distinct().mapToLong(s -> outputs.get(s).audioBytes())
                .sum();
    }

    /// What a line takes of a card, in whole clusters; also one that has no room.
    public static long bytes(PackingItem item, CardRules rules) {
        return item.changes().stream().filter(CardChange.CardFull.class::isInstance).map(c -> ((CardChange.CardFull) c).bytes()).findFirst()
                .orElseGet(() -> item.verdict() == Verdict.BLOCKED ? 0 : files(item).values().stream().mapToLong(rules::taken).sum());
    }

    private void take(String path, long bytes) {
        free -= rules.taken(bytes);
        inFolder.merge(folder(path), 1, Integer::sum);
    }

    private Optional<Change> refused(Map<String, Long> files) {
        Map<String, Integer> more = new HashMap<>();
        for (Map.Entry<String, Long> file : files.entrySet()) {
            String path = file.getKey(), folder = folder(path);
            int deep = (int) path.chars().filter(c -> c == '/').count();
            if (rules.foldersDeep() > 0 && deep > rules.foldersDeep()) return Optional.of(new CardChange.TooDeep(path, deep, rules.foldersDeep()));
            if (rules.pathLength() > 0 && path.length() > rules.pathLength()) return Optional.of(new CardChange.PathTooLong(path, rules.pathLength()));
            if (rules.fileBytes() > 0 && file.getValue() > rules.fileBytes())
                return Optional.of(new CardChange.BeyondCardFile(path, file.getValue(), rules.fileBytes()));
            if (rules.filesInFolder() > 0 && inFolder.getOrDefault(folder, 0) + more.merge(folder, 1, Integer::sum) > rules.filesInFolder())
                return Optional.of(new CardChange.TooManyFiles(path, folder, rules.filesInFolder()));
        }
        long bytes = files.values().stream().mapToLong(rules::taken).sum();
        return rules.capacityBytes() > 0 && bytes > free
                ? Optional.of(new CardChange.CardFull(files.keySet().iterator().next(), bytes, Math.max(0, free), rules.capacityBytes()))
                : Optional.empty();
    }

    private static String folder(String path) { return path.substring(0, Math.max(0, path.lastIndexOf('/'))); }
}
