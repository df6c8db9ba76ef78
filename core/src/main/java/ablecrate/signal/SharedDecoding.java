package ablecrate.signal;

import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;

/// Decodes compressed files once where several results are made of each. What was decoded lies in the system's folder for temporary files until the last of
/// them is made; who reads ahead decodes on, the others follow. Safe for threads.
///
/// It only saves work: where there is no room for that, or decoding fails, each reader decodes for itself, and meets what there is to meet.
public final class SharedDecoding implements AutoCloseable {
    /// Of temporary files at a time: an hour of stereo takes 2.5 GB, five minutes take 0.2.
    private static final long MOST_BYTES = 1L << 30;
    private static final int BLOCK_FRAMES = 8192;

    private final Map<SoundFile.Id, Integer> uses = new HashMap<>();
    private final Map<SoundFile.Id, Optional<Decoded>> decoded = new HashMap<>();
    private final AtomicLong decodings = new AtomicLong();
    private long bytes;

    /// @param sources of the results that will be made, a file once for each
    public SharedDecoding(List<SoundFile> sources) {
        for (SoundFile source : sources)
            if (source.compression().isPresent()) uses.merge(source.id(), 1, Integer::sum);
        uses.values().removeIf(n -> n < 2);
    }

    /// Opens a file, see [SoundFile#open(LongConsumer)].
    public SeekableSource open(SoundFile file, LongConsumer bad) throws IOException {
        Optional<Decoded> shared = shared(file);
        return shared.isPresent() ? new Reader(shared.get(), bad) : file.open(bad);
    }

    /// Whether several results are made of it.
    public synchronized boolean isShared(SoundFile file) { return uses.containsKey(file.id()); }

    private synchronized Optional<Decoded> shared(SoundFile file) throws IOException {
        if (!uses.containsKey(file.id())) return Optional.empty();
        Optional<Decoded> there = decoded.get(file.id());
        if (there == null) {
            long size = Decoded.size(file);
            there = size + bytes > MOST_BYTES ? Optional.empty() : Optional.of(new Decoded(file, decodings::incrementAndGet));
            if (there.isPresent()) bytes += size;
            decoded.put(file.id(), there);
        }
        return there;
    }

    /// One of the results that this file was named for is made, or will not be.
    public synchronized void done(SoundFile file) {
        Integer left = uses.computeIfPresent(file.id(), (_, n) -> n - 1);
        if (left == null || left > 0) return;
        uses.remove(file.id());
        Optional<Decoded> there = decoded.remove(file.id());
        if (there != null && there.isPresent()) {
            bytes -= Decoded.size(file);
            there.get().close();
        }
    }

    /// How many files were decoded for several results.
    public long decodings() { return decodings.get(); }

    @Override public synchronized void close() {
        decoded.values().forEach(d -> d.ifPresent(Decoded::close));
        decoded.clear();
        uses.clear();
    }

    /// What is decoded of one file: samples of 8 bytes, channels in turn.
    private static final class Decoded {
        private final SoundFile file;
        private final Runnable begun;
        /// Frames that could not be decoded, or are no numbers: start and end of each run of them.
        private final NavigableMap<Long, Long> bad = new TreeMap<>();
        private SeekableSource source;
        private FileChannel spool;
        private long frontier;
        private boolean isOver;

        Decoded(SoundFile file, Runnable begun) {
            this.file = file;
            this.begun = begun;
        }

        static long size(SoundFile file) { return file.frames() * file.channels() * Double.BYTES; }

