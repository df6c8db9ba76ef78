package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;

/// A loop fitted to another rate: whole frames long, at the pitch it had.
///
/// Its new length L·r is seldom whole. Where the destination can be told a fine tuning, the whole sound is converted by the ratio M/L
/// instead of r, with M whole and next to L·r: the loop is exactly M frames, and what the sound is then out of tune, 1200·log2(M/(L·r))
/// cents, the player adds. Both ends of the loop keep the same fraction of a frame, so rounding moves the loop, not its length.
/// Where no tuning can be told the rate is converted by r, the loop is rounded, and the error named.
///
/// @param outputStep with `inputStep` the ratio that the sound is converted by
/// @param tuningCents what a player has to add
/// @param leftCents by which the loop is out of tune then: positive plays too high
public record LoopFit(FrameRange from, FrameRange to, long outputStep, long inputStep, double tuningCents, double leftCents) {
    /// @param fromStep,toStep the ratio of rates
    /// @param tunedBefore the fine tuning that the sound has already
    /// @param alternates whether it goes back and forth: then the way from turn to turn, a frame less than its length, is what has to be whole
    public static LoopFit of(FrameRange loop, boolean alternates, long fromStep, long toStep, Capabilities.FineTune tuning, double tunedBefore) {
        if (alternates && loop.length() > 1) {
            LoopFit way = of(new FrameRange(loop.start(), loop.end() - 1), false, fromStep, toStep, tuning, tunedBefore);
            return new LoopFit(loop, new FrameRange(way.to.start(), way.to.end() + 1), way.outputStep, way.inputStep, way.tuningCents, way.leftCents);
        }
        long length = loop.length();
        double exact = (double) length * toStep / fromStep;
        if (length * toStep % fromStep == 0 || tuning == Capabilities.FineTune.NONE)
            return of(loop, toStep, fromStep, Math.max(1, Math.round(exact)), exact, 0, true);
        LoopFit best = null;
        for (long whole = Math.max(1, (long) Math.floor(exact)); whole <= Math.ceil(exact); whole++) {
            double add = cents(whole / exact), told = tuning == Capabilities.FineTune.EXACT ? add : Math.rint(tunedBefore + add) - tunedBefore;
            LoopFit fit = of(loop, whole, length, whole, exact, told, false);
            if (best == null || rank(fit) < rank(best)) best = fit;
        }
        return best;
    }

    /// The smallest error counts; among equals the smallest move.
    private static double rank(LoopFit fit) { return Math.abs(fit.leftCents) + 1e-4 * Math.abs(fit.tuningCents); }

    private static LoopFit of(FrameRange loop, long outputStep, long inputStep, long whole, double exact, double told, boolean isRounded) {
        long start = Math.round((double) loop.start() * outputStep / inputStep);
        double left = isRounded ? -cents(whole / exact) : told - cents(whole / exact);
        return new LoopFit(loop, new FrameRange(start, start + whole), outputStep, inputStep, told, left);
    }

    private static double cents(double ratio) { return 1200 * Math.log(ratio) / Math.log(2); }
}
