package ablecrate.codec.aac;

/// The inverse modified cosine transform: `x[n] = Σ X[k] cos(π/M (n + M/2 + 1/2)(k + 1/2))` for 2M numbers of M, a power of two. One per stream; not for two threads.
///
/// It is a cosine transform of the fourth kind, unfolded, and that a complex Fourier transform of half its length between two rotations.
///
/// Source: P. Duhamel, Y. Mahieux, J. P. Petit, *A fast algorithm for the implementation of filter banks based on time domain aliasing cancellation*,
/// ICASSP 1991; from memory, held against the sum itself by a test.
final class Imdct {
    private final int lines, half;
    /// `[n]`: cosine and sine of `−π(8n + 1) / 8M`.
    private final double[] turnRe, turnIm;
    /// `[n]`: cosine and sine of `−2πn / (M / 2)`.
    private final double[] stepRe, stepIm;
    private final int[] reversed;
    private final double[] re, im;

    Imdct(int lines) {
        this.lines = lines;
        half = lines / 2;
        turnRe = new double[half];
        turnIm = new double[half];
        stepRe = new double[half / 2];
        stepIm = new double[half / 2];
        reversed = new int[half];
        re = new double[half];
        im = new double[half];
        for (int n = 0; n < half; n++) {
            double angle = -Math.PI * (8 * n + 1) / (8 * lines);
            turnRe[n] = Math.cos(angle);
            turnIm[n] = Math.sin(angle);
            reversed[n] = Integer.reverse(n) >>> Integer.numberOfLeadingZeros(half) + 1;
        }
        for (int n = 0; n < half / 2; n++) {
            double angle = -2 * Math.PI * n / half;
            stepRe[n] = Math.cos(angle);
            stepIm[n] = Math.sin(angle);
        }
    }

    /// @param spectrum `[from, from + M)` are read
    /// @param wave `[0, 2M)` are written
    void transform(double[] spectrum, int from, double[] wave) {
        for (int n = 0; n < half; n++) {
            double a = spectrum[from + 2 * n], b = spectrum[from + lines - 1 - 2 * n];
            int to = reversed[n];
            re[to] = a * turnRe[n] - b * turnIm[n];
            im[to] = a * turnIm[n] + b * turnRe[n];
        }
        fourier();
        // Result 2k is the real part, result M − 1 − 2k the imaginary one, negated; unfolded they stand at four places.
        for (int k = 0; k < half; k++) {
            double even = re[k] * turnRe[k] - im[k] * turnIm[k], odd = -(re[k] * turnIm[k] + im[k] * turnRe[k]);
            unfold(wave, 2 * k, even);
            unfold(wave, lines - 1 - 2 * k, odd);
        }
    }

    private void unfold(double[] wave, int m, double value) {
        if (m >= half) {
            wave[m - half] = value;
            wave[3 * half - 1 - m] = -value;
        } else {
            wave[3 * half - 1 - m] = -value;
            wave[3 * half + m] = -value;
        }
    }

    /// In place, from bit-reversed order, two passes at once where there are two.
    private void fourier() {
        int size = 1;
        for (; size * 4 <= half; size *= 4)
            fours(size);
        if (size * 2 <= half) pairs(size);
    }

    private void pairs(int size) {
        int stride = half / (2 * size);
        for (int block = 0; block < half; block += 2 * size)
            for (int j = 0; j < size; j++) {
                int a = block + j, b = a + size;
                double c = stepRe[j * stride], s = stepIm[j * stride], r = re[b] * c - im[b] * s, i = re[b] * s + im[b] * c;
                re[b] = re[a] - r;
                im[b] = im[a] - i;
                re[a] += r;
                im[a] += i;
            }
    }

    private void fours(int size) {
        int near = half / (4 * size), far = 2 * near;
        for (int block = 0; block < half; block += 4 * size)
            for (int j = 0; j < size; j++) {
                int a = block + j, b = a + size, c = b + size, d = c + size;
                double fc = stepRe[j * far], fs = stepIm[j * far], nc = stepRe[j * near], ns = stepIm[j * near];
                double br = re[b] * fc - im[b] * fs, bi = re[b] * fs + im[b] * fc, dr = re[d] * fc - im[d] * fs, di = re[d] * fs + im[d] * fc;
                double ar = re[a] + br, ai = im[a] + bi, er = re[a] - br, ei = im[a] - bi;
                double cr = re[c] + dr, ci = im[c] + di, gr = re[c] - dr, gi = im[c] - di;
                double hr = cr * nc - ci * ns, hi = cr * ns + ci * nc;
                // A quarter turn more than its neighbour.
                double kr = gr * ns + gi * nc, ki = gi * ns - gr * nc;
                re[a] = ar + hr;
                im[a] = ai + hi;
                re[c] = ar - hr;
                im[c] = ai - hi;
                re[b] = er + kr;
                im[b] = ei + ki;
                re[d] = er - kr;
                im[d] = ei - ki;
            }
    }
}
