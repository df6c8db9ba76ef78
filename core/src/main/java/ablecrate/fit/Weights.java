package ablecrate.fit;

import ablecrate.instrument.Span;
import java.util.stream.IntStream;

/// How much each velocity counts: most where people play, and none not at all. Common practice has no figure; this one was tried out with [HeardNote].
final class Weights {
    private static final double CENTRE = 80, WIDTH = 35, LEAST = 0.15;

    private static final double[] OF = IntStream.range(0, 128).mapToDouble(v -> Math.exp(-(v - CENTRE) / WIDTH * ((v - CENTRE) / WIDTH)) + LEAST).toArray();

    private Weights() {}

    static double of(int velocity) { return OF[velocity]; }

    static double of(Span velocities) {
        double sum = 0;
        for (int v = velocities.low(); v <= velocities.high(); v++)
            sum += of(v);
        return sum;
    }

    /// The velocity that has as much weight below it as above.
    static int middle(Span velocities) {
        double half = of(velocities) / 2, sum = 0;
        for (int v = velocities.low(); v < velocities.high(); v++) {
            sum += of(v);
            if (sum >= half) return v;
        }
        return velocities.high();
    }
}
