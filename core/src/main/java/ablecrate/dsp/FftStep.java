package ablecrate.dsp;

/// One loop over some rows, in place; a transform is a list of such steps.
///
/// The virtual machine makes vector instructions only of loops that reach all arrays at the same index, are not too long (see `start/loops.args`), and in
/// which it finds out which operation on one number goes with which on the next: sums of products are nested so that it does.
/// Steps are called through this interface, as it would put them all into one method otherwise and spend seconds on compiling that; see docs/speed.md.
///
/// Numbers of rows are called `a`, `b` …
interface FftStep {
    void run(double[][] re, double[][] im);

    /// `a + b` and `a − b`.
    record SumAndDifference(int a, int b) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] ar = re[a], br = re[b], ai = im[a], bi = im[b];
            for (int q = 0; q < ar.length; q++) {
                double dr = ar[q] - br[q], di = ai[q] - bi[q];
                ar[q] += br[q];
                ai[q] += bi[q];
                br[q] = dr;
                bi[q] = di;
            }
        }
    }

    /// The transform of four, and each of `b`, `c`, `d` multiplied by its factor.
    record Four(int a, int b, int c, int d, Factor ofB, Factor ofC, Factor ofD) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] r0 = re[a], r1 = re[b], r2 = re[c], r3 = re[d], i0 = im[a], i1 = im[b], i2 = im[c], i3 = im[d];
            double c1 = ofB.c, s1 = ofB.s, n1 = -s1, c2 = ofC.c, s2 = ofC.s, n2 = -s2, c3 = ofD.c, s3 = ofD.s, n3 = -s3;
            for (int q = 0; q < r0.length; q++) {
                double er = r0[q] + r2[q], ei = i0[q] + i2[q], dr = r0[q] - r2[q], di = i0[q] - i2[q];
                double fr = r1[q] + r3[q], fi = i1[q] + i3[q], gr = i1[q] - i3[q], gi = r3[q] - r1[q];
                double br = dr + gr, bi = di + gi, cr = er - fr, ci = ei - fi, hr = dr - gr, hi = di - gi;
                r0[q] = er + fr;
                i0[q] = ei + fi;
                r1[q] = Math.fma(br, c1, bi * n1);
                i1[q] = Math.fma(br, s1, bi * c1);
                r2[q] = Math.fma(cr, c2, ci * n2);
                i2[q] = Math.fma(cr, s2, ci * c2);
                r3[q] = Math.fma(hr, c3, hi * n3);
                i3[q] = Math.fma(hr, s3, hi * c3);
            }
        }
    }

    /// Of three inputs `gap` rows apart, of one part of the numbers: the sum of all; then, as the other two are looked at as their sum and their
    /// difference, the first and the sum by cosines, and the difference by sines. Outputs `k` and `size − k` are made of these, see [Join].
    record Three(boolean ofIm, int first, int gap) implements FftStep {
        private static final double C = cos(1, 3), S = sin(1, 3);

        @Override public void run(double[][] re, double[][] im) {
            double[][] part = ofIm ? im : re;
            double[] x0 = part[first], x1 = part[first + gap], x2 = part[first + 2 * gap];
            for (int q = 0; q < x0.length; q++) {
                double x = x0[q], t = x1[q] + x2[q], u = x1[q] - x2[q];
                x0[q] = x + t;
                x1[q] = Math.fma(C, t, x);
                x2[q] = S * u;
            }
        }
    }

    /// As [Three], with two pairs: the sums by cosines come in the rows of the first of each, those by sines in the rows of the second.
    record Five(boolean ofIm, int first, int gap) implements FftStep {
        private static final double C1 = cos(1, 5), C2 = cos(2, 5), S1 = sin(1, 5), S2 = sin(2, 5);

        @Override public void run(double[][] re, double[][] im) {
            double[][] part = ofIm ? im : re;
            double[] x0 = part[first], x1 = part[first + gap], x2 = part[first + 2 * gap], x3 = part[first + 3 * gap], x4 = part[first + 4 * gap];
            for (int q = 0; q < x0.length; q++) {
                double x = x0[q], t1 = x1[q] + x4[q], t2 = x2[q] + x3[q], u1 = x1[q] - x4[q], u2 = x2[q] - x3[q];
                x0[q] = x + (t1 + t2);
                x1[q] = Math.fma(C1, t1, Math.fma(C2, t2, x));
                x2[q] = Math.fma(C2, t1, Math.fma(C1, t2, x));
                x3[q] = Math.fma(-S1, u2, S2 * u1);
                x4[q] = Math.fma(S2, u2, S1 * u1);
            }
        }
    }

    /// As [Five], with three pairs.
    record Seven(boolean ofIm, int first, int gap) implements FftStep {
        private static final double C1 = cos(1, 7), C2 = cos(2, 7), C3 = cos(3, 7), S1 = sin(1, 7), S2 = sin(2, 7), S3 = sin(3, 7);

        @Override public void run(double[][] re, double[][] im) {
            double[][] part = ofIm ? im : re;
            double[] x0 = part[first], x1 = part[first + gap], x2 = part[first + 2 * gap], x3 = part[first + 3 * gap], x4 = part[first + 4 * gap],
                    x5 = part[first + 5 * gap], x6 = part[first + 6 * gap];
            for (int q = 0; q < x0.length; q++) {
                double x = x0[q], t1 = x1[q] + x6[q], t2 = x2[q] + x5[q], t3 = x3[q] + x4[q], u1 = x1[q] - x6[q], u2 = x2[q] - x5[q], u3 = x3[q] - x4[q];
                x0[q] = x + (t1 + (t2 + t3));
                x1[q] = Math.fma(C1, t1, Math.fma(C2, t2, Math.fma(C3, t3, x)));
                x2[q] = Math.fma(C2, t1, Math.fma(C3, t2, Math.fma(C1, t3, x)));
                x3[q] = Math.fma(C3, t1, Math.fma(C1, t2, Math.fma(C2, t3, x)));
                x4[q] = Math.fma(S2, u3, Math.fma(-S1, u2, S3 * u1));
                x5[q] = Math.fma(-S1, u3, Math.fma(-S3, u2, S2 * u1));
                x6[q] = Math.fma(S3, u3, Math.fma(S2, u2, S1 * u1));
            }
        }
    }

    /// Of a sum by cosines in `a` and one by sines in `b`: `a − ib` and `a + ib`, each multiplied by its factor.
    record Join(int a, int b, Factor ofA, Factor ofB) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] mr = re[a], mi = im[a], nr = re[b], ni = im[b];
            double ca = ofA.c, sa = ofA.s, na = -sa, cb = ofB.c, sb = ofB.s, nb = -sb;
            for (int q = 0; q < mr.length; q++) {
                double ar = mr[q] + ni[q], ai = mi[q] - nr[q], br = mr[q] - ni[q], bi = mi[q] + nr[q];
                mr[q] = Math.fma(ar, ca, ai * na);
                mi[q] = Math.fma(ar, sa, ai * ca);
                nr[q] = Math.fma(br, cb, bi * nb);
                ni[q] = Math.fma(br, sb, bi * cb);
            }
        }
    }

    /// Multiplied by a factor.
    record Turn(int a, Factor factor) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] ar = re[a], ai = im[a];
            double c = factor.c, s = factor.s, n = -s;
            for (int q = 0; q < ar.length; q++) {
                double r = ar[q], i = ai[q];
                ar[q] = Math.fma(r, c, i * n);
                ai[q] = Math.fma(r, s, i * c);
            }
        }
    }

    /// Each number multiplied by one of its own.
    record Twist(int a, double[] cos, double[] sin) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] ar = re[a], ai = im[a];
            for (int q = 0; q < ar.length; q++) {
                double r = ar[q], i = ai[q];
                ar[q] = r * cos[q] - i * sin[q];
                ai[q] = r * sin[q] + i * cos[q];
            }
        }
    }

    /// A complex number of amount 1.
    /// @param c cosine of its angle
    /// @param s sine
    record Factor(double c, double s) {
        static Factor of(double angle) { return new Factor(Math.cos(angle), Math.sin(angle)); }
    }

    private static double cos(int j, int size) { return Math.cos(2 * Math.PI * j / size); }

    private static double sin(int j, int size) { return Math.sin(2 * Math.PI * j / size); }
}
