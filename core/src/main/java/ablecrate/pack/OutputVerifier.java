package ablecrate.pack;

import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.disk.Checksums;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundFacts;
import ablecrate.instrument.Span;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;

/// Reads a written file again, as another program would, and compares it with what was planned.
final class OutputVerifier {
    private static final double CEILING_TOLERANCE_DB = 0.05;

    private OutputVerifier() {}

    /// @param wanted CRC-32C of the bytes that were handed to the disk
    /// @param written what was seen while writing
    static List<PackingSlip.Check> checks(Path file, PlannedOutput output, long wanted, SoundWriter.Written written) throws IOException {
        List<PackingSlip.Check> checks = new ArrayList<>();
        boolean isSame = Checksums.crc32c(file) == wanted;
        checks.add(new PackingSlip.Check("bytesReadBack", isSame, isSame ? "identical" : "the disk gave back other bytes"));
        checks.addAll(shapeAndFacts(file, output));
        checks.add(new PackingSlip.Check("notClipped", written.clippedSamples() == 0, written.clippedSamples() + " samples clipped"));
        if (output.finish().ceilingDbtp().isPresent() && written.levels().isPresent()) {
            double ceiling = output.finish().ceilingDbtp().getAsDouble(), peak = written.levels().get().truePeakDbtp().orElse(ceiling);
            checks.add(new PackingSlip.Check("ceilingHeld", peak <= ceiling + CEILING_TOLERANCE_DB,
                    String.format(Locale.ROOT, "true peak %.2f dBTP, ceiling %.2f", peak, ceiling)));
        }
        return checks;
    }

    /// Whether a file is what an output would be, as far as its headers tell.
    static List<PackingSlip.Check> shapeAndFacts(Path file, PlannedOutput output) throws IOException {
        SoundFormat format = SoundFormats.byId(output.formatId()).orElseThrow();
        SoundFile read;
        try {
            read = format.read(file);
        } catch (FormatException e) {
            return List.of(new PackingSlip.Check("opens", false, e.getMessage()));
        }
        String shape = read.frames() + " frames, " + read.rateHz() + " Hz, " + read.encoding().depth().id() + " bit, " + read.channels() + " ch";
        boolean sameShape = read.frames() == output.shape().frames() && read.rateHz() == output.shape().rateHz() && read.channels() == output.shape().channels()
                && read.encoding().depth() == output.shape().depth();
        SoundFacts facts = read.facts();
        boolean sameFacts = same(facts, output.facts());
        String told = facts.loops().size() + " loops, " + facts.cues().size() + " cues, root " + facts.mapping().rootKey().map(Object::toString).orElse("none");
        return List.of(new PackingSlip.Check("shape", sameShape, shape), new PackingSlip.Check("facts", sameFacts, told));
    }

    /// Equal in all that the format can say; a range that is not stated is the whole range.
    private static boolean same(SoundFacts read, SoundFacts wanted) {
        Mapping r = read.mapping(), w = wanted.mapping();
        Span keys = new Span(0, 127), velocities = new Span(1, 127);
        return read.loops().stream().map(OutputVerifier::essence).toList().equals(wanted.loops().stream().map(OutputVerifier::essence).toList())
                && read.cues().stream().map(Cue::frame).toList().equals(wanted.cues().stream().map(Cue::frame).toList())
                && (w.rootKey().isEmpty() || r.rootKey().equals(w.rootKey())) && Math.abs(r.fineTuneCents() - w.fineTuneCents()) < 1e-6
                && Objects.equals(r.keys().orElse(keys), w.keys().orElse(keys))
                && Objects.equals(r.velocities().orElse(velocities), w.velocities().orElse(velocities))
                && r.gainDb().orElse(0.0).equals(w.gainDb().orElse(0.0))
                && read.broadcast().map(b -> b.timeReferenceFrames()).equals(wanted.broadcast().map(b -> b.timeReferenceFrames()))
                && read.texts().equals(wanted.texts());
    }

    private static List<Object> essence(Loop loop) { return List.of(loop.frames(), loop.mode(), loop.playCount()); }

    static Optional<String> failure(List<PackingSlip.Check> checks) {
        return checks.stream().filter(c -> !c.ok() && !c.name().equals("notClipped") && !c.name().equals("ceilingHeld")).findFirst()
                .map(c -> c.name() + ": " + c.measured());
    }
}
