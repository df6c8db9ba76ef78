package ablecrate.dsp;

import jdk.incubator.vector.DoubleVector;
import jdk.incubator.vector.VectorSpecies;

/// The discrete Fourier transform of complex numbers, for lengths whose prime factors are 2, 3, 5 and 7 and that are multiples of 16.
///
/// The length is split into rows × columns, both multiples of 4. Columns are transformed first, all of them at once, so that every
/// butterfly runs over whole rows: long stretches of memory, one twiddle factor, a vector at a time. After one transposition
/// the same is done with the rows, and the result lies in natural order. Within a pass radices 7, 5, 4, 3, 2 sort themselves (Stockham).
///
/// Sources: D. H. Bailey, *FFTs in external or hierarchical memory*, J. Supercomputing 4, 1990 (rows and columns); C. Van Loan,
/// *Computational Frameworks for the Fast Fourier Transform*, 1992, section 1.7 (Stockham). Measured against plain loops that the
/// compiler vectorises by itself, the explicit vectors are 1.6 to 3 times as fast, see docs/speed.md.
///
/// Immutable, safe for threads; scratch memory is the caller's.
final class Fft {
    /// Four doubles at most: wider ones gain nothing here, and fewer lengths would be multiples of them.
    private static final VectorSpecies<Double> SPECIES = DoubleVector.SPECIES_PREFERRED.length() > 4
            ? DoubleVector.SPECIES_256
            : DoubleVector.SPECIES_PREFERRED;
    private static final int LANES = SPECIES.length(), TILE = 4;
    private static final int[] RADICES = {7, 5, 4, 3, 2};

    private final int rows, columns;
    private final Stages down, across;
    private final double[] twiddleRe, twiddleIm;

    /// Whether a length can be transformed.
    static boolean isPossible(int length) {
        if (length < 16 || length % 16 != 0) return false;
        int rest = length;
        for (int prime : new int[]{2, 3, 5, 7})
            while (rest % prime == 0)
                rest /= prime;
        return rest == 1;
    }

    Fft(int length) {
        if (!isPossible(length)) throw new IllegalArgumentException("no transform of length " + length);
        rows = balanced(length);
        columns = length / rows;
        down = new Stages(rows);
        across = columns == rows ? down : new Stages(columns);
        twiddleRe = new double[length];
        twiddleIm = new double[length];
        for (int k = 0; k < rows; k++)
            for (int n = 0; n < columns; n++) {
                double angle = -2 * Math.PI * ((long) k * n % length) / length;
                twiddleRe[k * columns + n] = Math.cos(angle);
                twiddleIm[k * columns + n] = Math.sin(angle);
            }
    }

    int length() { return rows * columns; }

    /// The divisor nearest to the square root that leaves both factors multiples of 4.
    private static int balanced(int length) {
        for (int r = (int) Math.sqrt(length) / 4 * 4; r >= 4; r -= 4)
            if (length % r == 0 && length / r % 4 == 0) return r;
        throw new AssertionError(length);
    }

    /// `X[k] = Σ x[n] exp(−2πi kn / N)`, in place, not scaled.
    /// @param re real parts, as many as the length
    /// @param im imaginary parts
    /// @param workRe scratch of the same length, as `workIm`
    void forward(double[] re, double[] im, double[] workRe, double[] workIm) {
        down.run(re, im, workRe, workIm, columns, twiddleRe, twiddleIm);
        double[] fromRe = down.isResultInSecond() ? workRe : re, fromIm = down.isResultInSecond() ? workIm : im;
        double[] toRe = down.isResultInSecond() ? re : workRe, toIm = down.isResultInSecond() ? im : workIm;
        transpose(fromRe, toRe);
        transpose(fromIm, toIm);
        across.run(toRe, toIm, fromRe, fromIm, rows, null, null);
        double[] result = across.isResultInSecond() ? fromRe : toRe;
        if (result != re) {
            System.arraycopy(workRe, 0, re, 0, re.length);
            System.arraycopy(workIm, 0, im, 0, im.length);
        }
    }

    /// `x[n] = Σ X[k] exp(+2πi kn / N)`, in place, not scaled: the forward transform with real and imaginary parts exchanged.
    void backward(double[] re, double[] im, double[] workRe, double[] workIm) { forward(im, re, workIm, workRe); }

    private void transpose(double[] from, double[] to) {
        // In tiles, so that both sides stay in the nearest cache.
        for (int r0 = 0; r0 < rows; r0 += TILE)
            for (int c0 = 0; c0 < columns; c0 += TILE)
                for (int c = c0; c < c0 + TILE; c++) {
                    int at = r0 * columns + c, into = c * rows + r0;
                    to[into] = from[at];
                    to[into + 1] = from[at + columns];
                    to[into + 2] = from[at + 2 * columns];
                    to[into + 3] = from[at + 3 * columns];
                }
    }

