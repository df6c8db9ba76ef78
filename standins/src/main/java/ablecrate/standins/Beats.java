package ablecrate.standins;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/// Where the beats of a session lie. A tempo counts quarter notes a minute and changes in steps; a beat is a note of the meter's unit.
final class Beats {
    static final Beats NONE = new Beats();
    private static final Set<String> TEMPO_KEYS = Set.of("bar", "bpm"), METER_KEYS = Set.of("bar", "beats", "unit");
    private static final int MOST_BEATS = 64;

    private final List<Meter> meters = new ArrayList<>();
    private final List<Tempo> tempos = new ArrayList<>();

    /// @param frame of the time line
    /// @param isFirst of its bar
    record Beat(long frame, boolean isFirst) {}

    /// @param quarter notes before it
    private record Meter(double bar, double quarter, int beats, int unit) {
        double quartersOfBeat() { return 4.0 / unit; }

        double quarterOf(double otherBar) { return quarter + (otherBar - bar) * beats * quartersOfBeat(); }
    }

    private record Tempo(double quarter, double frame, double framesOfQuarter) {
        double frameOf(double otherQuarter) { return frame + (otherQuarter - quarter) * framesOfQuarter; }
    }

    private Beats() {}

    static Beats of(JsonNode tempo, JsonNode meter, int rateHz) throws Refused {
        Beats beats = new Beats();
        for (JsonNode m : meter) {
            SessionHost.known(m, METER_KEYS, "meter");
            int bar = m.path("bar").asInt(), count = m.path("beats").asInt(), unit = m.path("unit").asInt();
            boolean isFirst = beats.meters.isEmpty();
            if (isFirst ? bar != 1 : bar <= beats.meters.getLast().bar()) throw new Refused("meters are not in the order of their bars, from bar 1 on");
            if (count < 1 || count > MOST_BEATS || unit < 1 || unit > MOST_BEATS || Integer.bitCount(unit) != 1)
                throw new Refused("a meter of " + count + "/" + unit);
            beats.meters.add(new Meter(bar, isFirst ? 0 : beats.meters.getLast().quarterOf(bar), count, unit));
        }
        for (JsonNode t : tempo) {
            SessionHost.known(t, TEMPO_KEYS, "tempo");
            double bar = t.path("bar").asDouble(), bpm = t.path("bpm").asDouble();
            if (!(bpm >= 10 && bpm <= 1000)) throw new Refused("a tempo of " + bpm + " bpm");
            if (beats.meters.isEmpty() || (beats.tempos.isEmpty() ? bar != 1 : !(bar >= 1))) throw new Refused("tempo and meters begin at bar 1");
            double quarter = beats.meters.reversed().stream().filter(m -> m.bar() <= bar).findFirst().orElseThrow().quarterOf(bar);
            if (!beats.tempos.isEmpty() && quarter <= beats.tempos.getLast().quarter()) throw new Refused("tempos are not in the order of their bars");
            beats.tempos.add(new Tempo(quarter, beats.tempos.isEmpty() ? 0 : beats.tempos.getLast().frameOf(quarter), 60.0 * rateHz / bpm));
        }
        return beats;
    }

    /// Those that begin in `[from, to)`.
    List<Beat> between(long from, long to) {
        List<Beat> found = new ArrayList<>();
        if (tempos.isEmpty()) return found;
        for (int i = 0; i < meters.size(); i++) {
            Meter meter = meters.get(i);
            double end = i + 1 < meters.size() ? meters.get(i + 1).quarter() : Double.MAX_VALUE, step = meter.quartersOfBeat();
            for (long n = Math.max(0, (long) Math.floor((quarter(from) - meter.quarter()) / step)); meter.quarter() + n * step < end - 1e-9; n++) {
                long frame = Math.round(frame(meter.quarter() + n * step));
                if (frame >= to) break;
                if (frame >= from) found.add(new Beat(frame, n % meter.beats() == 0));
            }
        }
        return found;
    }

    private double frame(double quarter) {
        return tempos.reversed().stream().filter(t -> t.quarter() <= quarter).findFirst().orElse(tempos.getFirst()).frameOf(quarter);
    }

    /// Of a frame, or a little before.
    private double quarter(double frame) {
        Tempo tempo = tempos.reversed().stream().filter(t -> t.frame() <= frame).findFirst().orElse(tempos.getFirst());
        return tempo.quarter() + (frame - tempo.frame()) / tempo.framesOfQuarter() - 1e-6;
    }
}
