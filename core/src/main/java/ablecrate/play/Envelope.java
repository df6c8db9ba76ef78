package ablecrate.play;

/// Delay, attack, hold, decay, sustain, release. The attack rises in a straight line, decay and release fall evenly in decibels.
final class Envelope {
    /// What counts as silence.
    private static final double SILENT_DB = -100;

    private final double delay, attack, hold, decay, sustainDb, sustain, release;
    private double time, releasedAt = Double.POSITIVE_INFINITY, levelAtRelease;

    Envelope(double delay, double attack, double hold, double decay, double sustainDb, double release) {
        this.delay = delay;
        this.attack = attack;
        this.hold = hold;
        this.decay = decay;
        this.sustainDb = Math.max(SILENT_DB, sustainDb);
        sustain = sustainDb <= SILENT_DB ? 0 : db(sustainDb);
        this.release = Math.max(release, 0.002);
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
    double level() { return isReleased() ? levelAtRelease * db(SILENT_DB * (time - releasedAt) / release) : held(); }

    private double held() {
        double t = time - delay;
        if (t < 0) return 0;
        if (t < attack) return t / attack;
        t -= attack + hold;
        if (t < 0) return 1;
        return t < decay ? db(sustainDb * t / decay) : sustain;
    }

    private static double db(double decibels) { return Math.pow(10, decibels / 20); }
}
