package ablecrate.signal;

import ablecrate.audio.FrameSource;
import ablecrate.codec.AudioPlace;
import java.io.IOException;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// Sounds that are played at their times, over each other where they overlap.
public final class LaidSounds implements FrameSource {
    private final List<Laid> sounds;
    private final int rateHz, channels;
    private final Map<Laid, FrameSource> open = new LinkedHashMap<>();
    private final double[][] block;
    private long position;
    private int next;

    /// @param at frame of the whole
    /// @param channels a mono one is heard on all channels
    public record Laid(long at, long frames, int channels, AudioPlace.Joined.Rendering rendering) {
        long end() { return at + frames; }
    }

    /// @param from frame of the whole that is played first
    public LaidSounds(List<Laid> sounds, int rateHz, long from) {
        this.sounds = sounds.stream().filter(s -> s.end() > from && s.frames() > 0).sorted(Comparator.comparingLong(Laid::at)).toList();
        this.rateHz = rateHz;
        channels = sounds.stream().mapToInt(Laid::channels).max().orElse(1);
        block = new double[channels][0];
        position = from;
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return sounds.stream().mapToLong(Laid::end).max().orElse(0); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int wanted = (int) Math.min(count, frames() - position);
        if (wanted <= 0) return 0;
        for (double[] plane : planes)
            Arrays.fill(plane, at, at + wanted, 0);
        for (; next < sounds.size() && sounds.get(next).at() < position + wanted; next++)
            open.put(sounds.get(next), sounds.get(next).rendering().openAt(Math.max(0, position - sounds.get(next).at()), _ -> {}));
        for (Map.Entry<Laid, FrameSource> sound : open.entrySet())
            add(sound.getKey(), sound.getValue(), planes, at, wanted);
        position += wanted;
        for (Laid over : open.keySet().stream().filter(s -> s.end() <= position).toList())
            open.remove(over).close();
        return wanted;
    }

    private void add(Laid sound, FrameSource source, double[][] planes, int at, int count) throws IOException {
        int from = (int) Math.max(0, sound.at() - position), length = (int) Math.min(count, sound.end() - position) - from;
        if (length <= 0) return;
        for (int channel = 0; channel < channels; channel++)
            if (block[channel].length < length) block[channel] = new double[length];
        int got = source.readFully(block, 0, length);
        for (int channel = 0; channel < channels; channel++) {
            double[] heard = block[Math.min(channel, sound.channels() - 1)];
            for (int i = 0; i < got; i++)
                planes[channel][at + from + i] += heard[i];
        }
    }

    @Override public void close() throws IOException {
        for (FrameSource source : open.values())
            source.close();
        open.clear();
    }
}
