package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.LoopMode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.BooleanSupplier;

/// Finds the best places for a loop to turn and go back.
///
/// At a good turn the sound is like itself backwards: what follows mirrors what precedes. Such places are looked for all over the stable part by the
/// correlation of both, first at some 8 kHz, then to the frame; pairs of them are judged as they would be played.
final class TurnFinder {
    private static final double CONTEXT_SECONDS = 0.06, FINE_SECONDS = 0.012;
    /// The stable part is divided, so that turns are found all over it.
    private static final int DIVISIONS = 40, JUDGED = 22, SHORTEST = 3;
    private static final double LENGTH_WORTH = 0.12, UNLIKENESS_COST = 8;

    private TurnFinder() {}

    /// @param likeness of both sides of it, from -1 to 1
    private record Turn(int frame, double likeness) {}

    private record Candidate(Turn start, Turn end) {
        long length() { return end.frame() + 1L - start.frame(); }

        double guess(long shortest) {
            return UNLIKENESS_COST * (1 - Math.min(start.likeness(), end.likeness())) - LENGTH_WORTH * Math.log((double) length() / shortest) / Math.log(2);
        }
    }

    /// @param stable where turns may lie
    static List<FoundLoop> find(double[][] planes, int rateHz, LoopJudge judge, FrameRange stable, LoopWish wish, BooleanSupplier stopped) {
        List<Turn> turns = turns(planes, rateHz, stable);
        List<Candidate> candidates = new ArrayList<>();
        for (Turn start : turns)
            for (Turn end : turns) {
                Candidate c = new Candidate(start, end);
                if (c.length() >= Math.max(SHORTEST, wish.shortest()) && c.length() <= wish.longest()) candidates.add(c);
            }
        candidates.sort(Comparator.comparingDouble(c -> c.guess(wish.shortest())));
        TurnJudge ofTurns = new TurnJudge(judge);
        List<FoundLoop> found = new ArrayList<>();
        for (Candidate c : candidates.subList(0, Math.min(JUDGED, candidates.size()))) {
            if (stopped.getAsBoolean()) break;
            FrameRange loop = new FrameRange(c.start().frame(), c.end().frame() + 1);
            found.add(new FoundLoop(loop, LoopMode.ALTERNATING, 0, 0, ofTurns.stepDb(loop), ofTurns.judge(loop)));
        }
        return found;
    }

    /// The best of each division, to the frame.
    private static List<Turn> turns(double[][] planes, int rateHz, FrameRange stable) {
        int factor = LoopFinder.factor(rateHz);
        double[][] coarse = Arrays.stream(planes).limit(2).map(p -> LoopFinder.decimated(p, factor)).toArray(double[][]::new);
        int context = (int) Math.min(CONTEXT_SECONDS * rateHz / factor, stable.length() / factor / 3), from = (int) (stable.start() / factor),
                to = (int) Math.min(coarse[0].length, stable.end() / factor);
        List<Turn> turns = new ArrayList<>();
        for (int i = 0; i < DIVISIONS; i++) {
            int low = from + (int) ((long) (to - from) * i / DIVISIONS), high = from + (int) ((long) (to - from) * (i + 1) / DIVISIONS);
            Turn best = best(coarse, low, high, context);
            if (best.likeness() <= 0) continue;
            int middle = best.frame() * factor + factor / 2;
            turns.add(best(planes, (int) Math.max(stable.start(), middle - factor), (int) Math.min(stable.end(), middle + factor + 1),
                    (int) (FINE_SECONDS * rateHz)));
        }
        return turns;
    }

    private static Turn best(double[][] planes, int from, int to, int context) {
        Turn best = new Turn(from, -1);
        for (int at = Math.max(1, from); at < Math.min(planes[0].length - 1, to); at++) {
            double likeness = likeness(planes, at, Math.min(context, Math.min(at, planes[0].length - 1 - at)));
            if (likeness > best.likeness()) best = new Turn(at, likeness);
        }
        return best;
    }

    /// How like what follows a frame is to what precedes it, backwards.
    private static double likeness(double[][] planes, int at, int context) {
        double product = 0, energy = 0;
        for (double[] plane : planes)
            for (int n = 1; n <= context; n++) {
                product += plane[at - n] * plane[at + n];
                energy += plane[at - n] * plane[at - n] + plane[at + n] * plane[at + n];
            }
        return energy <= 0 ? 0 : 2 * product / energy;
    }
}
