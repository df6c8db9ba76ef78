package ablecrate.pack;

import ablecrate.change.Verdict;
import ablecrate.codec.SoundFile;
import ablecrate.disk.DiskFault;
import ablecrate.job.Jobs;
import ablecrate.json.Product;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// One packing list on its way into its folder, which it holds until it is closed.
final class ListPacker implements AutoCloseable {
    private final PackingList list;
    private final Path root;
    private final PackFolder folder;
    private final Targets targets;
    private final PackedBefore before;
    private final Optional<SessionWriter> session;

    private ListPacker(PackingList list, PackFolder folder, Path root, Targets targets, PackedBefore before, Optional<SessionWriter> session) {
        this.list = list;
        this.root = root;
        this.folder = folder;
        this.targets = targets;
        this.before = before;
        this.session = session;
    }

    /// @param root a folder of results
    static ListPacker into(PackingList list, Path root, Instant now) throws IOException {
        PackFolder folder = new PackFolder(root);
        try {
            Optional<SessionWriter> session = list.session().map(s -> new SessionWriter(s, root, now));
            return new ListPacker(list, folder, root,
                    new FolderTargets(folder, list.options().existing(), new WriteGuard(root, sources(list)), session.map(SessionWriter::originals)),
                    PackedBefore.of(root), session);
        } catch (IOException | RuntimeException e) {
            folder.close();
            throw e;
        }
    }

    /// @param root the folder that was gathered
    static ListPacker inPlace(PackingList list, Path root, Instant now) throws IOException {
        return new ListPacker(list, new PackFolder(root), root.toAbsolutePath().normalize(), new InPlaceTargets(new Originals(root, now)),
                PackedBefore.nothing(), Optional.empty());
    }

    PackingList list() { return list; }

    /// All files that are read: those of the lines, and those that instruments play.
    private static Set<Path> sources(PackingList list) {
        return list.items().stream()
                .flatMap(i -> Stream.concat(Stream.of(i.source().path()), i.outputs().stream().flatMap(o -> o.source().files().stream()).map(SoundFile::path)))
                .map(p -> p.toAbsolutePath().normalize()).collect(Collectors.toSet());
    }

    /// One line; what goes wrong with it is told on its own line of the slip.
    PackingSlip.Item pack(PackingItem item, SoundPath path, StopSignal stop, ProgressMeter meter) {
        if (item.verdict() == Verdict.BLOCKED) {
            meter.itemDone();
            return SlipLines.without(item, "blocked", Optional.of(item.reason()));
        }
        if (stop.isStopped()) return SlipLines.without(item, "pending", Optional.empty());
        meter.working(item.source().fileName());
        ResultWriter writer = new ResultWriter(folder, list.options(), before, path, stop, meter);
        List<ResultWriter.Written> written = new ArrayList<>();
        List<ResultWriter.WrittenMap> maps = new ArrayList<>();
        List<ResultWriter.WrittenSidecar> sidecars = new ArrayList<>();
        try {
            boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
            if (!isBank) writeAll(writer, item, written);
            // Sounds and maps lie verified under temporary names before any of them is published: a map that fails takes its sounds with it.
            for (PlannedMap map : item.maps())
                maps.add(writer.write(map, item.outputs(), written, targets.targetFor(map)));
            for (PlannedSidecar sidecar : item.sidecars())
                sidecars.add(writer.write(sidecar, item.outputs(), written, targets.targetFor(sidecar)));
            if (written.stream().anyMatch(w -> w.part().isPresent()))
                targets.beforePublishing(item,
                        written.stream().filter(w -> w.part().isPresent()).map(w -> new Originals.Result(w.target().path(), w.line().xxh128())).toList());
            for (ResultWriter.Made made : made(written, maps, sidecars))
                made.publish();
            return SlipLines.whole(item, written.stream().map(ResultWriter.Written::line).toList(), maps.stream().map(ResultWriter.WrittenMap::line).toList(),
                    sidecars.stream().map(ResultWriter.WrittenSidecar::line).toList(), before.changes(item.source().path()),
                    Stream.concat(written.stream().flatMap(w -> w.settled().stream()), maps.stream().flatMap(m -> m.settled().stream())).toList());
        } catch (StopSignal.StoppedException e) {
            return SlipLines.without(item, "pending", Optional.empty());
        } catch (ItemFault e) {
            return SlipLines.without(item, "failed", Optional.of(e.getMessage()));
        } catch (IOException e) {
            return SlipLines.without(item, "failed", Optional.of(folder.isThere() ? DiskFault.text(e) : folder.gone()));
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError | AssertionError e) {
            // A fault of ours in one item: it is told and logged, and the rest goes on.
            LoggerFactory.getLogger(Packer.class).error("packing {}", item.source().path(), e);
            return SlipLines.without(item, "failed", Optional.of("a fault in Able Crate itself (" + e + "); the log has more"));
        } finally {
            made(written, maps, sidecars).forEach(m -> m.part().ifPresent(DiskFault::deleteQuietly));
            meter.itemDone();
        }
    }

