package ablecrate.codec.aac;

import ablecrate.codec.BitReader;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/// One channel of a packet: which book codes each band, its scale factors and its lines. One per channel; not for two threads.
///
/// Source: ISO/IEC 14496-3:2009, tables 4.44 to 4.51 and sections 4.6.1 to 4.6.3, 4.6.13 (noise).
final class ChannelStream {
    /// Books that stand for no values of lines.
    static final int ZERO = 0, LAST_OF_VALUES = 11, NOISE = 13, INTENSITY_OPPOSITE = 14, INTENSITY = 15;
    static final int MOST_BANDS = 128;
    private static final int ESCAPE = 16, ESCAPE_BITS = 4, LONGEST_ESCAPE = 8, NO_DIFFERENCE = 60, NOISE_START = 90 + 256, NOISE_BITS = 9,
            SILENT_FACTOR = 100, MOST_PULSES = 4, LARGEST_PULSE = 15;
    private static final double[] POWERS = powers();

    /// `[group × bands + band]`
    final int[] books = new int[MOST_BANDS];
    /// Scale factors, places between two speakers, or energies of noise, as the book says.
    final int[] factors = new int[MOST_BANDS];
    /// 1024 lines, or 8 × 128.
    final double[] spectrum = new double[FilterBank.LINES];
    ChannelInfo info;
    NoiseShaping shaping;
    private final int[] pulses = new int[FilterBank.LINES];

    private static double[] powers() {
        double[] powers = new double[(1 << ESCAPE_BITS + LONGEST_ESCAPE + 1) + MOST_PULSES * LARGEST_PULSE];
        for (int i = 0; i < powers.length; i++)
            powers[i] = Math.cbrt(i) * i;
        return powers;
    }

    /// @param shared what both of a pair have in common; null if this one has its own
    void read(BitReader in, ChannelInfo shared, Bands bands) throws IOException {
        int gain = in.bits(8);
        info = shared != null ? shared : ChannelInfo.read(in, bands);
        readBooks(in);
        readFactors(in, gain);
        boolean hasPulses = in.flag();
        if (hasPulses) readPulses(in);
        shaping = in.flag() ? NoiseShaping.read(in, info) : NoiseShaping.NONE;
        if (in.flag()) throw new IOException("an AAC packet uses gain control, which low complexity has not");
        Arrays.fill(spectrum, 0);
        readLines(in, hasPulses);
        if (in.isPastEnd()) throw new IOException("an AAC packet ends too soon");
    }

    private void readBooks(BitReader in) throws IOException {
        int bits = info.isShort() ? 3 : 5, more = (1 << bits) - 1;
        for (int group = 0; group < info.groups().length; group++)
            for (int band = 0; band < info.bands();) {
                int book = in.bits(4), end = band, step;
                do {
                    step = in.bits(bits);
                    end += step;
                } while (step == more && end <= info.bands());
                if (end > info.bands() || book == LAST_OF_VALUES + 1 || in.isPastEnd()) throw new IOException("the sections of an AAC packet are damaged");
                Arrays.fill(books, group * info.bands() + band, group * info.bands() + end, book);
                band = end;
            }
    }

    private void readFactors(BitReader in, int gain) throws IOException {
        int factor = gain, place = 0, noise = gain - NOISE_START;
        boolean isFirstNoise = true;
        for (int i = 0; i < info.groups().length * info.bands(); i++)
            switch (books[i]) {
            case ZERO -> factors[i] = 0;
            case INTENSITY, INTENSITY_OPPOSITE -> factors[i] = place += difference(in);
            case NOISE -> {
                noise += isFirstNoise ? in.bits(NOISE_BITS) : difference(in);
                isFirstNoise = false;
                factors[i] = noise;
            }
            default -> {
                factor += difference(in);
                if (factor < 0 || factor > 255) throw new IOException("a scale factor of an AAC packet is out of bounds");
                factors[i] = factor;
            }
            }
    }

    private static int difference(BitReader in) { return Codebook.SCALE_FACTORS.symbol(in) - NO_DIFFERENCE; }

