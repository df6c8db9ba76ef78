package ablecrate.signal;

import java.util.List;
import java.util.stream.IntStream;

/// How channels of an output are made from those of its source.
/// @param weights one list of weights over the input channels for each output channel
public record ChannelMix(List<List<Double>> weights) {
    public ChannelMix {
        weights = weights.stream().map(List::copyOf).toList();
    }

    public static ChannelMix keep(int channels) { return new ChannelMix(IntStream.range(0, channels).mapToObj(c -> unit(c, channels)).toList()); }

    /// One channel of several.
    public static ChannelMix only(int channel, int channels) { return new ChannelMix(List.of(unit(channel, channels))); }

    /// `(L + R) / 2`, which never clips.
    public static ChannelMix middle() { return new ChannelMix(List.of(List.of(0.5, 0.5))); }

    /// One channel on both sides.
    public static ChannelMix doubled() { return new ChannelMix(List.of(List.of(1.0), List.of(1.0))); }

    /// That come out.
    public int channels() { return weights.size(); }

    /// Whether it leaves this many channels as they are.
    public boolean keeps(int channels) { return weights.equals(keep(channels).weights); }

    /// Whether it is [#middle].
    public boolean isMiddle() { return weights.equals(middle().weights); }

    /// Whether every sample of the output is a sample of the input.
    public boolean isSelection() { return weights.stream().flatMap(List::stream).allMatch(w -> w == 0 || w == 1); }

    public double[][] toArray() { return weights.stream().map(row -> row.stream().mapToDouble(Double::doubleValue).toArray()).toArray(double[][]::new); }

    private static List<Double> unit(int channel, int channels) { return IntStream.range(0, channels).mapToObj(c -> c == channel ? 1.0 : 0.0).toList(); }
}
