package ablecrate.pack;

import ablecrate.codec.SoundFile;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SharedDecoding;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;
import java.util.concurrent.TimeUnit;

/// Carries packing lists out, each into its folder, their lines side by side. One line's failure never stops the others; the files do not depend
/// on the number of workers. One run per instance.
///
/// What is made of a sound for several destinations is made together: its file is read while it is at hand, and decoded once.
public final class Packer {
    public static final String SLIP_JSON = "packing-slip.json", SLIP_HTML = "packing-slip.html";

    private final List<PackingList> lists;
    private final int workers;
    private final StopSignal stop;
    private final InstantSource clock;
    private final SoundPath path;
    private final ProgressMeter meter;
    private final PackListener listener;

    public Packer(PackingList list, SoundPath path, int workers, StopSignal stop, PackListener listener, InstantSource clock) {
        this(List.of(list), path, workers, stop, listener, clock);
    }

    /// @param lists one for each destination
    public Packer(List<PackingList> lists, SoundPath path, int workers, StopSignal stop, PackListener listener, InstantSource clock) {
        if (workers < 1) throw new IllegalArgumentException(workers + " workers");
        if (!lists.stream().allMatch(PackingList::isSettled)) throw new IllegalArgumentException("a list of which not all is known cannot be packed");
        this.lists = List.copyOf(lists);
        this.path = path;
        this.workers = workers;
        this.stop = stop;
        this.clock = clock;
        this.listener = listener;
        List<PackingItem> items = lists.stream().flatMap(l -> l.items().stream()).toList();
        long work = items.stream().flatMap(i -> i.outputs().stream()).mapToLong(o -> o.shape().frames()).sum();
        this.meter = new ProgressMeter(items.size(), work, listener::progress, clock);
    }

    /// Writes the one list into a folder, see [#packInto(List)].
    public PackingSlip packInto(Path into) throws IOException { return packInto(List.of(into)).getFirst(); }

    /// Writes each list into its folder, made if it is not there, and leaves a slip in each. The page in the first one tells of all.
    /// @param folders of the lists, in their order
    /// @return their slips, in their order
    /// @throws IOException if nothing can be written there at all; single items' failures are on the slip
    public List<PackingSlip> packInto(List<Path> folders) throws IOException {
        List<Path> roots = folders.stream().map(f -> f.toAbsolutePath().normalize()).toList();
        refuseIfWithin(roots);
        refuseIfTooSmall(roots);
        List<ListPacker> packers = new ArrayList<>();
        try {
            for (int i = 0; i < lists.size(); i++)
                packers.add(ListPacker.into(lists.get(i), roots.get(i), clock.instant()));
            return run(packers);
        } finally {
            for (ListPacker packer : packers)
                packer.close();
        }
    }

    /// Replaces sources by their results. Originals are first moved to a dated folder below `root`, from which [Originals] brings them back.
    /// @param root the folder that was gathered; the slip lies there
    public PackingSlip packInPlace(Path root) throws IOException {
        PackingList list = lists.getFirst();
        if (lists.size() > 1) throw new IOException("sources cannot be replaced by what is made for several destinations; pack each into a folder");
        if (!list.destination().layout().folder().isEmpty())
            throw new IOException("'" + list.destination().id() + "' lays files out in folders of its own; pack it into a folder instead of in place");
        if (list.options().placing().joining().isWanted())
            throw new IOException("sounds that are joined take the place of none; pack them into a folder instead of in place");
        try (ListPacker packer = ListPacker.inPlace(list, root, clock.instant())) {
            return run(List.of(packer)).getFirst();
        }
    }

    /// A line, and the list that it is one of.
    private record Line(int list, int at, PackingItem item) {}

