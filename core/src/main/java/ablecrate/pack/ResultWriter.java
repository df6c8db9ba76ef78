package ablecrate.pack;

import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.disk.Checksums;
import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
import ablecrate.option.ExistingFiles;
import ablecrate.option.PackOptions;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.signal.Hold;
import ablecrate.signal.SoundPath;
import ablecrate.verify.Check;
import ablecrate.verify.Comparison;
import ablecrate.verify.FitComparison;
import ablecrate.verify.Expectation;
import ablecrate.verify.Finding;
import ablecrate.verify.MapComparison;
import ablecrate.verify.Outcome;
import ablecrate.verify.SidecarComparison;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Writes one result under a temporary name, reads it again, and says what of it is as planned; or finds that what is there already is it.
final class ResultWriter {
    /// How often a sound is compressed again with more room, where decoding it goes beyond its ceiling.
    private static final int CEILING_TRIES = 3;

    private final PackFolder folder;
    private final PackOptions options;
    private final PackedBefore before;
    private final SoundPath path;
    private final StopSignal stop;
    private final ProgressMeter meter;

    /// @param before what earlier runs left in the folder
    ResultWriter(PackFolder folder, PackOptions options, PackedBefore before, SoundPath path, StopSignal stop, ProgressMeter meter) {
        this.folder = folder;
        this.options = options;
        this.before = before;
        this.path = path;
        this.stop = stop;
        this.meter = meter;
    }

    /// A file that lies verified under its temporary name.
    sealed interface Made {
        Targets.Target target();

        /// Absent where the file was there already.
        Optional<Path> part();

        PackingSlip.Written line();

        default void publish() throws IOException {
            if (part().isPresent()) SafeFile.publish(part().get(), target().path());
        }
    }

    record Written(Targets.Target target, Optional<Path> part, PackingSlip.Output line, List<Change> settled) implements Made {}

    record WrittenMap(Targets.Target target, Optional<Path> part, PackingSlip.MapFile line, List<Change> settled) implements Made {}

    record WrittenSidecar(Targets.Target target, Optional<Path> part, PackingSlip.SidecarFile line) implements Made {}

    /// What is to be done about a file that may be there.
    /// @param compares whether it is the result if making it anew gives the same
    private record Resolved(String state, boolean compares, List<Change> told) {
        /// Whether what is there stays, and nothing has to be made to know that.
        boolean stays() { return !compares && (state.equals(SlipLines.SKIPPED) || state.equals(SlipLines.LEFT)); }
    }

    private Resolved resolve(Targets.Target target, String recipe) throws IOException {
        if (target.fate() != Targets.Fate.PRESENT) return new Resolved(target.fate().state(), false, List.of());
        return switch (before.standing(target.shownPath(), target.path(), options.placing().verifies())) {
            case ABSENT -> new Resolved("written", false, List.of());
            case STRANGE -> new Resolved(SlipLines.SKIPPED, true, List.of());
            case CHANGED -> new Resolved(SlipLines.LEFT, false, List.of());
            case DAMAGED -> new Resolved("renewed", false, List.of(new FileChange.ResultRenewed(target.shownPath())));
            case INTACT -> before.isMadeSo(target.shownPath(), recipe)
                    ? new Resolved(SlipLines.SKIPPED, false, List.of())
                    : new Resolved(options.existing() == ExistingFiles.UPDATE ? "updated" : SlipLines.SKIPPED,
                            options.existing() != ExistingFiles.UPDATE, List.of());
        };
    }

    Written write(PlannedOutput output, Targets.Target target) throws IOException, StopSignal.StoppedException, ItemFault {
        SoundFile source = output.source();
        String recipe = PackedBefore.recipe(source, output);
        if (target.fate() == Targets.Fate.PRESENT && output.isVerbatim() && Files.mismatch(source.path(), target.path()) < 0) {
            meter.framesDone(output.shape().frames());
            Outcome same = new Outcome.Held(Check.AUDIO, "bit for bit the source");
            return new Written(target, Optional.empty(),
                    SlipLines.line(target, SlipLines.SKIPPED, output, recipe, target.path(), Checksums.xxh128Hex(target.path()), List.of(same),
                            Optional.empty()),
                    List.of());
        }
        Resolved resolved = resolve(target, recipe);
        if (resolved.stays()) {
            Optional<PackingSlip.Output> known = before.line(target.shownPath(), PackingSlip.Output.class);
            if (known.isPresent()) {
                meter.framesDone(output.shape().frames());
                return new Written(target, Optional.empty(), known.get().withState(resolved.state()), List.of());
            }
        }
        folder.make(target.path().getParent());
        Path part = SafeFile.partOf(target.path()), spool = SafeFile.partOf(target.path().resolveSibling(target.path().getFileName() + " spool"));
        boolean isWhole = false;
        try {
            PartFile file = new PartFile(part);
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
                        SlipLines.line(target, SlipLines.SKIPPED, done.output(), recipe, target.path(), file.xxh128Hex(), outcomes,
                                SlipLines.levels(done, found)),
                        done.settled());
            }
            isWhole = true;
            List<Change> told = new ArrayList<>(resolved.told());
            told.addAll(done.settled());
            return new Written(target, Optional.of(part),
                    SlipLines.line(target, resolved.state(), done.output(), recipe, part, file.xxh128Hex(), outcomes, SlipLines.levels(done, found)), told);
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

