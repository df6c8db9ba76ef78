package ablecrate.audio;

import java.io.EOFException;
import java.io.IOException;
import java.util.Arrays;
import java.util.function.LongConsumer;

/// A compressed stream from its first true frame to its last: without what the encoder put before it and what fills it up at the end.
public final class DecodedSource implements SeekableSource {
    private final BlockDecoder decoder;
    private final int channels, rateHz;
    private final long delayFrames, frames;
    /// Frames of the decoder's latest piece: how many there are, and how many of them are used up.
    private int held, used;
    private long position;
    private boolean isAtEnd;
    private final LongConsumer lost;

    /// @param delayFrames that come out before the first true one
    /// @param frames true ones; where the decoder gives fewer, silence follows, as a stream's last packet may be cut short
    /// @param lost told of the frames that could not be decoded, as they are read
    public DecodedSource(BlockDecoder decoder, int channels, int rateHz, long delayFrames, long frames, LongConsumer lost) throws IOException {
        this.decoder = decoder;
        this.channels = channels;
        this.rateHz = rateHz;
        this.delayFrames = delayFrames;
        this.frames = frames;
        this.lost = lost;
        try {
            passOver(delayFrames);
        } catch (IOException | RuntimeException e) {
            decoder.close();
            throw e;
        }
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public void seek(long frame) throws IOException {
        if (frame == position) return;
        if (frame > position && frame - position <= held - used) {
            used += (int) (frame - position);
        } else {
            held = used = 0;
            isAtEnd = false;
            passOver(frame + delayFrames - decoder.seek(frame + delayFrames));
        }
        position = frame;
    }

    private void passOver(long count) throws IOException {
        for (long left = count; left > 0 && !isAtEnd;) {
            int step = (int) Math.min(left, held - used);
            used += step;
            left -= step;
            if (left > 0) pull();
        }
    }

    private void pull() throws IOException {
        held = decoder.next();
        used = 0;
        isAtEnd = held == 0;
        if (!isAtEnd && decoder.block().length != channels)
            throw new EOFException("the stream changes to " + decoder.block().length + " channels at frame " + position + ", it began with " + channels);
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(count, frames - position);
        if (n == 0) return 0;
        if (used == held && !isAtEnd) pull();
        if (isAtEnd)
            for (double[] plane : planes)
                Arrays.fill(plane, at, at + n, 0);
        else {
            n = Math.min(n, held - used);
            for (int channel = 0; channel < channels; channel++)
                System.arraycopy(decoder.block()[channel], used, planes[channel], at, n);
            used += n;
            if (decoder.isLost())
                for (long frame = position; frame < position + n; frame++)
                    lost.accept(frame);
        }
        position += n;
        return n;
    }

    @Override public void close() throws IOException { decoder.close(); }
}
