package ablecrate.audio;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/// Interleaved samples in a stretch of a file, as a stream that can start at any frame.
public final class PcmFileSource implements SeekableSource {
    private static final int BUFFER_BYTES = 1 << 17;

    private final FileChannel file;
    private final PcmUnpacker unpacker;
    private final int rateHz, channels, frameBytes;
    private final long firstByte, frames;
    private final byte[] packed;
    private long position;

    /// @param firstByte where frame 0 lies in the file
    public PcmFileSource(Path path, SampleEncoding encoding, int rateHz, int channels, long firstByte, long frames) throws IOException {
        this.unpacker = new PcmUnpacker(encoding);
        this.rateHz = rateHz;
        this.channels = channels;
        this.frameBytes = encoding.containerBytes() * channels;
        this.firstByte = firstByte;
        this.frames = frames;
        // A file of a few frames needs no large buffer; thousands of one-shots are the common case.
        this.packed = new byte[(int) Math.min(Math.max(1, BUFFER_BYTES / frameBytes), Math.max(1, frames)) * frameBytes];
        this.file = FileChannel.open(path, StandardOpenOption.READ);
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public void seek(long frame) {
        if (frame < 0 || frame > frames) throw new IllegalArgumentException("frame " + frame + " of " + frames);
        position = frame;
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = load(count);
        if (n > 0) unpacker.unpack(packed, n, planes, at);
        position += n;
        return n;
    }

    /// Whether the samples can be read as the whole steps that they are stored as.
    public boolean hasSteps() { return unpacker.hasSteps(); }

    /// As [#read], but as whole steps of the depth, from index 0 on.
    public int readSteps(int[][] planes, int count) throws IOException {
        int n = load(count);
        if (n > 0) unpacker.unpackSteps(packed, n, planes);
        position += n;
        return n;
    }

    /// @return how many frames were loaded
    private int load(int count) throws IOException {
        int n = (int) Math.min(Math.min(count, packed.length / frameBytes), frames - position);
        ByteBuffer into = ByteBuffer.wrap(packed, 0, n * frameBytes);
        long from = firstByte + position * frameBytes;
        while (into.hasRemaining()) {
            int got = file.read(into, from + into.position());
            if (got < 0) throw new EOFException("the file became shorter while it was read (frame " + position + " of " + frames + ")");
        }
        return n;
    }

    @Override public void close() throws IOException { file.close(); }
}
