package ablecrate.pack;

import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.ChangeEntry;
import ablecrate.change.FileChange;
import ablecrate.change.LevelChange;
import ablecrate.change.Property;
import ablecrate.change.SeveralChanges;
import ablecrate.change.Verdict;
import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.disk.Checksums;
import ablecrate.disk.DiskFault;
import ablecrate.disk.ForcedFile;
import ablecrate.disk.SafeFile;
import ablecrate.dsp.Levels;
import ablecrate.job.Jobs;
import ablecrate.json.Product;
import ablecrate.option.ExistingFiles;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Hold;
import ablecrate.signal.SoundPath;
import ablecrate.verify.Check;
import ablecrate.verify.Comparison;
import ablecrate.verify.Expectation;
import ablecrate.verify.Finding;
import ablecrate.verify.MapComparison;
import ablecrate.verify.Outcome;
import java.io.BufferedOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
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
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// Carries a packing list out, items side by side. One item's failure never stops the others; the files do not depend
/// on the number of workers. One run per instance.
public final class Packer {
    private static final String SKIPPED = "skipped", LEFT = "left";
    /// How often a sound is compressed again with more room, where decoding it goes beyond its ceiling.
    private static final int CEILING_TRIES = 3;
    public static final String SLIP_JSON = "packing-slip.json", SLIP_HTML = "packing-slip.html";

    private final PackingList list;
    private final int workers;
    private final StopSignal stop;
    private final InstantSource clock;
    private final SoundPath path;
    private final ProgressMeter meter;
    private PackedBefore before = PackedBefore.nothing();

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
            before = PackedBefore.of(root);
            return run(root, new FolderTargets(folder, list.options().existing(), new WriteGuard(root, sources())));
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

