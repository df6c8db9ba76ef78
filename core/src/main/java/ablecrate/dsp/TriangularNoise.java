package ablecrate.dsp;

/// Noise whose values have a triangular density between −1 and 1: the sum of two uniform numbers. The same in every run. Not for two threads.
///
/// Many generators take turns, so that a loop can advance a vector of them. Generator: G. Marsaglia, *Xorshift RNGs*, Journal of Statistical
/// Software 8(14), 2003 (64 bits, shifts 13, 7, 17); seeds: G. L. Steele, D. Lea, C. H. Flood, *Fast splittable pseudorandom number generators*, OOPSLA 2014.
final class TriangularNoise {
    private static final int GENERATORS = 256;
    /// Of the sum of two numbers of 32 bits with sign.
    private static final double SCALE = 0x1p-32;

    private final long[] states = new long[GENERATORS];
    private int turn;

    /// @param stream streams of different numbers have nothing to do with each other
    TriangularNoise(int stream) {
        for (int i = 0; i < GENERATORS; i++)
            states[i] = mixed(0x9E3779B97F4A7C15L * (1 + i + (long) GENERATORS * stream));
    }

    private static long mixed(long z) {
        z = (z ^ z >>> 30) * 0xBF58476D1CE4E5B9L;
        z = (z ^ z >>> 27) * 0x94D049BB133111EBL;
        return z ^ z >>> 31; // one to one, so never 0 for what is not
    }

    /// Adds `amount` times the noise to samples `[0, count)`.
    void addTo(double[] samples, int count, double amount) {
        for (int done = 0; done < count;) {
            int n = Math.min(count - done, GENERATORS - turn);
            // A whole turn is a loop of known length, which the compiler makes vectors of where it stands.
            if (n == GENERATORS)
                add(states, 0, samples, done, GENERATORS, amount * SCALE);
            else
                add(states, turn, samples, done, n, amount * SCALE);
            done += n;
            turn = (turn + n) % GENERATORS;
        }
    }

    double next() {
        long s = advanced(states[turn]);
        states[turn] = s;
        turn = (turn + 1) % GENERATORS;
        return ((s >> 32) + (s << 32 >> 32)) * SCALE;
    }

    private static void add(long[] states, int first, double[] samples, int at, int count, double scale) {
        for (int i = 0; i < count; i++) {
            long s = advanced(states[first + i]);
            states[first + i] = s;
            samples[at + i] += ((s >> 32) + (s << 32 >> 32)) * scale;
        }
    }

    private static long advanced(long s) {
        s ^= s << 13;
        s ^= s >>> 7;
        return s ^ s << 17;
    }
}