    private Measured written(PlannedOutput output, Path spool, Path part, PartFile file) throws IOException, StopSignal.StoppedException {
        SoundWriter.Written done = new SoundWriter(path, stop, meter::framesDone).write(output, spool, file);
        Expectation expected = Expectation.of(done.output(), done.rendered(), file.crc32c());
        Finding found = Finding.of(part, expected, stop::isStopped).orElseThrow(StopSignal.StoppedException::new);
        List<Outcome> outcomes = new ArrayList<>(Comparison.of(expected, found));
        if (output.fitted().isPresent() && Comparison.failure(outcomes).isEmpty() && found.content() instanceof Finding.Content.Decoded decoded)
            FitComparison.of(output, decoded.file()).ifPresent(outcomes::add);
        return new Measured(done, found, outcomes);
    }

    private static void refuse(List<Outcome> outcomes) throws ItemFault {
        Optional<Outcome.Failed> failure = Comparison.failure(outcomes);
        if (failure.isPresent())
            throw new ItemFault("what was written is not as planned: " + failure.get().check().label() + ": " + failure.get().text());
    }

    /// @param sounds what was written, or was there, of the sounds beside the map
    WrittenMap write(PlannedMap map, List<PlannedOutput> outputs, List<Written> sounds, Targets.Target target)
            throws IOException, StopSignal.StoppedException, ItemFault {
        String recipe = PackedBefore.recipe(map, outputs);
        Resolved resolved = resolve(target, recipe);
        if (resolved.stays()) {
            Optional<PackingSlip.MapFile> known = before.line(target.shownPath(), PackingSlip.MapFile.class);
            if (known.isPresent()) {
                if (map.holdsSounds()) outputs.forEach(o -> meter.framesDone(o.shape().frames()));
                return new WrittenMap(target, Optional.empty(), known.get().withState(resolved.state()), List.of());
            }
        }
        folder.make(target.path().getParent());
        Path part = SafeFile.partOf(target.path()), spool = SafeFile.partOf(target.path().resolveSibling(target.path().getFileName() + " sounds"));
        boolean isWhole = false;
        try {
            PartFile file = new PartFile(part);
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
                return new WrittenMap(target, Optional.empty(),
                        SlipLines.line(target, SlipLines.SKIPPED, map, recipe, target.path(), file.xxh128Hex(), outcomes), done.settled());
            }
            isWhole = true;
            List<Change> told = new ArrayList<>(resolved.told());
            told.addAll(done.settled());
            return new WrittenMap(target, Optional.of(part), SlipLines.line(target, resolved.state(), map, recipe, part, file.xxh128Hex(), outcomes), told);
        } finally {
            if (!isWhole) DiskFault.deleteQuietly(part);
        }
    }

    /// @param sounds what was written, or was there, of the sounds that it is about
    WrittenSidecar write(PlannedSidecar sidecar, List<PlannedOutput> outputs, List<Written> sounds, Targets.Target target) throws IOException, ItemFault {
        String recipe = PackedBefore.recipe(sidecar, outputs);
        Resolved resolved = resolve(target, recipe);
        Optional<PackingSlip.SidecarFile> known = before.line(target.shownPath(), PackingSlip.SidecarFile.class);
        if (resolved.stays() && known.isPresent()) return new WrittenSidecar(target, Optional.empty(), known.get().withState(resolved.state()));
        folder.make(target.path().getParent());
        Path part = SafeFile.partOf(target.path());
        boolean isWhole = false;
        try {
            PartFile file = new PartFile(part);
            try (OutputStream out = file.open()) {
                out.write(sidecar.sidecar().bytes(sounds.stream().map(s -> s.target().path().getFileName().toString()).toList()));
            }
            List<Outcome> outcomes = SidecarComparison.of(part, sidecar.sidecar(), file.crc32c());
            refuse(outcomes);
            if (resolved.compares() && Files.mismatch(part, target.path()) >= 0) throw isAnother(target, "other contents");
            isWhole = !resolved.compares();
            return new WrittenSidecar(target, isWhole ? Optional.of(part) : Optional.empty(),
                    SlipLines.line(target, resolved.state(), sidecar, recipe, part, file.xxh128Hex(), outcomes));
        } finally {
            if (!isWhole) DiskFault.deleteQuietly(part);
        }
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
}
