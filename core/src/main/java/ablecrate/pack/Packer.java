package ablecrate.pack;

import ablecrate.codec.SoundFile;
import ablecrate.change.Verdict;
import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
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
import java.time.InstantSource;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// Carries a packing list out, items side by side. One item's failure never stops the others; the files do not depend
/// on the number of workers. One run per instance.
public final class Packer {
    public static final String SLIP_JSON = "packing-slip.json", SLIP_HTML = "packing-slip.html";

    private final PackingList list;
    private final int workers;
    private final StopSignal stop;
    private final InstantSource clock;
    private final SoundPath path;
    private final ProgressMeter meter;
    private final PackListener listener;
    private PackedBefore before = PackedBefore.nothing();

    public Packer(PackingList list, SoundPath path, int workers, StopSignal stop, PackListener listener, InstantSource clock) {
        if (workers < 1) throw new IllegalArgumentException(workers + " workers");
        this.list = list;
        if (!list.isSettled()) throw new IllegalArgumentException("a list of which not all is known cannot be packed");
        this.path = path;
        this.workers = workers;
        this.stop = stop;
        this.clock = clock;
        this.listener = listener;
        long work = list.items().stream().flatMap(i -> i.outputs().stream()).mapToLong(o -> o.shape().frames()).sum();
        this.meter = new ProgressMeter(list.items().size(), work, listener::progress, clock);
    }

    /// Writes into a folder, made if it is not there, and leaves the slip in it.
    /// @throws IOException if nothing can be written there at all; single items' failures are on the slip
    public PackingSlip packInto(Path into) throws IOException {
        Path root = into.toAbsolutePath().normalize();
        refuseIfTooSmall(root);
        try (PackFolder folder = new PackFolder(root)) {
            before = PackedBefore.of(root);
            Optional<SessionWriter> session = list.session().map(s -> new SessionWriter(s, root, clock.instant()));
            return run(root, new FolderTargets(folder, list.options().existing(), new WriteGuard(root, sources()), session.map(SessionWriter::originals)),
                    session);
        }
    }

    /// Replaces sources by their results. Originals are first moved to a dated folder below `root`, from which [Originals] brings them back.
    /// @param root the folder that was gathered; the slip lies there
    public PackingSlip packInPlace(Path root) throws IOException {
        if (!list.destination().layout().folder().isEmpty())
            throw new IOException("'" + list.destination().id() + "' lays files out in folders of its own; pack it into a folder instead of in place");
        if (list.options().placing().joining().isWanted())
            throw new IOException("sounds that are joined take the place of none; pack them into a folder instead of in place");
        try (PackFolder _ = new PackFolder(root)) {
            return run(root.toAbsolutePath().normalize(), new InPlaceTargets(new Originals(root, clock.instant())), Optional.empty());
        }
    }

    /// All files that are read: those of the lines, and those that instruments play.
    private Set<Path> sources() {
        return list.items().stream()
                .flatMap(i -> Stream.concat(Stream.of(i.source().path()), i.outputs().stream().flatMap(o -> o.source().files().stream()).map(SoundFile::path)))
                .map(p -> p.toAbsolutePath().normalize()).collect(Collectors.toSet());
    }

    private PackingSlip run(Path root, Targets targets, Optional<SessionWriter> session) throws IOException {
        long started = clock.millis();
        List<PackingSlip.Item> items = new ArrayList<>();
        // An instrument's sounds are written side by side as well, by the same workers: a pool that joins without blocking them.
        try (ForkJoinPool pool = pool(workers)) {
            List<ForkJoinTask<PackingSlip.Item>> futures = list.items().stream().map(item -> pool.submit(() -> told(pack(item, targets)))).toList();
            for (ForkJoinTask<PackingSlip.Item> future : futures)
                items.add(future.get());
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            stop.stop();
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
        PackingSlip slip = slip(items, root, (clock.millis() - started) / 1000.0);
        if (session.isPresent())
            session.get().write(list, slip);
        else
            SlipFiles.write(slip, root);
        return slip;
    }

    private PackingSlip.Item told(PackingSlip.Item done) {
        listener.done(done);
        return done;
    }

    private PackingSlip slip(List<PackingSlip.Item> items, Path root, double seconds) throws IOException {
        boolean stopped = items.stream().anyMatch(i -> i.outcome().equals("pending"));
        Map<String, Integer> outcomes = new TreeMap<>();
        items.forEach(i -> outcomes.merge(i.outcome(), 1, Integer::sum));
        Map<String, Integer> totals = list.totals().entrySet().stream()
                .collect(Collectors.toMap(e -> e.getKey().id(), Map.Entry::getValue, Integer::sum, LinkedHashMap::new));
        int misses = items.stream().mapToInt(i -> i.misses().size()).sum(), damaged = (int) list.items().stream().filter(PackingItem::isDamaged).count();
        List<PackingSlip.Item> all = new ArrayList<>(items);
        all.addAll(EarlierItems.of(before.slip(), items, root));
        return new PackingSlip(Product.NAME, Product.VERSION, list.destination().id(), list.destination().name(), root.toString(),
                clock.instant().truncatedTo(ChronoUnit.SECONDS).toString(), seconds, stopped ? "stopped" : "complete",
                Jobs.keys(list.options(), list.destination().id()), totals, outcomes, misses, damaged, all);
    }

    /// Workers that wait for the disk are replaced, but not without end where it is slow.
    private static ForkJoinPool pool(int workers) {
        return new ForkJoinPool(workers, ForkJoinPool.defaultForkJoinWorkerThreadFactory, null, false, workers, 2 * workers, 1, _ -> true, 1, TimeUnit.SECONDS);
    }

    private PackingSlip.Item pack(PackingItem item, Targets targets) {
        if (item.verdict() == Verdict.BLOCKED) {
            meter.itemDone();
            return SlipLines.without(item, "blocked", Optional.of(item.reason()));
        }
        if (stop.isStopped()) return SlipLines.without(item, "pending", Optional.empty());
        meter.working(item.source().fileName());
        ResultWriter writer = new ResultWriter(list.options(), before, path, stop, meter);
        List<ResultWriter.Written> written = new ArrayList<>();
        List<ResultWriter.WrittenMap> maps = new ArrayList<>();
        List<ResultWriter.WrittenSidecar> sidecars = new ArrayList<>();
        try {
            boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
            if (!isBank) writeAll(writer, item, targets, written);
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
            return SlipLines.without(item, "failed", Optional.of(DiskFault.text(e)));
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
    private static void writeAll(ResultWriter writer, PackingItem item, Targets targets, List<ResultWriter.Written> written)
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

    private void refuseIfTooSmall(Path root) throws IOException {
        Path existing = root;
        while (existing != null && !Files.exists(existing))
            existing = existing.getParent();
        if (existing == null) return;
        long free = Files.getFileStore(existing).getUsableSpace();
        long needed = list.items().stream().mapToLong(i -> needed(i, root)).sum();
        if (needed > free)
            throw new IOException(String.format(Locale.ROOT, "%s has %,d MB free, packing needs %,d MB; make room or choose another folder", existing,
                    free >> 20, needed >> 20));
    }

    /// What an item takes that is not there yet; the sounds of a bank are there if the bank is.
    private static long needed(PackingItem item, Path root) {
        boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
        if (isBank && item.maps().stream().allMatch(m -> Files.exists(root.resolve(m.path())))) return 0;
        return item.outputs().stream().filter(o -> isBank || !Files.exists(root.resolve(o.path()))).mapToLong(PlannedOutput::audioBytes).sum();
    }
}
