package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// How wide a stereo sound is.
/// @param correlation of left and right, `Σlr / √(Σl²·Σr²)`: 1 where they are the same, 0 where they have nothing in common, below 0 where they cancel in mono
/// @param sidesDb level of (L−R)/2 over that of (L+R)/2; −∞ where the channels are the same
/// @param dots single frames, spread over all of the sound, the farthest from silence at 1
public record StereoWidth(double correlation, double sidesDb, List<Dot> dots) {
    private static final int BLOCK = 4096, MOST_DOTS = 1500;
    /// A channel that is softer than this, as a mean square, is silent: −100 dBFS.
    private static final double SILENCE = 1e-10;

    /// @param across (R−L)/2, @param up (L+R)/2
    public record Dot(double across, double up) {}

    public StereoWidth {
        dots = List.copyOf(dots);
    }

    /// @param source two channels; read to `mostFrames` at most
    /// @return empty where a channel is silent, and nothing can be said
    public static Optional<StereoWidth> of(FrameSource source, long mostFrames) throws IOException {
        if (source.channels() != 2) throw new IllegalArgumentException(source.channels() + " channels are no stereo");
        double left = 0, right = 0, both = 0;
        long frames = Math.min(source.frames(), mostFrames), step = Math.max(1, frames / MOST_DOTS), position = 0;
        List<Dot> dots = new ArrayList<>();
        double[][] block = new double[2][BLOCK];
        for (int got; position < frames && (got = source.read(block, 0, (int) Math.min(BLOCK, frames - position))) > 0;)
            for (int i = 0; i < got; i++, position++) {
                double l = block[0][i], r = block[1][i];
                left += l * l;
                right += r * r;
                both += l * r;
                if (position % step == 0) dots.add(new Dot((r - l) / 2, (l + r) / 2));
            }
        if (Math.min(left, right) / Math.max(1, position) < SILENCE) return Optional.empty();
        double middle = left + right + 2 * both, sides = left + right - 2 * both;
        double farthest = dots.stream().mapToDouble(d -> Math.max(Math.abs(d.across), Math.abs(d.up))).max().orElse(1);
        List<Dot> scaled = dots.stream().map(d -> new Dot(d.across / farthest, d.up / farthest)).toList();
        return Optional.of(new StereoWidth(both / Math.sqrt(left * right), 10 * Math.log10(Math.max(0, sides) / Math.max(middle, Double.MIN_NORMAL)), scaled));
    }
}