    /// The stages of transforms of one length, done for many columns at once.
    private static final class Stages {
        private final int length;
        private final int[] radices;
        /// Per stage `[p * (radix - 1) + j - 1]`: exp(−2πi pj / n), n the length that is left at that stage.
        private final double[][] cos, sin;

        Stages(int length) {
            this.length = length;
            java.util.List<Integer> factors = new java.util.ArrayList<>();
            int rest = length;
            for (int radix : RADICES)
                while (rest % radix == 0) {
                    factors.add(radix);
                    rest /= radix;
                }
            radices = factors.stream().mapToInt(Integer::intValue).toArray();
            cos = new double[radices.length][];
            sin = new double[radices.length][];
            int left = length;
            for (int stage = 0; stage < radices.length; stage++) {
                int radix = radices[stage], groups = left / radix;
                cos[stage] = new double[groups * (radix - 1)];
                sin[stage] = new double[groups * (radix - 1)];
                for (int p = 0; p < groups; p++)
                    for (int j = 1; j < radix; j++) {
                        double angle = -2 * Math.PI * ((long) p * j % left) / left;
                        cos[stage][p * (radix - 1) + j - 1] = Math.cos(angle);
                        sin[stage][p * (radix - 1) + j - 1] = Math.sin(angle);
                    }
                left = groups;
            }
        }

        boolean isResultInSecond() { return radices.length % 2 == 1; }

        /// @param tableRe with `tableIm` what the result is multiplied by, number by number; null is 1
        void run(double[] re, double[] im, double[] otherRe, double[] otherIm, int columns, double[] tableRe, double[] tableIm) {
            double[] xr = re, xi = im, yr = otherRe, yi = otherIm;
            int left = length, stride = columns;
            for (int stage = 0; stage < radices.length; stage++) {
                int radix = radices[stage], groups = left / radix;
                for (int p = 0; p < groups; p++) {
                    int from = stride * p, to = stride * radix * p, at = p * (radix - 1);
                    switch (radix) {
                        case 2 -> two(xr, xi, yr, yi, from, stride * groups, to, stride, cos[stage], sin[stage], at);
                        case 3 -> three(xr, xi, yr, yi, from, stride * groups, to, stride, cos[stage], sin[stage], at);
                        case 4 -> four(xr, xi, yr, yi, from, stride * groups, to, stride, cos[stage], sin[stage], at);
                        case 5 -> five(xr, xi, yr, yi, from, stride * groups, to, stride, cos[stage], sin[stage], at);
                        default -> seven(xr, xi, yr, yi, from, stride * groups, to, stride, cos[stage], sin[stage], at);
                    }
                }
                if (groups == 1 && tableRe != null) multiply(yr, yi, tableRe, tableIm);
                left = groups;
                stride *= radix;
                double[] tr = xr, ti = xi;
                xr = yr;
                xi = yi;
                yr = tr;
                yi = ti;
            }
        }
    }

    private static void multiply(double[] xr, double[] xi, double[] tr, double[] ti) {
        for (int q = 0; q < xr.length; q += LANES) {
            DoubleVector r = load(xr, q), m = load(xi, q), wr = load(tr, q), wi = load(ti, q);
            m.neg().fma(wi, r.mul(wr)).intoArray(xr, q);
            r.fma(wi, m.mul(wr)).intoArray(xi, q);
        }
    }

    private static DoubleVector load(double[] a, int at) { return DoubleVector.fromArray(SPECIES, a, at); }

    /// Stores `(r + i·m) · (wr + i·wi)`.
    private static void turn(DoubleVector r, DoubleVector m, DoubleVector wr, DoubleVector wi, double[] yr, double[] yi, int at) {
        m.neg().fma(wi, r.mul(wr)).intoArray(yr, at);
        r.fma(wi, m.mul(wr)).intoArray(yi, at);
    }

    private static DoubleVector all(double value) { return DoubleVector.broadcast(SPECIES, value); }

    // In the butterflies: input j lies at `from + j * gap`, output j at `to + j * count`; `count` numbers each.

    private static void two(double[] xr, double[] xi, double[] yr, double[] yi, int from, int gap, int to, int count, double[] cos, double[] sin, int at) {
        DoubleVector w1r = all(cos[at]), w1i = all(sin[at]);
        for (int q = 0; q < count; q += LANES) {
            DoubleVector ar = load(xr, from + q), ai = load(xi, from + q), br = load(xr, from + gap + q), bi = load(xi, from + gap + q);
            ar.add(br).intoArray(yr, to + q);
            ai.add(bi).intoArray(yi, to + q);
            turn(ar.sub(br), ai.sub(bi), w1r, w1i, yr, yi, to + count + q);
        }
    }

