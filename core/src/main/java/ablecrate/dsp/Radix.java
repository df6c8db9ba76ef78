package ablecrate.dsp;

/// The butterflies that a transform is made of, each over whole rows, in place.
///
/// Source of the forms: C. Van Loan, *Computational Frameworks for the Fast Fourier Transform*, 1992, chapter 2.
///
/// They are put together of small loops, as the virtual machine makes vector instructions only of loops that are short, reach all arrays at the
/// same index, and leave no choice which multiplication of one frame goes with which of the next; see docs/speed.md.
enum Radix {
    SEVEN(7), FIVE(5), THREE(3), FOUR(4), TWO(2);

    /// Numbers that [#turn] wants for one output.
    static final int TURN = 3;

    final int size;
    /// `[j - 1]`: of 2πj / size.
    private final double[] cos, sin;

    Radix(int size) {
        this.size = size;
        cos = new double[size / 2];
        sin = new double[size / 2];
        for (int j = 1; j <= size / 2; j++) {
            cos[j - 1] = Math.cos(2 * Math.PI * j / size);
            sin[j - 1] = Math.sin(2 * Math.PI * j / size);
        }
    }

    /// Puts down what [#turn] wants for a turn by an angle.
    static void put(double angle, double[] turns, int at) {
        double c = Math.cos(angle), s = Math.sin(angle);
        turns[at] = c;
        turns[at + 1] = s - c;
        turns[at + 2] = c + s;
    }

    /// Input and output `j` lie in row `first + j * gap`; output `j` is turned.
    /// @param turns from `at` on those of outputs 1 … size − 1; null for none
    void butterfly(ComplexRows x, int first, int gap, double[] turns, int at) {
        double[][] re = x.re(), im = x.im();
        int second = first + gap, third = second + gap, fourth = third + gap;
        switch (this) {
            case TWO -> sumAndDifference(re[first], re[second], im[first], im[second]);
            case FOUR -> four(re[first], re[second], re[third], re[fourth], im[first], im[second], im[third], im[fourth]);
            default -> odd(x, first, gap, turns, at);
        }
        if (turns != null && size % 2 == 0)
            for (int j = 1; j < size; j++)
                turn(re[first + j * gap], im[first + j * gap], turns, at + (j - 1) * TURN);
    }

    /// Inputs `j` and `size - j` come in as their sum and their difference, which outputs `k` and `size - k` share.
    private void odd(ComplexRows x, int first, int gap, double[] turns, int at) {
        double[][] re = x.re(), im = x.im();
        int last = first + size * gap;
        for (int j = gap; j <= size / 2 * gap; j += gap)
            sumAndDifference(re[first + j], re[last - j], im[first + j], im[last - j]);
        mix(re, first, gap);
        mix(im, first, gap);
        for (int k = 1, row = gap; k <= size / 2; k++, row += gap) {
            double[] sumRe = re[first + row], sumIm = im[first + row], differenceRe = re[last - row], differenceIm = im[last - row];
            if (turns == null)
                join(sumRe, sumIm, differenceRe, differenceIm);
            else
                joinAndTurn(sumRe, sumIm, differenceRe, differenceIm, turns, at + (k - 1) * TURN, at + (size - k - 1) * TURN);
        }
    }

    /// Sums by cosines, differences by sines.
    private void mix(double[][] x, int first, int gap) {
        double[] x0 = x[first], x1 = x[first + gap], x2 = x[first + 2 * gap];
        switch (this) {
            case THREE -> {
                cosines(x0, x1, cos[0]);
                scale(x2, sin[0]);
            }
            case FIVE -> {
                cosines(x0, x1, x2, cos[0], cos[1]);
                sines(x[first + 4 * gap], x[first + 3 * gap], sin[0], sin[1]);
            }
            default -> {
                cosines(x0, x1, x2, x[first + 3 * gap], cos[0], cos[1], cos[2]);
                sines(x[first + 6 * gap], x[first + 5 * gap], x[first + 4 * gap], sin[0], sin[1], sin[2]);
            }
        }
    }

