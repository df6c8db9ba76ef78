package ablecrate.session;

import java.util.ArrayList;
import java.util.List;

/// Where bars lie on the time line. Bars are counted from 1; `2.5` is the middle of the second. Tempo and meter change in steps.
public final class TempoMap {
    private static final double SECONDS_A_MINUTE = 60, QUARTERS_OF_A_WHOLE = 4;

    /// From this bar on, beats a minute; a beat is a quarter note, whatever the meter.
    public record Tempo(double bar, double bpm) {
        static final double SLOWEST = 10, FASTEST = 1000;

        public Tempo {
            require(bar >= 1, "tempo: bars are counted from 1, found " + bar);
            require(bpm >= SLOWEST && bpm <= FASTEST, "tempo: " + bpm + " is no number of beats a minute from 10 to 1000");
        }
    }

    /// From this bar on, so many notes of which `unit` make a whole one: 6/8.
    public record Meter(int bar, int beats, int unit) {
        private static final int MOST = 64;

        public Meter {
            require(bar >= 1, "meters: bars are counted from 1, found " + bar);
            require(beats >= 1 && beats <= MOST && unit >= 1 && unit <= MOST && Integer.bitCount(unit) == 1, "meters: " + beats + "/" + unit + " is no meter");
        }

        double quarters() { return beats * QUARTERS_OF_A_WHOLE / unit; }
    }

    /// From a place on, one measure of the time line for another, in proportion.
    private record Step(double from, double to, double rise) {}

    private final int rateHz;
    private final List<Step> quarters = new ArrayList<>(), frames = new ArrayList<>();

    /// @param tempos,meters in order, the first of each at bar 1
    public TempoMap(List<Tempo> tempos, List<Meter> meters, int rateHz) {
        this.rateHz = rateHz;
        require(!tempos.isEmpty() && tempos.getFirst().bar() == 1, "tempo: the first is at bar 1");
        require(!meters.isEmpty() && meters.getFirst().bar() == 1, "meters: the first is at bar 1");
        for (Meter meter : meters) {
            require(quarters.isEmpty() || meter.bar() > quarters.getLast().from(), "meters: they are not in the order of their bars");
            quarters.add(new Step(meter.bar(), quarters.isEmpty() ? 0 : at(quarters, meter.bar()), meter.quarters()));
        }
        for (Tempo tempo : tempos) {
            double place = at(quarters, tempo.bar());
            require(frames.isEmpty() || place > frames.getLast().from(), "tempo: they are not in the order of their bars");
            frames.add(new Step(place, frames.isEmpty() ? 0 : at(frames, place), SECONDS_A_MINUTE * rateHz / tempo.bpm()));
        }
    }

    private static double at(List<Step> steps, double place) {
        Step step = steps.getFirst();
        for (Step next : steps)
            if (next.from() <= place) step = next;
        return step.to() + (place - step.from()) * step.rise();
    }

    private static double back(List<Step> steps, double place) {
        Step step = steps.getFirst();
        for (Step next : steps)
            if (next.to() <= place) step = next;
        return step.from() + (place - step.to()) / step.rise();
    }

    /// In frames since the start of bar 1.
    public double frame(double bar) { return at(frames, at(quarters, bar)); }

    /// Of a place in frames since the start of bar 1.
    public double bar(double frame) { return back(quarters, back(frames, frame)); }

    /// `bar 3, 0:04.000`
    public String text(double frame) {
        double bar = bar(frame), seconds = frame / rateHz;
        String whole = Math.abs(bar - Math.rint(bar)) < 1e-6 ? Long.toString(Math.round(bar)) : String.format(java.util.Locale.ROOT, "%.2f", bar);
        return String.format(java.util.Locale.ROOT, "bar %s, %d:%06.3f", whole, (long) (seconds / SECONDS_A_MINUTE), seconds % SECONDS_A_MINUTE);
    }

    static void require(boolean holds, String message) {
        if (!holds) throw new IllegalArgumentException(message);
    }
}
