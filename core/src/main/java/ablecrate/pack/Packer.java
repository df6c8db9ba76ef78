package ablecrate.pack;

import ablecrate.codec.SoundFile;
import ablecrate.disk.Checksums;
import ablecrate.disk.DiskFault;
import ablecrate.disk.ForcedFile;
import ablecrate.disk.SafeFile;
import ablecrate.dsp.Levels;
import ablecrate.plan.Change;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.Verdict;
import ablecrate.signal.SoundPath;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
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
import java.util.function.Consumer;
import java.util.stream.Collectors;
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
    private Recipes recipes = new Recipes();

    /// @param progress called from the workers' threads, a few times a second
    public Packer(PackingList list, SoundPath path, int workers, StopSignal stop, Consumer<PackProgress> progress, InstantSource clock) {
        if (workers < 1) throw new IllegalArgumentException(workers + " workers");
        this.list = list;
        if (!list.isSettled()) throw new IllegalArgumentException("a list of which not all is known cannot be packed");
        this.path = path;
        this.workers = workers;
        this.stop = stop;
        this.clock = clock;
        long work = list.items().stream().flatMap(i -> i.outputs().stream()).mapToLong(o -> o.shape().frames()).sum();
        this.meter = new ProgressMeter(list.items().size(), work, progress, clock);
    }

    /// Writes into a folder, made if it is not there, and leaves the slip in it.
    /// @throws IOException if nothing can be written there at all; single items' failures are on the slip
    public PackingSlip packInto(Path into) throws IOException {
        Path root = into.toAbsolutePath().normalize();
        refuseIfTooSmall(root);
        try (PackFolder folder = new PackFolder(root)) {
            recipes = Recipes.of(root);
            return run(root, new FolderTargets(folder, list.options().existing(), sources()));
        }
    }

    /// Replaces sources by their results. Originals are first moved to a dated folder below `root`, from which [Originals] brings them back.
    /// @param root the folder that was gathered; the slip lies there
    public PackingSlip packInPlace(Path root) throws IOException {
        if (!list.destination().layout().folder().isEmpty())
            throw new IOException("'" + list.destination().id() + "' lays files out in folders of its own; pack it into a folder instead of in place");
        try (PackFolder _ = new PackFolder(root)) {
            return run(root.toAbsolutePath().normalize(), new InPlaceTargets(new Originals(root, clock.instant())));
        }
    }

    private Set<Path> sources() { return list.items().stream().map(i -> i.source().path().toAbsolutePath().normalize()).collect(Collectors.toSet()); }

    private PackingSlip run(Path root, Targets targets) throws IOException {
        long started = clock.millis();
        List<PackingSlip.Item> items = new ArrayList<>();
        // An instrument's sounds are written side by side as well, by the same workers: a pool that joins without blocking them.
        try (ForkJoinPool pool = pool(workers)) {
            List<ForkJoinTask<PackingSlip.Item>> futures = list.items().stream().map(item -> pool.submit(() -> pack(item, targets))).toList();
            for (ForkJoinTask<PackingSlip.Item> future : futures)
                items.add(future.get());
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            stop.stop();
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
        boolean stopped = items.stream().anyMatch(i -> i.outcome().equals("pending"));
        Map<String, Integer> outcomes = new TreeMap<>();
        items.forEach(i -> outcomes.merge(i.outcome(), 1, Integer::sum));
        Map<String, Integer> totals = list.totals().entrySet().stream()
                .collect(Collectors.toMap(e -> e.getKey().id(), Map.Entry::getValue, Integer::sum, java.util.LinkedHashMap::new));
        PackingSlip slip = new PackingSlip("Able Crate", list.destination().id(), list.destination().name(), root.toString(),
                clock.instant().truncatedTo(ChronoUnit.SECONDS).toString(), (clock.millis() - started) / 1000.0, stopped ? "stopped" : "complete", totals,
                outcomes, items);
        SlipFiles.write(slip, root);
        return slip;
    }

    /// Workers that wait for the disk are replaced, but not without end where it is slow.
    private static ForkJoinPool pool(int workers) {
        return new ForkJoinPool(workers, ForkJoinPool.defaultForkJoinWorkerThreadFactory, null, false, workers, 2 * workers, 1, _ -> true, 1, TimeUnit.SECONDS);
    }

    private PackingSlip.Item pack(PackingItem item, Targets targets) {
        if (item.verdict() == Verdict.BLOCKED) {
            meter.itemDone();
            return slipItem(item, "blocked", List.of(), List.of(), Optional.of(item.reason()));
        }
        if (stop.isStopped()) return slipItem(item, "pending", List.of(), List.of(), Optional.empty());
        meter.working(item.source().fileName());
        List<Written> written = new ArrayList<>();
        List<PackingSlip.MapFile> maps = new ArrayList<>();
        try {
            boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
            if (!isBank) writeAll(item, targets, written);
            if (written.stream().anyMatch(w -> w.part().isPresent())) targets.beforePublishing(item, written.stream().map(w -> w.target().path()).toList());
            for (Written w : written)
                if (w.part().isPresent()) SafeFile.publish(w.part().get(), w.target().path());
            // A map comes after its sounds, so that it can be read again with them.
            for (PlannedMap map : item.maps())
                maps.add(write(map, item.outputs(), written.stream().map(w -> w.target().shownPath()).toList(), targets.targetFor(map)));
            boolean skipped = written.stream().allMatch(w -> w.part().isEmpty()) && maps.stream().allMatch(m -> m.state().equals("skipped"));
            return slipItem(item, skipped ? "skipped" : "packed", written.stream().map(Written::line).toList(), maps, Optional.empty());
        } catch (StopSignal.StoppedException e) {
            return slipItem(item, "pending", List.of(), List.of(), Optional.empty());
        } catch (ItemFault e) {
            return slipItem(item, "failed", List.of(), List.of(), Optional.of(e.getMessage()));
        } catch (IOException e) {
            return slipItem(item, "failed", List.of(), List.of(), Optional.of(DiskFault.text(e)));
        } catch (RuntimeException e) {
            // A fault of ours in one item: it is told and logged, and the rest goes on.
            LoggerFactory.getLogger(Packer.class).error("packing {}", item.source().path(), e);
            return slipItem(item, "failed", List.of(), List.of(), Optional.of("a fault in Able Crate itself (" + e + "); the log has more"));
        } finally {
            written.forEach(w -> w.part().ifPresent(DiskFault::deleteQuietly));
            meter.itemDone();
        }
    }

    /// @param written gets what was written, also where something fails
    private void writeAll(PackingItem item, Targets targets, List<Written> written) throws IOException, StopSignal.StoppedException, ItemFault {
        List<SideBySide.Part<Written>> parts = new ArrayList<>();
        for (PlannedOutput output : item.outputs()) {
            Targets.Target target = targets.targetFor(item, output);
            parts.add(() -> write(output, target));
        }
        SideBySide.all(parts, written::add);
    }

    /// @param part the verified file under its temporary name; absent where one was there already
    private record Written(Targets.Target target, Optional<Path> part, PackingSlip.Output line) {}

    private Written write(PlannedOutput output, Targets.Target target) throws IOException, StopSignal.StoppedException, ItemFault {
        SoundFile source = output.source();
        String recipe = Recipes.of(source, output);
        boolean isThere = target.state().equals("skipped");
        if (isThere) {
            List<PackingSlip.Check> checks = OutputVerifier.shapeAndFacts(target.path(), output);
            if (OutputVerifier.failure(checks).isPresent()) throw isAnother(target, checks.getFirst().measured());
            if (recipes.isMade(target.shownPath(), target.path(), recipe) || output.isVerbatim() && Files.mismatch(source.path(), target.path()) < 0) {
                meter.framesDone(output.shape().frames());
                return new Written(target, Optional.empty(),
                        line(target, output, recipe, target.path(), Checksums.xxh128Hex(target.path()), checks, Optional.empty()));
            }
        }
        Files.createDirectories(target.path().getParent());
        Path part = SafeFile.partOf(target.path()), spool = SafeFile.partOf(target.path().resolveSibling(target.path().getFileName() + " spool"));
        boolean isWhole = false;
        try {
            SoundWriter.Written done;
            Checksums out;
            try (ForcedFile file = new ForcedFile(part)) {
                out = new Checksums(new BufferedOutputStream(file, 1 << 16));
                done = new SoundWriter(path, stop, meter::framesDone).write(output, spool, out);
                out.flush();
                file.force();
            }
            String xxh128 = out.xxh128Hex();
            List<PackingSlip.Check> checks = new ArrayList<>(OutputVerifier.checks(part, output, out.crc32c(), done));
            Optional<String> failure = OutputVerifier.failure(checks);
            if (failure.isPresent()) throw new ItemFault("what was written does not read back as planned: " + failure.get());
            if (isThere) {
                // Nothing tells how it was made: it is the same if making it again gives the same.
                if (Files.mismatch(part, target.path()) >= 0) throw isAnother(target, "the same shape, but other samples");
                return new Written(target, Optional.empty(), line(target, output, recipe, target.path(), xxh128, checks, done.levels()));
            }
            if (output.isVerbatim()) checks.add(new PackingSlip.Check("sameAsSource", Files.mismatch(part, source.path()) < 0, "bit for bit"));
            isWhole = true;
            return new Written(target, Optional.of(part), line(target, output, recipe, part, xxh128, checks, done.levels()));
        } finally {
            DiskFault.deleteQuietly(spool);
            if (!isWhole) DiskFault.deleteQuietly(part);
        }
    }

    private PackingSlip.MapFile write(PlannedMap map, List<PlannedOutput> outputs, List<String> sounds, Targets.Target target)
            throws IOException, StopSignal.StoppedException, ItemFault {
        String recipe = Recipes.of(map, outputs);
        boolean isThere = target.state().equals("skipped");
        if (isThere && recipes.isMade(target.shownPath(), target.path(), recipe)) {
            if (map.holdsSounds()) outputs.forEach(o -> meter.framesDone(o.shape().frames()));
            return line(target, map, recipe, target.path(), Checksums.xxh128Hex(target.path()), List.of());
        }
        Files.createDirectories(target.path().getParent());
        Path part = SafeFile.partOf(target.path()), spool = SafeFile.partOf(target.path().resolveSibling(target.path().getFileName() + " sounds"));
        try {
            Checksums out;
            try (ForcedFile file = new ForcedFile(part)) {
                out = new Checksums(new BufferedOutputStream(file, 1 << 16));
                new MapWriter(path, stop, meter::framesDone).write(map, outputs, sounds, spool, out);
                out.flush();
                file.force();
            }
            String xxh128 = out.xxh128Hex();
            List<PackingSlip.Check> checks = MapVerifier.checks(part, map, outputs, out.crc32c());
            Optional<String> failure = OutputVerifier.failure(checks);
            if (failure.isPresent()) throw new ItemFault("what was written does not read back as planned: " + failure.get());
            if (isThere && Files.mismatch(part, target.path()) >= 0) throw isAnother(target, "other instruments");
            if (!isThere) SafeFile.publish(part, target.path());
            return line(target, map, recipe, target.path(), xxh128, checks);
        } finally {
            DiskFault.deleteQuietly(part);
        }
    }

    private static PackingSlip.MapFile line(Targets.Target target, PlannedMap map, String recipe, Path file, String xxh128, List<PackingSlip.Check> checks)
            throws IOException {
        return new PackingSlip.MapFile(target.shownPath(), target.state(), recipe, Files.size(file), xxh128, map.formatId(), map.instruments().size(),
                map.instruments().stream().mapToInt(i -> i.zones().size()).sum(), checks);
    }

    private static ItemFault isAnother(Targets.Target target, String found) {
        return new ItemFault("a different file named " + target.path().getFileName() + " is there (" + found
                + "); choose to replace it, or to number the new one");
    }

    private static PackingSlip.Output line(Targets.Target target, PlannedOutput output, String recipe, Path file, String xxh128, List<PackingSlip.Check> checks,
            Optional<Levels> after)
            throws IOException {
        return new PackingSlip.Output(target.shownPath(), target.state(), recipe, Files.size(file), xxh128, output.shape().frames(), output.shape().rateHz(),
                output.shape().depth().bits(), output.shape().depth().isFloat() ? "float" : "integer", output.shape().channels(), checks,
                after.map(a -> new PackingSlip.LevelsBeforeAfter(output.levels().orElseThrow().rounded(), a.rounded())),
                output.front().mends().isEmpty()
                        ? Optional.empty()
                        : Optional.of(output.front().mends().stream().map(m -> new PackingSlip.Mended(m.start(), m.end())).toList()));
    }

    private static PackingSlip.Item slipItem(PackingItem item, String outcome, List<PackingSlip.Output> outputs, List<PackingSlip.MapFile> maps,
            Optional<String> error) {
        List<PackingSlip.SlipChange> changes = item.changes().stream().map(Packer::slipChange).toList();
        return new PackingSlip.Item(item.source().path().toString(), item.verdict().id(), outcome, changes, outputs, maps, error);
    }

    private static PackingSlip.SlipChange slipChange(Change c) {
        return new PackingSlip.SlipChange(c.property().id(), c.before(), c.after(), c.verdict().id(), c.reason());
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

    /// An item cannot be packed, for a reason that is no disk's fault.
    static final class ItemFault extends Exception {
        private static final long serialVersionUID = 1;

        ItemFault(String message) { super(message); }
    }
}