    private static void sumAndDifference(double[] ar, double[] br, double[] ai, double[] bi) {
        for (int q = 0; q < ar.length; q++) {
            double dr = ar[q] - br[q], di = ai[q] - bi[q];
            ar[q] += br[q];
            ai[q] += bi[q];
            br[q] = dr;
            bi[q] = di;
        }
    }

    private static void four(double[] r0, double[] r1, double[] r2, double[] r3, double[] i0, double[] i1, double[] i2, double[] i3) {
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

    private static void cosines(double[] x, double[] t1, double c1) {
        for (int q = 0; q < x.length; q++) {
            double m = x[q], a = t1[q];
            x[q] = m + a;
            t1[q] = m + c1 * a;
        }
    }

    private static void cosines(double[] x, double[] t1, double[] t2, double c1, double c2) {
        for (int q = 0; q < x.length; q++) {
            double m = x[q], a = t1[q], b = t2[q];
            x[q] = m + a + b;
            t1[q] = m + c1 * a + c2 * b;
            t2[q] = m + c2 * a + c1 * b;
        }
    }

    private static void cosines(double[] x, double[] t1, double[] t2, double[] t3, double c1, double c2, double c3) {
        for (int q = 0; q < x.length; q++) {
            double m = x[q], a = t1[q], b = t2[q], c = t3[q];
            x[q] = m + a + b + c;
            t1[q] = m + c1 * a + c2 * b + c3 * c;
            t2[q] = m + c2 * a + c3 * b + c1 * c;
            t3[q] = m + c3 * a + c1 * b + c2 * c;
        }
    }

    private static void scale(double[] x, double factor) {
        for (int q = 0; q < x.length; q++)
            x[q] *= factor;
    }

    // The leading zeros give the sums the shape of those above, which become vectors.

    private static void sines(double[] u1, double[] u2, double s1, double s2) {
        for (int q = 0; q < u1.length; q++) {
            double a = u1[q], b = u2[q];
            u1[q] = 0.0 + s1 * a + s2 * b;
            u2[q] = 0.0 + s2 * a - s1 * b;
        }
    }

    private static void sines(double[] u1, double[] u2, double[] u3, double s1, double s2, double s3) {
        for (int q = 0; q < u1.length; q++) {
            double a = u1[q], b = u2[q], c = u3[q];
            u1[q] = 0.0 + s1 * a + s2 * b + s3 * c;
            u2[q] = 0.0 + s2 * a - s3 * b - s1 * c;
            u3[q] = 0.0 + s3 * a - s1 * b + s2 * c;
        }
    }

    /// Makes `m − in` and `m + in` of `m` and `n`.
    private static void join(double[] mr, double[] mi, double[] nr, double[] ni) {
        for (int q = 0; q < mr.length; q++) {
            double ar = mr[q] + ni[q], ai = mi[q] - nr[q], br = mr[q] - ni[q], bi = mi[q] + nr[q];
            mr[q] = ar;
            mi[q] = ai;
            nr[q] = br;
            ni[q] = bi;
        }
    }

    private static void joinAndTurn(double[] mr, double[] mi, double[] nr, double[] ni, double[] turns, int atM, int atN) {
        double cm = turns[atM], dm = turns[atM + 1], em = turns[atM + 2], cn = turns[atN], dn = turns[atN + 1], en = turns[atN + 2];
        for (int q = 0; q < mr.length; q++) {
            double ar = mr[q] + ni[q], ai = mi[q] - nr[q], br = mr[q] - ni[q], bi = mi[q] + nr[q], k = cm * (ar + ai), l = cn * (br + bi);
            mr[q] = k - em * ai;
            mi[q] = k + dm * ar;
            nr[q] = l - en * bi;
            ni[q] = l + dn * br;
        }
    }

    /// Multiplies by `c + is`, with three products: `k = c (r + i)`, `k − (c + s) i`, `k + (s − c) r`.
    private static void turn(double[] re, double[] im, double[] turns, int at) {
        double c = turns[at], d = turns[at + 1], e = turns[at + 2];
        for (int q = 0; q < re.length; q++) {
            double r = re[q], i = im[q], k = c * (r + i);
            re[q] = k - e * i;
            im[q] = k + d * r;
        }
    }
}