        /// Reads frames that are decoded, or decodes them first.
        /// @return how many; -1 where it gave up, and the reader has to decode for itself
        synchronized int read(double[][] planes, int at, int count, long position, LongConsumer told) {
            if (isOver) return -1;
            try {
                while (frontier < position + count)
                    if (!decode()) return -1;
                int channels = file.channels();
                ByteBuffer taken = buffer(count);
                for (long from = position * channels * Double.BYTES; taken.hasRemaining();)
                    if (spool.read(taken, from + taken.position()) < 0) throw new IOException("the temporary file is shorter than it was");
                taken.flip();
                for (int frame = 0; frame < count; frame++)
                    for (int channel = 0; channel < channels; channel++)
                        planes[channel][at + frame] = taken.getDouble();
            } catch (IOException | UncheckedIOException e) {
                close();
                return -1;
            }
            for (Map.Entry<Long, Long> run = bad.floorEntry(position + count - 1); run != null && run.getValue() > position; run = bad.lowerEntry(run.getKey()))
                for (long frame = Math.max(position, run.getKey()); frame < Math.min(position + count, run.getValue()); frame++)
                    told.accept(frame);
            return count;
        }

        private ByteBuffer buffer(int frames) { return ByteBuffer.allocate(frames * file.channels() * Double.BYTES).order(ByteOrder.nativeOrder()); }

        private boolean decode() throws IOException {
            if (spool == null) {
                begun.run();
                source = file.open(this::isBad);
                Path place = Files.createTempFile("ablecrate-", ".decoded");
                spool = FileChannel.open(place, StandardOpenOption.READ, StandardOpenOption.WRITE, StandardOpenOption.DELETE_ON_CLOSE);
            }
            double[][] planes = new double[file.channels()][BLOCK_FRAMES];
            int got = source.read(planes, 0, BLOCK_FRAMES);
            if (got == 0) {
                close();
                return false;
            }
            ByteBuffer made = buffer(got);
            for (int frame = 0; frame < got; frame++)
                for (double[] plane : planes)
                    made.putDouble(plane[frame]);
            made.flip();
            for (long to = frontier * file.channels() * Double.BYTES; made.hasRemaining();)
                spool.write(made, to + made.position());
            frontier += got;
            if (frontier == file.frames()) source.close();
            return true;
        }

        private void isBad(long frame) {
            Map.Entry<Long, Long> last = bad.lastEntry();
            if (last != null && last.getValue() >= frame)
                bad.put(last.getKey(), Math.max(last.getValue(), frame + 1));
            else
                bad.put(frame, frame + 1);
        }

        synchronized void close() {
            isOver = true;
            List<AutoCloseable> open = new ArrayList<>();
            if (source != null) open.add(source);
            if (spool != null) open.add(spool);
            for (AutoCloseable each : open)
                try {
                    each.close();
                } catch (Exception e) {
                    // It was only there to save work.
                }
            source = null;
            spool = null;
        }
    }

    /// Goes through what is decoded, and decodes for itself where that ends.
    private static final class Reader implements SeekableSource {
        private final Decoded decoded;
        private final LongConsumer bad;
        private Optional<SeekableSource> own = Optional.empty();
        private long position;

        Reader(Decoded decoded, LongConsumer bad) {
            this.decoded = decoded;
            this.bad = bad;
        }

        @Override public int channels() { return decoded.file.channels(); }

        @Override public int rateHz() { return decoded.file.rateHz(); }

        @Override public long frames() { return decoded.file.frames(); }

        @Override public void seek(long frame) throws IOException {
            position = frame;
            if (own.isPresent()) own.get().seek(frame);
        }

        @Override public int read(double[][] planes, int at, int count) throws IOException {
            int wanted = (int) Math.min(Math.min(count, BLOCK_FRAMES), frames() - position);
            if (wanted <= 0) return 0;
            int got = own.isPresent() ? -1 : decoded.read(planes, at, wanted, position, bad);
            if (got < 0) {
                if (own.isEmpty()) {
                    own = Optional.of(decoded.file.open(bad));
                    own.get().seek(position);
                }
                got = own.get().read(planes, at, wanted);
            }
            position += got;
            return got;
        }

        @Override public void close() throws IOException {
            if (own.isPresent()) own.get().close();
        }
    }
}
