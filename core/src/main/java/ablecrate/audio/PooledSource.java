package ablecrate.audio;

import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/// A sound out of a bank's pool: each channel lies by itself, and the low bytes of 24-bit samples may lie elsewhere.
///
/// Channels may differ in length; a shorter one ends in silence.
public final class PooledSource implements SeekableSource {
    /// One channel.
    /// @param at where its 16-bit samples lie in the file
    /// @param lowAt where the bytes below them lie; negative where there are none
    public record Place(long at, long lowAt, long frames) {}

    private static final SampleEncoding WORDS = new SampleEncoding(SampleEncoding.Kind.SIGNED, 2, 16, ByteOrder.LITTLE_ENDIAN);
    private static final SampleEncoding BYTES = new SampleEncoding(SampleEncoding.Kind.UNSIGNED, 1, 8, ByteOrder.LITTLE_ENDIAN);
    /// An offset-binary byte b reads as (b − 128)/128; below a 16-bit sample it counts b/2²³.
    private static final double LOW_STEP = 128 / 8_388_608.0;

    private final List<PcmFileSource> words = new ArrayList<>(), bytes = new ArrayList<>();
    private final int rateHz;
    private final long frames;
    private final double[][] low;
    private long position;

    public PooledSource(Path path, int rateHz, List<Place> channels) throws IOException {
        this.rateHz = rateHz;
        frames = channels.stream().mapToLong(Place::frames).max().orElse(0);
        low = new double[1][(int) Math.min(frames, 8192)];
        try {
            for (Place channel : channels) {
                words.add(new PcmFileSource(path, WORDS, rateHz, 1, channel.at(), channel.frames()));
                if (channel.lowAt() >= 0) bytes.add(new PcmFileSource(path, BYTES, rateHz, 1, channel.lowAt(), channel.frames()));
            }
        } catch (IOException e) {
            close();
            throw e;
        }
    }

    @Override public int channels() { return words.size(); }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public void seek(long frame) throws IOException {
        for (PcmFileSource part : parts())
            part.seek(Math.min(frame, part.frames()));
        position = frame;
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(Math.min(count, low[0].length), frames - position);
        for (int channel = 0; channel < words.size(); channel++) {
            double[] plane = planes[channel];
            int got = words.get(channel).readFully(new double[][]{plane}, at, n);
            if (!bytes.isEmpty() && bytes.get(channel).readFully(low, 0, got) == got)
                for (int i = 0; i < got; i++)
                    plane[at + i] += (low[0][i] + 1) * LOW_STEP;
            Arrays.fill(plane, at + got, at + n, 0);
        }
        position += n;
        return n;
    }

    private List<PcmFileSource> parts() {
        List<PcmFileSource> all = new ArrayList<>(words);
        all.addAll(bytes);
        return all;
    }

    @Override public void close() throws IOException {
        for (PcmFileSource part : parts())
            part.close();
    }
}
