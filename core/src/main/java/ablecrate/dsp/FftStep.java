package ablecrate.dsp;

/// One loop over some rows, in place; a transform is a list of such steps.
///
/// Steps are small, as the virtual machine makes vector instructions only of loops that are short, reach all arrays at the same index, and leave
/// no choice which multiplication of one number goes with which of the next. They are called through this interface, as it would put
/// them all into one method otherwise and spend seconds on compiling that; see docs/speed.md.
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

    /// The transform of four.
    record Four(int a, int b, int c, int d) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] r0 = re[a], r1 = re[b], r2 = re[c], r3 = re[d], i0 = im[a], i1 = im[b], i2 = im[c], i3 = im[d];
            for (int q = 0; q < r0.length; q++) {
                double er = r0[q] + r2[q], ei = i0[q] + i2[q], dr = r0[q] - r2[q], di = i0[q] - i2[q];
                double fr = r1[q] + r3[q], fi = i1[q] + i3[q], gr = i1[q] - i3[q], gi = r3[q] - r1[q];
                r0[q] = er + fr;
                i0[q] = ei + fi;
                r1[q] = dr + gr;
                i1[q] = di + gi;
                r2[q] = er - fr;
                i2[q] = ei - fi;
                r3[q] = dr - gr;
                i3[q] = di - gi;
            }
        }
    }

    /// Of `a` and the sums of the other inputs by pairs: the sum of all, and for each pair of outputs the sum by cosines. Of one part of the numbers.
    record Cosines1(boolean ofIm, int a, int b, double c1) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] x = (ofIm ? im : re)[a], t1 = (ofIm ? im : re)[b];
            for (int q = 0; q < x.length; q++) {
                double m = x[q], s = t1[q];
                x[q] = m + s;
                t1[q] = m + c1 * s;
            }
        }
    }

    /// As [Cosines1], with two pairs.
    record Cosines2(boolean ofIm, int a, int b, int c, double c1, double c2) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[][] part = ofIm ? im : re;
            double[] x = part[a], t1 = part[b], t2 = part[c];
            for (int q = 0; q < x.length; q++) {
                double m = x[q], s = t1[q], t = t2[q];
                x[q] = m + s + t;
                t1[q] = m + c1 * s + c2 * t;
                t2[q] = m + c2 * s + c1 * t;
            }
        }
    }

    /// As [Cosines1], with three pairs.
    record Cosines3(boolean ofIm, int a, int b, int c, int d, double c1, double c2, double c3) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[][] part = ofIm ? im : re;
            double[] x = part[a], t1 = part[b], t2 = part[c], t3 = part[d];
            for (int q = 0; q < x.length; q++) {
                double m = x[q], s = t1[q], t = t2[q], u = t3[q];
                x[q] = m + s + t + u;
                t1[q] = m + c1 * s + c2 * t + c3 * u;
                t2[q] = m + c2 * s + c3 * t + c1 * u;
                t3[q] = m + c3 * s + c1 * t + c2 * u;
            }
        }
    }

    /// Of the difference of the only pair of inputs: its sum by sines. Of one part of the numbers.
    record Sines1(boolean ofIm, int a, double s1) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] x = (ofIm ? im : re)[a];
            for (int q = 0; q < x.length; q++)
                x[q] *= s1;
        }
    }

    /// As [Sines1], with two pairs. The zeros give the sums the shape of those by cosines, which become vectors.
    record Sines2(boolean ofIm, int a, int b, double s1, double s2) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] u1 = (ofIm ? im : re)[a], u2 = (ofIm ? im : re)[b];
            for (int q = 0; q < u1.length; q++) {
                double s = u1[q], t = u2[q];
                u1[q] = 0.0 + s1 * s + s2 * t;
                u2[q] = 0.0 + s2 * s - s1 * t;
            }
        }
    }

    /// As [Sines2], with three pairs.
    record Sines3(boolean ofIm, int a, int b, int c, double s1, double s2, double s3) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[][] part = ofIm ? im : re;
            double[] u1 = part[a], u2 = part[b], u3 = part[c];
            for (int q = 0; q < u1.length; q++) {
                double s = u1[q], t = u2[q], u = u3[q];
                u1[q] = 0.0 + s1 * s + s2 * t + s3 * u;
                u2[q] = 0.0 + s2 * s - s3 * t - s1 * u;
                u3[q] = 0.0 + s3 * s - s1 * t + s2 * u;
            }
        }
    }

    /// `a − ib` and `a + ib`.
    record Join(int a, int b) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] mr = re[a], mi = im[a], nr = re[b], ni = im[b];
            for (int q = 0; q < mr.length; q++) {
                double ar = mr[q] + ni[q], ai = mi[q] - nr[q], br = mr[q] - ni[q], bi = mi[q] + nr[q];
                mr[q] = ar;
                mi[q] = ai;
                nr[q] = br;
                ni[q] = bi;
            }
        }
    }

    /// As [Join], and each multiplied by its factor.
    record JoinAndTurn(int a, int b, Factor ofA, Factor ofB) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] mr = re[a], mi = im[a], nr = re[b], ni = im[b];
            double ca = ofA.c, da = ofA.d, ea = ofA.e, cb = ofB.c, db = ofB.d, eb = ofB.e;
            for (int q = 0; q < mr.length; q++) {
                double ar = mr[q] + ni[q], ai = mi[q] - nr[q], br = mr[q] - ni[q], bi = mi[q] + nr[q], k = ca * (ar + ai), l = cb * (br + bi);
                mr[q] = k - ea * ai;
                mi[q] = k + da * ar;
                nr[q] = l - eb * bi;
                ni[q] = l + db * br;
            }
        }
    }

    /// Multiplied by a factor.
    record Turn(int a, Factor factor) implements FftStep {
        @Override public void run(double[][] re, double[][] im) {
            double[] ar = re[a], ai = im[a];
            double c = factor.c, d = factor.d, e = factor.e;
            for (int q = 0; q < ar.length; q++) {
                double r = ar[q], i = ai[q], k = c * (r + i);
                ar[q] = k - e * i;
                ai[q] = k + d * r;
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

    /// A complex number of amount 1 for multiplying with three products: `c (r + i) − e i` and `c (r + i) + d r`.
    /// @param c cosine of its angle
    /// @param d sine less cosine
    /// @param e sine and cosine
    record Factor(double c, double d, double e) {
        static Factor of(double angle) {
            double c = Math.cos(angle), s = Math.sin(angle);
            return new Factor(c, s - c, s + c);
        }
    }
}
