package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.dsp.Seam;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;

/// Says how well a loop that alternates can be heard.
///
/// At a turn the sound goes on, backwards: partials that are not at their peaks change their phase there, and grow softer around it. So what is heard around a
/// turn is held against what the sound itself is there, by the windows of [LoopJudge] and over what the sound changes by itself. The worse of both turns and of
/// all channels decides.
public final class TurnJudge {
    private final LoopJudge of;
    private final double[][] planes;

    public TurnJudge(LoopJudge of) {
        this.of = of;
        planes = of.planes();
    }

    /// @param loop at least two frames, within the sound
    public LoopQuality judge(FrameRange loop) {
        List<LoopJudge.Window> windows = of.windows();
        int reach = windows.getLast().bands().length();
        double bump = 0, click = Double.NEGATIVE_INFINITY;
        for (boolean isEnd : new boolean[]{true, false}) {
            int turn = (int) (isEnd ? loop.end() - 1 : loop.start());
            double[][] played = played(loop, isEnd, reach);
            for (int channel = 0; channel < planes.length; channel++)
                for (LoopJudge.Window window : windows)
                    bump = Math.max(bump, change(window.bands(), planes[channel], turn, played[channel], reach) / window.usualDb());
            click = Math.max(click, of.clickDb(played, reach));
        }
        return new LoopQuality(bump, click, 0, 0);
    }

    /// From the sound around a place to what is played there. Where the sound itself does not go on, what precedes is all there is to hold it against.
    private static double change(ThirdOctaves bands, double[] plane, int turn, double[] played, int at) {
        int length = bands.length(), from = Math.max(0, Math.min(turn + 1 - length / 2, plane.length - length));
        if (from + length > plane.length) return 0;
        double[] both = Arrays.copyOf(Arrays.copyOfRange(plane, from, from + length), 2 * length);
        System.arraycopy(played, at - length / 2, both, length, length);
        return bands.change(both, 0, length);
    }

    /// What is heard around a turn, `reach` frames up to it and after it; the frame at which it turns is played once.
    private double[][] played(FrameRange loop, boolean isEnd, int reach) {
        int last = (int) loop.length() - 1;
        double[][] out = new double[planes.length][2 * reach];
        for (int n = 0; n < 2 * reach; n++) {
            int way = Math.floorMod((isEnd ? last : 0) + n - reach + 1, 2 * last), at = (int) loop.start() + (way <= last ? way : 2 * last - way);
            for (int channel = 0; channel < planes.length; channel++)
                out[channel][n] = planes[channel][at];
        }
        return out;
    }

    /// The step that is left at the worse of the turns, see [Seam].
    double stepDb(FrameRange loop) {
        int around = (int) Math.min(Seam.AROUND, loop.length());
        return Stream.of(true, false)
                .mapToDouble(isEnd -> Seam.turnDb(Arrays.stream(played(loop, isEnd, around)).map(p -> Arrays.copyOf(p, around)).toArray(double[][]::new)))
                .max().orElseThrow();
    }
}