    private static final double SIN_60 = Math.sqrt(3) / 2;

    private static void three(double[] xr, double[] xi, double[] yr, double[] yi, int from, int gap, int to, int count, double[] cos, double[] sin, int at) {
        DoubleVector w1r = all(cos[at]), w1i = all(sin[at]), w2r = all(cos[at + 1]), w2i = all(sin[at + 1]);
        for (int q = 0; q < count; q += LANES) {
            DoubleVector ar = load(xr, from + q), ai = load(xi, from + q), br = load(xr, from + gap + q), bi = load(xi, from + gap + q),
                    cr = load(xr, from + 2 * gap + q),
                    ci = load(xi, from + 2 * gap + q);
            DoubleVector tr = br.add(cr), ti = bi.add(ci), ur = br.sub(cr).mul(SIN_60), ui = bi.sub(ci).mul(SIN_60);
            DoubleVector mr = ar.sub(tr.mul(0.5)), mi = ai.sub(ti.mul(0.5));
            ar.add(tr).intoArray(yr, to + q);
            ai.add(ti).intoArray(yi, to + q);
            turn(mr.add(ui), mi.sub(ur), w1r, w1i, yr, yi, to + count + q);
            turn(mr.sub(ui), mi.add(ur), w2r, w2i, yr, yi, to + 2 * count + q);
        }
    }

    private static void four(double[] xr, double[] xi, double[] yr, double[] yi, int from, int gap, int to, int count, double[] cos, double[] sin, int at) {
        DoubleVector w1r = all(cos[at]), w1i = all(sin[at]), w2r = all(cos[at + 1]), w2i = all(sin[at + 1]), w3r = all(cos[at + 2]), w3i = all(sin[at + 2]);
        for (int q = 0; q < count; q += LANES) {
            DoubleVector ar = load(xr, from + q), ai = load(xi, from + q), br = load(xr, from + gap + q), bi = load(xi, from + gap + q);
            DoubleVector cr = load(xr, from + 2 * gap + q), ci = load(xi, from + 2 * gap + q), dr = load(xr, from + 3 * gap + q),
                    di = load(xi, from + 3 * gap + q);
            DoubleVector t0r = ar.add(cr), t0i = ai.add(ci), t1r = ar.sub(cr), t1i = ai.sub(ci), t2r = br.add(dr), t2i = bi.add(di), t3r = bi.sub(di),
                    t3i = dr.sub(br);
            t0r.add(t2r).intoArray(yr, to + q);
            t0i.add(t2i).intoArray(yi, to + q);
            turn(t1r.add(t3r), t1i.add(t3i), w1r, w1i, yr, yi, to + count + q);
            turn(t0r.sub(t2r), t0i.sub(t2i), w2r, w2i, yr, yi, to + 2 * count + q);
            turn(t1r.sub(t3r), t1i.sub(t3i), w3r, w3i, yr, yi, to + 3 * count + q);
        }
    }

    private static final DoubleVector C51 = all(Math.cos(2 * Math.PI / 5)), C52 = all(Math.cos(4 * Math.PI / 5)), S51 = all(Math.sin(2 * Math.PI / 5)),
            S52 = all(Math.sin(4 * Math.PI / 5));

    private static void five(double[] xr, double[] xi, double[] yr, double[] yi, int from, int gap, int to, int count, double[] cos, double[] sin, int at) {
        DoubleVector w1r = all(cos[at]), w1i = all(sin[at]), w2r = all(cos[at + 1]), w2i = all(sin[at + 1]), w3r = all(cos[at + 2]), w3i = all(sin[at + 2]),
                w4r = all(cos[at + 3]), w4i = all(sin[at + 3]);
        for (int q = 0; q < count; q += LANES) {
            DoubleVector ar = load(xr, from + q), ai = load(xi, from + q);
            DoubleVector br = load(xr, from + gap + q), bi = load(xi, from + gap + q), er = load(xr, from + 4 * gap + q), ei = load(xi, from + 4 * gap + q);
            DoubleVector cr = load(xr, from + 2 * gap + q), ci = load(xi, from + 2 * gap + q), dr = load(xr, from + 3 * gap + q),
                    di = load(xi, from + 3 * gap + q);
            DoubleVector t1r = br.add(er), t1i = bi.add(ei), u1r = br.sub(er), u1i = bi.sub(ei), t2r = cr.add(dr), t2i = ci.add(di), u2r = cr.sub(dr),
                    u2i = ci.sub(di);
            ar.add(t1r).add(t2r).intoArray(yr, to + q);
            ai.add(t1i).add(t2i).intoArray(yi, to + q);
            DoubleVector m1r = t2r.fma(C52, t1r.fma(C51, ar)), m1i = t2i.fma(C52, t1i.fma(C51, ai));
            DoubleVector n1r = u2r.fma(S52, u1r.mul(S51)), n1i = u2i.fma(S52, u1i.mul(S51));
            turn(m1r.add(n1i), m1i.sub(n1r), w1r, w1i, yr, yi, to + count + q);
            turn(m1r.sub(n1i), m1i.add(n1r), w4r, w4i, yr, yi, to + 4 * count + q);
            DoubleVector m2r = t2r.fma(C51, t1r.fma(C52, ar)), m2i = t2i.fma(C51, t1i.fma(C52, ai));
            DoubleVector n2r = u2r.neg().fma(S51, u1r.mul(S52)), n2i = u2i.neg().fma(S51, u1i.mul(S52));
            turn(m2r.add(n2i), m2i.sub(n2r), w2r, w2i, yr, yi, to + 2 * count + q);
            turn(m2r.sub(n2i), m2i.add(n2r), w3r, w3i, yr, yi, to + 3 * count + q);
        }
    }

