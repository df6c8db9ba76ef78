package ablecrate.pack;

import ablecrate.audio.PcmFileSource;
import ablecrate.audio.SampleEncoding;
import ablecrate.disk.DiskFault;
import ablecrate.format.BankFormat;
import ablecrate.format.MapFormat;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Zone;
import ablecrate.change.Change;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SoundPath;
import ablecrate.verify.Rendered;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.LongConsumer;

/// Writes one file of instruments into a stream: a map of sounds that lie beside it, or a bank with the sounds in it.
final class MapWriter {
    private final SoundPath path;
    private final StopSignal stop;
    private final LongConsumer framesDone;

    /// @param framesDone told of frames of a bank's sounds as they are rendered
    MapWriter(SoundPath path, StopSignal stop, LongConsumer framesDone) {
        this.path = path;
        this.stop = stop;
        this.framesDone = framesDone;
    }

    /// @param rendered the sounds that are in it, by their places among the outputs
    /// @param settled what turned out while they were rendered
    record Written(Map<Integer, Rendered> rendered, List<Change> settled) {
        static final Written NO_SOUNDS = new Written(Map.of(), List.of());
    }

    /// @param sounds where the sounds beside the map really lie, which may be under numbered names; not used for a bank
    /// @param spool a temporary name; a bank's sounds are rendered there first, as banks want them in another order
    Written write(PlannedMap map, List<PlannedOutput> outputs, List<String> sounds, Path spool, OutputStream out)
            throws IOException, StopSignal.StoppedException, ItemFault {
        if (map.verbatim().isPresent()) {
            Files.copy(map.verbatim().get(), out);
            outputs.forEach(o -> framesDone.accept(o.shape().frames()));
            return Written.NO_SOUNDS;
        }
        return switch (map.format()) {
            case MapFormat text -> {
                out.write(text.write(map.instruments().getFirst(), sounds.stream().map(s -> seenFrom(map.path(), s)).toList()));
                yield Written.NO_SOUNDS;
            }
            case BankFormat bank -> bank(bank, map, outputs, spool, out);
            default -> throw new IllegalStateException(map.formatId());
        };
    }

    /// Both paths are below the folder packed into. The sounds that a map plays lie in its folder or below it; those of other maps may lie elsewhere.
    private static String seenFrom(String map, String sound) {
        String folder = map.substring(0, map.lastIndexOf('/') + 1);
        return sound.startsWith(folder) ? sound.substring(folder.length()) : sound;
    }

    private Written bank(BankFormat bank, PlannedMap map, List<PlannedOutput> all, Path spool, OutputStream out)
            throws IOException, StopSignal.StoppedException, ItemFault {
        // A bank holds the sounds that its own instruments play; others of the same source may play others.
        List<Integer> played = map.instruments().stream().flatMap(i -> i.zones().stream()).map(Zone::sample).distinct().sorted().toList();
        List<PlannedOutput> outputs = played.stream().map(all::get).toList();
        List<Instrument> instruments = map.instruments().stream().map(i -> i.mapZones(z -> List.of(z.withSample(Collections.binarySearch(played, z.sample())))))
                .toList();
        List<Long> at = new ArrayList<>();
        long end = 0;
        for (PlannedOutput output : outputs) {
            at.add(end);
            end += output.audioBytes();
        }
        List<SoundWriter.Written> written = new ArrayList<>();
        try {
            try (FileChannel file = FileChannel.open(spool, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
                List<SideBySide.Part<SoundWriter.Written>> parts = new ArrayList<>();
                for (int i = 0; i < outputs.size(); i++) {
                    PlannedOutput output = outputs.get(i);
                    long start = at.get(i);
                    parts.add(() -> new SoundWriter(path, stop, framesDone).samples(output, encoding(output), () -> new Place(file, start)));
                }
                SideBySide.all(parts, written::add);
            }
            List<BankFormat.BankSound> sounds = outputs.stream().map(o -> new BankFormat.BankSound(o.path(), o.shape(), o.metadata())).toList();
            bank.write(out, map.about(), instruments, sounds, i -> {
                PlannedOutput output = outputs.get(i);
                return new PcmFileSource(spool, encoding(output), output.shape().rateHz(), output.shape().channels(), at.get(i), output.shape().frames());
            });
            Map<Integer, Rendered> rendered = new TreeMap<>();
            List<Change> settled = new ArrayList<>();
            for (int i = 0; i < played.size(); i++) {
                rendered.put(played.get(i), written.get(i).rendered());
                settled.addAll(written.get(i).settled());
            }
            return new Written(rendered, settled);
        } finally {
            DiskFault.deleteQuietly(spool);
        }
    }

    private static SampleEncoding encoding(PlannedOutput output) {
        int bits = output.shape().depth().bits();
        return new SampleEncoding(SampleEncoding.Kind.SIGNED, bits / 8, bits, ByteOrder.LITTLE_ENDIAN);
    }

    /// Writes to a file from a place on, whatever others write elsewhere.
    private static final class Place extends OutputStream {
        private final FileChannel file;
        private long at;

        Place(FileChannel file, long at) {
            this.file = file;
            this.at = at;
        }

        @Override public void write(int b) throws IOException { write(new byte[]{(byte) b}, 0, 1); }

        @Override public void write(byte[] bytes, int from, int length) throws IOException {
            for (ByteBuffer left = ByteBuffer.wrap(bytes, from, length); left.hasRemaining();)
                at += file.write(left, at);
        }
    }
}