    private List<PackingSlip> run(List<ListPacker> packers) throws IOException {
        long started = clock.millis();
        List<PackingSlip.Item[]> done = packers.stream().map(p -> new PackingSlip.Item[p.list().items().size()]).toList();
        // An instrument's sounds are written side by side as well, by the same workers: a pool that joins without blocking them.
        try (SharedDecoding shared = new SharedDecoding(sources()); ForkJoinPool pool = pool(workers)) {
            SoundPath decoding = path.decoding(shared);
            List<ForkJoinTask<?>> tasks = new ArrayList<>();
            for (Line line : bySource())
                tasks.add(pool.submit(() -> {
                    PackingSlip.Item item = packers.get(line.list()).pack(line.item(), decoding, stop, meter);
                    line.item().outputs().forEach(o -> shared.done(o.source()));
                    listener.done(line.list(), item);
                    done.get(line.list())[line.at()] = item;
                }));
            for (ForkJoinTask<?> task : tasks)
                task.get();
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            stop.stop();
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
        double seconds = (clock.millis() - started) / 1000.0;
        List<PackingSlip> slips = new ArrayList<>();
        for (int i = 0; i < packers.size(); i++)
            slips.add(packers.get(i).slip(List.of(done.get(i)), seconds, clock.instant()));
        leave(packers, slips);
        return slips;
    }

    /// What cannot be left in one folder keeps no other from getting its slip.
    private static void leave(List<ListPacker> packers, List<PackingSlip> slips) throws IOException {
        List<IOException> faults = new ArrayList<>();
        for (int i = 0; i < packers.size(); i++)
            try {
                packers.get(i).leave(slips.get(i), i == 0 ? slips.subList(1, slips.size()) : List.of());
            } catch (IOException e) {
                faults.add(e);
            }
        if (!faults.isEmpty()) throw faults.getFirst();
    }

    /// What is read of results that are rendered, a file once for each.
    private List<SoundFile> sources() {
        return lists.stream().flatMap(l -> l.items().stream()).flatMap(i -> i.outputs().stream()).map(PlannedOutput::source).toList();
    }

    /// Lines of the same source follow each other; otherwise they go in the order of the lists.
    private List<Line> bySource() {
        Map<Path, List<Line>> lines = new LinkedHashMap<>();
        for (int list = 0; list < lists.size(); list++)
            for (int at = 0; at < lists.get(list).items().size(); at++) {
                PackingItem item = lists.get(list).items().get(at);
                lines.computeIfAbsent(item.source().path(), _ -> new ArrayList<>()).add(new Line(list, at, item));
            }
        return lines.values().stream().flatMap(List::stream).toList();
    }

    /// Workers that wait for the disk are replaced, but not without end where it is slow.
    private static ForkJoinPool pool(int workers) {
        return new ForkJoinPool(workers, ForkJoinPool.defaultForkJoinWorkerThreadFactory, null, false, workers, 2 * workers, 1, _ -> true, 1, TimeUnit.SECONDS);
    }

    private static void refuseIfWithin(List<Path> roots) throws IOException {
        for (int i = 0; i < roots.size(); i++)
            for (int k = 0; k < roots.size(); k++)
                if (i != k && roots.get(i).startsWith(roots.get(k)))
                    throw new IOException("two destinations pack into " + roots.get(k) + (roots.get(i).equals(roots.get(k)) ? "" : " and a folder in it")
                            + "; give each a folder of its own");
    }

    private void refuseIfTooSmall(List<Path> roots) throws IOException {
        Map<FileStore, Long> needed = new HashMap<>();
        for (int i = 0; i < roots.size(); i++) {
            Path existing = roots.get(i);
            while (existing != null && !Files.exists(existing))
                existing = existing.getParent();
            if (existing == null) continue;
            FileStore store = Files.getFileStore(existing);
            long all = needed.merge(store, ListPacker.neededBytes(lists.get(i), roots.get(i)), Long::sum), free = store.getUsableSpace();
            if (all > free)
                throw new IOException(String.format(Locale.ROOT, "%s has %,d MB free, packing needs %,d MB; make room or choose another folder", existing,
                        free >> 20, all >> 20));
        }
    }
}
