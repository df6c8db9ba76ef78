package ablecrate.play;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;

/// Delay, attack, hold, decay, sustain, release. The attack rises in a straight line. Decay and release of the level fall evenly in decibels, those of a filter
/// in a straight line, as it is in cents what a filter moves by (SoundFont 2.04, section 8.1.2, generators 28 and 36).
final class Envelope {
    /// What counts as silence.
    private static final double SILENT_DB = -100;

    private final double delay, attack, hold, decay, sustainDb, sustain, release;
    private final boolean isStraight;
    private double time, releasedAt = Double.POSITIVE_INFINITY, levelAtRelease;

    private Envelope(Zone zone, Parameter<Double> attack, Parameter<Double> hold, Parameter<Double> decay, Parameter<Double> release, double delay,
            double sustain, boolean isStraight) {
        this.delay = delay;
        this.attack = zone.get(attack);
        this.hold = zone.get(hold);
        this.decay = zone.get(decay);
        this.release = Math.max(zone.get(release), 0.002);
        this.isStraight = isStraight;
        sustainDb = sustain <= db(SILENT_DB) ? SILENT_DB : 20 * Math.log10(sustain);
        this.sustain = !isStraight && sustainDb <= SILENT_DB ? 0 : sustain;
    }

    static Envelope ofLevel(Zone zone) {
        return new Envelope(zone, Parameter.ATTACK, Parameter.HOLD, Parameter.DECAY, Parameter.RELEASE, zone.get(Parameter.DELAY),
                db(zone.get(Parameter.SUSTAIN)), false);
    }

    static Envelope ofFilter(Zone zone) {
        return new Envelope(zone, Parameter.FILTER_ATTACK, Parameter.FILTER_HOLD, Parameter.FILTER_DECAY, Parameter.FILTER_RELEASE, 0,
                zone.get(Parameter.FILTER_SUSTAIN) / 100, true);
    }

    void advance(double seconds) { time += seconds; }

    void release() {
        if (!isReleased()) {
            levelAtRelease = held();
            releasedAt = time;
        }
    }

    boolean isReleased() { return time >= releasedAt; }

    boolean isOver() {
        return isReleased() ? levelAtRelease == 0 || time - releasedAt > release : sustainDb <= SILENT_DB && time > delay + attack + hold + decay;
    }

    /// A factor.
    double level() {
        if (!isReleased()) return held();
        double part = (time - releasedAt) / release;
        return isStraight ? Math.max(0, levelAtRelease - part) : levelAtRelease * db(SILENT_DB * part);
    }

    private double held() {
        double t = time - delay;
        if (t < 0) return 0;
        if (t < attack) return t / attack;
        t -= attack + hold;
        if (t < 0) return 1;
        if (t >= decay) return sustain;
        return isStraight ? 1 + (sustain - 1) * t / decay : db(sustainDb * t / decay);
    }

    private static double db(double decibels) { return Math.pow(10, decibels / 20); }
}