    /// Amounts that are added to single lines, so that these do not need a larger book.
    private void readPulses(BitReader in) throws IOException {
        if (info.isShort()) throw new IOException("an AAC packet has pulses in short windows");
        Arrays.fill(pulses, 0);
        int count = in.bits(2) + 1, band = in.bits(6);
        if (band >= info.edges().length - 1) throw new IOException("a pulse of an AAC packet is out of bounds");
        for (int i = 0, line = info.edges()[band]; i < count; i++) {
            line += in.bits(5);
            if (line >= pulses.length) throw new IOException("a pulse of an AAC packet is out of bounds");
            pulses[line] += in.bits(4);
        }
    }

    private void readLines(BitReader in, boolean hasPulses) throws IOException {
        int window = 0;
        for (int group = 0; group < info.groups().length; window += info.groups()[group++])
            for (int band = 0; band < info.bands(); band++) {
                int i = group * info.bands() + band, book = books[i];
                if (book == ZERO || book > LAST_OF_VALUES) continue;
                double scale = step(factors[i]);
                for (int w = window; w < window + info.groups()[group]; w++) {
                    int from = w * info.lines() + info.edges()[band], to = w * info.lines() + info.edges()[band + 1];
                    lines(in, book, from, to, scale, hasPulses);
                }
            }
    }

    /// The size of a step, of 16-bit samples.
    private static double step(int factor) { return Math.pow(2, (factor - SILENT_FACTOR) / 4.0); }

    private void lines(BitReader in, int number, int from, int to, double scale, boolean hasPulses) throws IOException {
        Codebook book = Codebook.of(number);
        boolean isSigned = Codebook.isSigned(number), mayEscape = number == LAST_OF_VALUES;
        for (int line = from; line < to;) {
            byte[] values = book.values(in);
            if (isSigned)
                for (byte value : values)
                    line = set(line, Math.abs(value), value < 0, scale, hasPulses);
            else {
                int signs = 0, count = 0;
                for (byte value : values)
                    if (value != 0) count++;
                if (count > 0) signs = in.bits(count);
                for (byte value : values) {
                    boolean isNegative = value != 0 && (signs >> --count & 1) != 0;
                    line = set(line, mayEscape && value == ESCAPE ? escaped(in) : value, isNegative, scale, hasPulses);
                }
            }
        }
    }

    private int set(int line, int amount, boolean isNegative, double scale, boolean hasPulses) {
        // A line of 0 goes down.
        if (hasPulses && pulses[line] != 0) {
            isNegative |= amount == 0;
            amount += pulses[line];
        }
        double value = POWERS[amount] * scale;
        spectrum[line] = isNegative ? -value : value;
        return line + 1;
    }

    private static int escaped(BitReader in) throws IOException {
        int more = 0;
        while (in.flag())
            if (++more > LONGEST_ESCAPE) throw new IOException("a value of an AAC packet is out of bounds");
        return (1 << ESCAPE_BITS + more) + in.bits(ESCAPE_BITS + more);
    }

    /// Puts noise of their energy into the bands that have nothing else.
    /// @param seed makes the same noise every time
    void fillNoise(int seed) {
        int state = seed;
        for (Band band : bandsOf(NOISE)) {
            double energy = 0;
            for (int line = band.from(); line < band.to(); line++) {
                state = state * 1_664_525 + 1_013_904_223;
                spectrum[line] = state;
                energy += (double) state * state;
            }
            double scale = Math.pow(2, factors[band.index()] / 4.0) / Math.sqrt(energy);
            for (int line = band.from(); line < band.to(); line++)
                spectrum[line] *= scale;
        }
    }

    /// @param index among books and factors
    record Band(int index, int from, int to) {}

    /// The bands of one book in each window, as lines.
    List<Band> bandsOf(int book) {
        List<Band> found = new ArrayList<>();
        for (int window = 0, group = 0; group < info.groups().length; window += info.groups()[group++])
            for (int band = 0; band < info.bands(); band++)
                if (books[group * info.bands() + band] == book)
                    for (int w = window; w < window + info.groups()[group]; w++)
                        found.add(new Band(group * info.bands() + band, w * info.lines() + info.edges()[band], w * info.lines() + info.edges()[band + 1]));
        return found;
    }
}