    /// Outputs j and 7 − j in a loop of their own for each j: one loop for all of them has more values than the processor has registers, and was half as fast.
    private static void seven(double[] xr, double[] xi, double[] yr, double[] yi, int from, int gap, int to, int count, double[] cos, double[] sin, int at) {
        for (int q = 0; q < count; q += LANES) {
            sum(xr, from + q, gap).intoArray(yr, to + q);
            sum(xi, from + q, gap).intoArray(yi, to + q);
        }
        for (int j = 1; j <= 3; j++)
            pairOfSeven(xr, xi, yr, yi, from, gap, to + j * count, to + (7 - j) * count, count, j, cos[at + j - 1], sin[at + j - 1], cos[at + 6 - j],
                    sin[at + 6 - j]);
    }

    /// `[j * k % 7]`.
    private static final double[] COS_7 = new double[7], SIN_7 = new double[7];
    static {
        for (int k = 0; k < 7; k++) {
            COS_7[k] = Math.cos(2 * Math.PI * k / 7);
            SIN_7[k] = Math.sin(2 * Math.PI * k / 7);
        }
    }

    private static DoubleVector sum(double[] x, int from, int gap) {
        return load(x, from).add(load(x, from + gap).add(load(x, from + 6 * gap))).add(load(x, from + 2 * gap).add(load(x, from + 5 * gap)))
                .add(load(x, from + 3 * gap).add(load(x, from + 4 * gap)));
    }

    private static void pairOfSeven(double[] xr, double[] xi, double[] yr, double[] yi, int from, int gap, int toLow, int toHigh, int count, int j, double wlr,
            double wli, double whr, double whi) {
        DoubleVector c1 = all(COS_7[j]), c2 = all(COS_7[2 * j % 7]), c3 = all(COS_7[3 * j % 7]);
        DoubleVector s1 = all(SIN_7[j]), s2 = all(SIN_7[2 * j % 7]), s3 = all(SIN_7[3 * j % 7]);
        DoubleVector lr = all(wlr), li = all(wli), hr = all(whr), hi = all(whi);
        for (int q = 0; q < count; q += LANES) {
            int a = from + q;
            DoubleVector pr = load(xr, a + gap), pi = load(xi, a + gap), qr = load(xr, a + 6 * gap), qi = load(xi, a + 6 * gap);
            DoubleVector mr = pr.add(qr).fma(c1, load(xr, a)), mi = pi.add(qi).fma(c1, load(xi, a)), nr = pr.sub(qr).mul(s1), ni = pi.sub(qi).mul(s1);
            pr = load(xr, a + 2 * gap);
            pi = load(xi, a + 2 * gap);
            qr = load(xr, a + 5 * gap);
            qi = load(xi, a + 5 * gap);
            mr = pr.add(qr).fma(c2, mr);
            mi = pi.add(qi).fma(c2, mi);
            nr = pr.sub(qr).fma(s2, nr);
            ni = pi.sub(qi).fma(s2, ni);
            pr = load(xr, a + 3 * gap);
            pi = load(xi, a + 3 * gap);
            qr = load(xr, a + 4 * gap);
            qi = load(xi, a + 4 * gap);
            mr = pr.add(qr).fma(c3, mr);
            mi = pi.add(qi).fma(c3, mi);
            nr = pr.sub(qr).fma(s3, nr);
            ni = pi.sub(qi).fma(s3, ni);
            turn(mr.add(ni), mi.sub(nr), lr, li, yr, yi, toLow + q);
            turn(mr.sub(ni), mi.add(nr), hr, hi, yr, yi, toHigh + q);
        }
    }
}