    /// @param written gets what was written, also where something fails
    private void writeAll(ResultWriter writer, PackingItem item, List<ResultWriter.Written> written)
            throws IOException, StopSignal.StoppedException, ItemFault {
        List<SideBySide.Part<ResultWriter.Written>> parts = new ArrayList<>();
        for (PlannedOutput output : item.outputs()) {
            Targets.Target target = targets.targetFor(item, output);
            parts.add(() -> writer.write(output, target));
        }
        SideBySide.all(parts, written::add);
    }

    private static List<ResultWriter.Made> made(List<ResultWriter.Written> sounds, List<ResultWriter.WrittenMap> maps,
            List<ResultWriter.WrittenSidecar> sidecars) {
        return Stream.of(sounds, maps, sidecars).<ResultWriter.Made>flatMap(List::stream).toList();
    }

    /// @param items what became of the list's lines, in its order
    PackingSlip slip(List<PackingSlip.Item> items, double seconds, Instant now) throws IOException {
        boolean stopped = items.stream().anyMatch(i -> i.outcome().equals("pending"));
        Map<String, Integer> outcomes = new TreeMap<>();
        items.forEach(i -> outcomes.merge(i.outcome(), 1, Integer::sum));
        Map<String, Integer> totals = list.totals().entrySet().stream()
                .collect(Collectors.toMap(e -> e.getKey().id(), Map.Entry::getValue, Integer::sum, LinkedHashMap::new));
        int misses = items.stream().mapToInt(i -> i.misses().size()).sum(), damaged = (int) list.items().stream().filter(PackingItem::isDamaged).count();
        List<PackingSlip.Item> all = new ArrayList<>(items);
        all.addAll(EarlierItems.of(before.slip(), items, root));
        return new PackingSlip(Product.NAME, Product.VERSION, list.destination().id(), list.destination().name(), root.toString(),
                now.truncatedTo(ChronoUnit.SECONDS).toString(), seconds, stopped ? "stopped" : "complete",
                Jobs.keys(list.options(), list.destination().id()), totals, outcomes, misses, damaged, all);
    }

    /// Leaves the slip in the folder, and what was packed in the document of its session.
    /// @param along slips of the same run that its page tells of as well
    void leave(PackingSlip slip, List<PackingSlip> along) throws IOException {
        folder.requireThere();
        if (session.isPresent())
            session.get().write(list, slip, along);
        else
            SlipFiles.write(slip, along, root);
    }

    /// What it takes that is not there yet; the sounds of a bank are there if the bank is.
    static long neededBytes(PackingList list, Path root) {
        return list.items().stream().mapToLong(item -> {
            boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
            if (isBank && item.maps().stream().allMatch(m -> Files.exists(root.resolve(m.path())))) return 0;
            return item.outputs().stream().filter(o -> isBank || !Files.exists(root.resolve(o.path()))).mapToLong(PlannedOutput::audioBytes).sum();
        }).sum();
    }

    @Override public void close() throws IOException { folder.close(); }
}
