package ablecrate.signal;

import java.util.Optional;

/// How the sides of a stereo sound go together, as a whole and second by second. One per stream; not for two threads.
final class SidesMeter {
    /// A second that is softer than this on its louder side is not heard: −60 dBFS.
    private static final double HEARD = 1e-6;
    private static final double NOTHING_LEFT_DB = 200;

    private final int half;
    private final double rateHz;
    private double left, right, middle;
    private boolean areTheSame = true;
    /// Of the half second before, and of the one that is being added up.
    private double leftBefore, rightBefore, middleBefore, leftNow, rightNow, middleNow;
    private long position;
    private double worstDb, worstAtSeconds;

    SidesMeter(int rateHz) {
        this.rateHz = rateHz;
        half = Math.max(1, rateHz / 2);
    }

    void add(double[][] block, int count) {
        for (int i = 0; i < count; i++, position++) {
            double l = block[0][i], r = block[1][i], m = (l + r) / 2;
            areTheSame &= l == r;
            leftNow += l * l;
            rightNow += r * r;
            middleNow += m * m;
            if ((position + 1) % half == 0) endHalf();
        }
    }

    private void endHalf() {
        double loudest = Math.max(leftBefore + leftNow, rightBefore + rightNow);
        if (position + 1 >= 2L * half && loudest / (2 * half) > HEARD) {
            double loss = loss(leftBefore + leftNow, rightBefore + rightNow, middleBefore + middleNow);
            if (loss > worstDb) {
                worstDb = loss;
                worstAtSeconds = (position + 1 - 2L * half) / rateHz;
            }
        }
        addUp();
        leftBefore = leftNow;
        rightBefore = rightNow;
        middleBefore = middleNow;
        leftNow = rightNow = middleNow = 0;
    }

    private void addUp() {
        left += leftNow;
        right += rightNow;
        middle += middleNow;
    }

    private static double loss(double left, double right, double middle) {
        return middle == 0 ? NOTHING_LEFT_DB : Math.clamp(10 * Math.log10((left + right) / 2 / middle), 0, NOTHING_LEFT_DB);
    }

    Optional<Measurement.Sides> finish() {
        addUp();
        if (Math.max(left, right) == 0) return Optional.empty();
        double all = loss(left, right, middle);
        return Optional.of(new Measurement.Sides(all, areTheSame, left == 0, right == 0, Math.max(all, worstDb), worstAtSeconds));
    }
}