    /// All files that are read: those of the lines, and those that instruments play.
    private Set<Path> sources() {
        return list.items().stream().flatMap(i -> Stream.concat(Stream.of(i.source().path()), i.outputs().stream().map(o -> o.source().path())))
                .map(p -> p.toAbsolutePath().normalize()).collect(Collectors.toSet());
    }

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
        PackingSlip slip = slip(items, root, (clock.millis() - started) / 1000.0);
        SlipFiles.write(slip, root);
        return slip;
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
            return without(item, "blocked", Optional.of(item.reason()));
        }
        if (stop.isStopped()) return without(item, "pending", Optional.empty());
        meter.working(item.source().fileName());
        List<Written> written = new ArrayList<>();
        List<WrittenMap> maps = new ArrayList<>();
        try {
            boolean isBank = item.maps().stream().anyMatch(PlannedMap::holdsSounds);
            if (!isBank) writeAll(item, targets, written);
            // Sounds and maps lie verified under temporary names before any of them is published: a map that fails takes its sounds with it.
            for (PlannedMap map : item.maps())
                maps.add(write(map, item.outputs(), written, targets.targetFor(map)));
            if (written.stream().anyMatch(w -> w.part().isPresent()))
                targets.beforePublishing(item, written.stream().map(w -> new Originals.Result(w.target().path(), w.line().xxh128())).toList());
            List<PackingSlip.Output> outputs = new ArrayList<>();
            for (Written w : written)
                outputs.add(published(w));
            List<PackingSlip.MapFile> files = new ArrayList<>();
            for (WrittenMap m : maps)
                files.add(published(m));
            return whole(item, outputs, files, before.changes(item.source().path()),
                    Stream.concat(written.stream().flatMap(w -> w.settled().stream()), maps.stream().flatMap(m -> m.settled().stream())).toList());
        } catch (StopSignal.StoppedException e) {
            return without(item, "pending", Optional.empty());
        } catch (ItemFault e) {
            return without(item, "failed", Optional.of(e.getMessage()));
        } catch (IOException e) {
            return without(item, "failed", Optional.of(DiskFault.text(e)));
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError | AssertionError e) {
            // A fault of ours in one item: it is told and logged, and the rest goes on.
            LoggerFactory.getLogger(Packer.class).error("packing {}", item.source().path(), e);
            return without(item, "failed", Optional.of("a fault in Able Crate itself (" + e + "); the log has more"));
        } finally {
            written.forEach(w -> w.part().ifPresent(DiskFault::deleteQuietly));
            maps.forEach(m -> m.part().ifPresent(DiskFault::deleteQuietly));
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
    private record Written(Targets.Target target, Optional<Path> part, PackingSlip.Output line, List<Change> settled) {}

    private record WrittenMap(Targets.Target target, Optional<Path> part, PackingSlip.MapFile line, List<Change> settled) {}

    private static PackingSlip.Output published(Written w) throws IOException {
        if (w.part().isEmpty()) return w.line();
        SafeFile.publish(w.part().get(), w.target().path());
        return w.line();
    }

    private static PackingSlip.MapFile published(WrittenMap m) throws IOException {
        if (m.part().isEmpty()) return m.line();
        SafeFile.publish(m.part().get(), m.target().path());
        return m.line();
    }

    /// What is to be done about a file that may be there.
    /// @param compares whether it is the result if making it anew gives the same
    private record Resolved(String state, boolean compares, List<Change> told) {}

    private Resolved resolve(Targets.Target target, String recipe) throws IOException {
        if (target.fate() != Targets.Fate.PRESENT) return new Resolved(target.fate().state(), false, List.of());
        return switch (before.standing(target.shownPath(), target.path(), list.options().placing().verifies())) {
            case ABSENT -> new Resolved("written", false, List.of());
            case STRANGE -> new Resolved(SKIPPED, true, List.of());
            case CHANGED -> new Resolved(LEFT, false, List.of());
            case DAMAGED -> new Resolved("renewed", false, List.of(new FileChange.ResultRenewed(target.shownPath())));
            case INTACT -> before.isMadeSo(target.shownPath(), recipe)
                    ? new Resolved(SKIPPED, false, List.of())
                    : new Resolved(list.options().existing() == ExistingFiles.UPDATE ? "updated" : SKIPPED,
                            list.options().existing() != ExistingFiles.UPDATE, List.of());
        };
    }

    private Written write(PlannedOutput output, Targets.Target target) throws IOException, StopSignal.StoppedException, ItemFault {
        SoundFile source = output.source();
        String recipe = PackedBefore.recipe(source, output);
        if (target.fate() == Targets.Fate.PRESENT && output.isVerbatim() && Files.mismatch(source.path(), target.path()) < 0) {
            meter.framesDone(output.shape().frames());
            Outcome same = new Outcome.Held(Check.AUDIO, "bit for bit the source");
            return new Written(target, Optional.empty(),
                    line(target, SKIPPED, output, recipe, target.path(), Checksums.xxh128Hex(target.path()), List.of(same), Optional.empty()), List.of());
        }
        Resolved resolved = resolve(target, recipe);
        if (!resolved.compares() && (resolved.state().equals(SKIPPED) || resolved.state().equals(LEFT))) {
            Optional<PackingSlip.Output> known = before.output(target.shownPath());
            if (known.isPresent()) {
                meter.framesDone(output.shape().frames());
                return new Written(target, Optional.empty(), known.get().withState(resolved.state()), List.of());
            }
        }
        Files.createDirectories(target.path().getParent());
        Path part = SafeFile.partOf(target.path()), spool = SafeFile.partOf(target.path().resolveSibling(target.path().getFileName() + " spool"));
        boolean isWhole = false;
        try {
            Part file = new Part(part);
            Measured made = written(output, spool, part, file);
            for (int tries = 0; tries < CEILING_TRIES && made.overCeilingDb() > Comparison.LEVEL_TOLERANCE; tries++)
                made = written(output.holdingPeaks(made.heldDbtp() - made.overCeilingDb()), spool, part, file);
            SoundWriter.Written done = made.done();
            Finding found = made.found();
            List<Outcome> outcomes = made.outcomes();
            refuse(outcomes);
            if (resolved.compares()) {
                // Nothing tells how it was made: it is the same if making it again gives the same.
                if (Files.mismatch(part, target.path()) >= 0) throw isAnother(target, difference(target.path(), output));
                return new Written(target, Optional.empty(),
                        line(target, SKIPPED, done.output(), recipe, target.path(), file.xxh128Hex(), outcomes, levels(done, found)), done.settled());
            }
            isWhole = true;
            List<Change> told = new ArrayList<>(resolved.told());
            told.addAll(done.settled());
            return new Written(target, Optional.of(part),
                    line(target, resolved.state(), done.output(), recipe, part, file.xxh128Hex(), outcomes, levels(done, found)), told);
        } finally {
            DiskFault.deleteQuietly(spool);
            if (!isWhole) DiskFault.deleteQuietly(part);
        }
    }

    /// A file, and what was found in it.
    private record Measured(SoundWriter.Written done, Finding found, List<Outcome> outcomes) {
        /// How far a compressed file goes beyond its ceiling when it is decoded; 0 where it keeps to it.
        double overCeilingDb() {
            return !done.output().isLossy()
                    ? 0
                    : outcomes.stream().filter(o -> o.check() == Check.CEILING).filter(Outcome.Missed.class::isInstance).map(Outcome.Missed.class::cast)
                            .mapToDouble(m -> m.reached() - m.asked()).max().orElse(0);
        }

        /// Where the limiter held peaks before compression moved them.
        double heldDbtp() { return done.output().outputChain().hold().map(Hold::ceilingDb).orElse(done.output().levels().ceilingDbtp().orElse(0)); }
    }

    private Measured written(PlannedOutput output, Path spool, Path part, Part file) throws IOException, StopSignal.StoppedException {
        SoundWriter.Written done = new SoundWriter(path, stop, meter::framesDone).write(output, spool, file);
        Expectation expected = Expectation.of(done.output(), done.rendered(), file.crc32c());
        Finding found = Finding.of(part, expected, stop::isStopped).orElseThrow(StopSignal.StoppedException::new);
        return new Measured(done, found, Comparison.of(expected, found));
    }

    private static void refuse(List<Outcome> outcomes) throws ItemFault {
        Optional<Outcome.Failed> failure = Comparison.failure(outcomes);
        if (failure.isPresent())
            throw new ItemFault("what was written is not as planned: " + failure.get().check().label() + ": " + failure.get().text());
    }

    /// Levels as they were before, and as they are in the file.
    private static Optional<PackingSlip.LevelsBeforeAfter> levels(SoundWriter.Written done, Finding found) {
        Optional<Levels> after = done.rendered().levels().or(() -> found.content() instanceof Finding.Content.Decoded d ? d.levels() : Optional.empty());
        return done.output().levels().before().flatMap(b -> after.map(a -> new PackingSlip.LevelsBeforeAfter(b.rounded(), a.rounded())));
    }

    /// A file that is being written, under a temporary name.
    private static final class Part implements SoundWriter.Opening {
        private final Path path;
        private Checksums sums;

        Part(Path path) { this.path = path; }

        @Override public OutputStream open() throws IOException {
            sums = new Checksums(new BufferedOutputStream(new ForcedAtItsEnd(new ForcedFile(path)), 1 << 16));
            return sums;
        }

        long crc32c() { return sums.crc32c(); }

        String xxh128Hex() { return sums.xxh128Hex(); }
    }

    /// Forces a file to disk when it is closed.
    private static final class ForcedAtItsEnd extends FilterOutputStream {
        private final ForcedFile file;

        ForcedAtItsEnd(ForcedFile file) {
            super(file);
            this.file = file;
        }

        @Override public void write(byte[] bytes, int at, int count) throws IOException { file.write(bytes, at, count); }

        @Override public void close() throws IOException {
            try (file) {
                file.force();
            }
        }
    }

    /// @param sounds what was written, or was there, of the sounds beside the map
    private WrittenMap write(PlannedMap map, List<PlannedOutput> outputs, List<Written> sounds, Targets.Target target)
            throws IOException, StopSignal.StoppedException, ItemFault {
        String recipe = PackedBefore.recipe(map, outputs);
        Resolved resolved = resolve(target, recipe);
        if (!resolved.compares() && (resolved.state().equals(SKIPPED) || resolved.state().equals(LEFT))) {
            Optional<PackingSlip.MapFile> known = before.map(target.shownPath());
            if (known.isPresent()) {
                if (map.holdsSounds()) outputs.forEach(o -> meter.framesDone(o.shape().frames()));
                return new WrittenMap(target, Optional.empty(), known.get().withState(resolved.state()), List.of());
            }
        }
        Files.createDirectories(target.path().getParent());
        Path part = SafeFile.partOf(target.path()), spool = SafeFile.partOf(target.path().resolveSibling(target.path().getFileName() + " sounds"));
        boolean isWhole = false;
        try {
            Part file = new Part(part);
            MapWriter.Written done;
            try (OutputStream out = file.open()) {
                done = new MapWriter(path, stop, meter::framesDone).write(map, outputs, sounds.stream().map(s -> s.target().shownPath()).toList(), spool, out);
            }
            Map<Path, Path> lies = sounds.stream().filter(s -> s.part().isPresent())
                    .collect(Collectors.toMap(s -> s.target().path(), s -> s.part().get(), (a, _) -> a));
            List<Outcome> outcomes = MapComparison
                    .of(part, map, outputs, new MapComparison.Made(file.crc32c(), done.rendered()), p -> lies.getOrDefault(p, p), stop::isStopped)
                    .orElseThrow(StopSignal.StoppedException::new);
            refuse(outcomes);
            if (resolved.compares()) {
                if (Files.mismatch(part, target.path()) >= 0) throw isAnother(target, "other instruments");
                return new WrittenMap(target, Optional.empty(), line(target, SKIPPED, map, recipe, target.path(), file.xxh128Hex(), outcomes), done.settled());
            }
            isWhole = true;
            List<Change> told = new ArrayList<>(resolved.told());
            told.addAll(done.settled());
            return new WrittenMap(target, Optional.of(part), line(target, resolved.state(), map, recipe, part, file.xxh128Hex(), outcomes), told);
        } finally {
            if (!isWhole) DiskFault.deleteQuietly(part);
        }
    }

    private static PackingSlip.MapFile line(Targets.Target target, String state, PlannedMap map, String recipe, Path file, String xxh128,
            List<Outcome> outcomes) throws IOException {
        return new PackingSlip.MapFile(target.shownPath(), state, recipe, Files.size(file), Files.getLastModifiedTime(file).toMillis(), xxh128, map.formatId(),
                map.instruments().size(), map.instruments().stream().mapToInt(i -> i.zones().size()).sum(),
                outcomes.stream().map(PackingSlip.Check::of).toList());
    }

    /// In what a file that is there is another, in words.
    private static String difference(Path file, PlannedOutput output) throws IOException {
        try {
            if (!(FileKind.of(file) instanceof FileKind.Sound(SoundFormat format))) return "no sound";
            SoundFile read = format.read(file);
            boolean isSame = read.frames() == output.shape().frames() && read.rateHz() == output.shape().rateHz()
                    && read.channels() == output.shape().channels() && read.encoding().depth() == output.shape().depth();
            return isSame
                    ? "the same shape, but other samples"
                    : read.frames() + " frames, " + read.rateHz() + " Hz, " + read.encoding().depth().id() + " bit, " + read.channels() + " ch";
        } catch (FormatException e) {
            return "no sound that opens";
        }
    }

    private static ItemFault isAnother(Targets.Target target, String found) {
        return new ItemFault("a different file named " + target.path().getFileName() + " is there (" + found
                + "); choose to replace it, or to number the new one");
    }

    private static PackingSlip.Output line(Targets.Target target, String state, PlannedOutput output, String recipe, Path file, String xxh128,
            List<Outcome> outcomes, Optional<PackingSlip.LevelsBeforeAfter> levels) throws IOException {
        List<PackingSlip.Mended> mended = output.sourceChain().mends().stream().map(m -> new PackingSlip.Mended(m.start(), m.end())).toList();
        return new PackingSlip.Output(target.shownPath(), state, recipe, Files.size(file), Files.getLastModifiedTime(file).toMillis(), xxh128,
                output.shape().frames(), output.shape().rateHz(), output.shape().depth().bits(), output.shape().depth().isFloat() ? "float" : "integer",
                output.shape().channels(), outcomes.stream().map(PackingSlip.Check::of).toList(), levels,
                mended.isEmpty() ? Optional.empty() : Optional.of(mended));
    }

    private static PackingSlip.Item without(PackingItem item, String outcome, Optional<String> error) {
        return new PackingSlip.Item(item.source().path().toString(), item.verdict().id(), outcome, Optional.empty(), changes(item.changes()), List.of(),
                List.of(), error);
    }

    /// @param earlier what was told of the source when it was packed before
    private static PackingSlip.Item whole(PackingItem item, List<PackingSlip.Output> outputs, List<PackingSlip.MapFile> maps,
            List<ChangeEntry> earlier, List<Change> settled) {
        List<String> states = Stream.concat(outputs.stream().map(PackingSlip.Output::state), maps.stream().map(PackingSlip.MapFile::state)).toList();
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
                outputs, maps,
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
        return c.is(LevelChange.BeyondFullScale.class) || c.is(AudioChange.DepthExact.class) || c.is(AudioChange.FramesHeld.class)
                || c.is(AudioChange.FramesSilenced.class);
    }

    private static List<ChangeEntry> changes(List<Change> changes) { return changes.stream().map(ChangeEntry::of).toList(); }

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
