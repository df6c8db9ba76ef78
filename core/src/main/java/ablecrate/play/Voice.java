package ablecrate.play;

import ablecrate.instrument.FadeCurve;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.Optional;

/// One zone sounding.
final class Voice {
    /// Settings that move (filter, vibrato, envelope) are renewed so often, in frames.
    private static final int STEP = 32;
    /// By which a filter's cutoff has to move before it is tuned anew: nobody hears less.
    private static final double LEAST_CENTS = 1;

    private final Zone zone;
    private final int key;
    private final LoadedSound sound;
    private final double ratio, leftGain, rightGain;
    private final Envelope level, filterEnvelope;
    private final Optional<Filter> filter;
    private final double[][] block = new double[2][STEP];
    private final int rateHz, velocity;
    private final long start, end;
    private final Optional<Loop> loop;
    /// Of the loop, in frames; 0 and 0 where there is none.
    private final int loopStart, loopEnd, loopCrossfade;
    private final boolean untilRelease, alternates, isBackward;
    private final double vibratoDepth, vibratoWheel, vibratoDelay, vibratoRate, bendUp, bendDown, cutoff, filterDepth;
    private double position, seconds;
    /// Of the envelopes, where the last step ended.
    private double levelBefore;
    /// What the filter's envelope had moved its cutoff by when it was last tuned.
    private double tunedCents = Double.NaN;
    private int direction = 1;
    private boolean over;

    Voice(Zone zone, int key, int velocity, LoadedSound sound, int rateHz) {
        this.zone = zone;
        this.key = key;
        this.velocity = velocity;
        this.sound = sound;
        this.rateHz = rateHz;
        double cents = zone.get(Parameter.TUNING) + (key - zone.get(Parameter.ROOT_KEY)) * zone.get(Parameter.KEY_TRACKING);
        ratio = Math.pow(2, cents / 1200) * sound.rateHz() / rateHz;
        double gain = Math.pow(10, zone.get(Parameter.GAIN) / 20) * velocityGain() * fades();
        double pan = zone.get(Parameter.PAN) / 100, angle = (pan + 1) * Math.PI / 4;
        boolean isMono = sound.planes().length == 1;
        // Mono by equal power, stereo by balance: a stereo sound in the middle stays as it is.
        leftGain = gain * (isMono ? Math.cos(angle) : Math.min(1, 1 - pan));
        rightGain = gain * (isMono ? Math.sin(angle) : Math.min(1, 1 + pan));
        level = Envelope.ofLevel(zone);
        filterEnvelope = Envelope.ofFilter(zone);
        filter = zone.get(Parameter.FILTER) == FilterKind.NONE
                ? Optional.empty()
                : Optional.of(new Filter(zone.get(Parameter.FILTER), rateHz, sound.planes().length, zone.get(Parameter.RESONANCE)));
        start = Math.min(zone.get(Parameter.START), sound.frames());
        end = Math.min(zone.get(Parameter.END).orElse((long) sound.frames()), sound.frames());
        loop = zone.get(Parameter.LOOPS).stream().filter(l -> l.use() == Loop.Use.SUSTAIN && l.frames().end() <= sound.frames() && l.frames().length() > 0)
                .findFirst();
        loopStart = loop.map(l -> (int) l.frames().start()).orElse(0);
        loopEnd = loop.map(l -> (int) l.frames().end()).orElse(0);
        loopCrossfade = (int) Math.min(loopStart, zone.get(Parameter.LOOP_CROSSFADE) * sound.rateHz());
        alternates = loop.filter(l -> l.mode() == LoopMode.ALTERNATING).isPresent();
        untilRelease = zone.get(Parameter.LOOP_UNTIL_RELEASE);
        isBackward = zone.get(Parameter.BACKWARD);
        vibratoDepth = zone.get(Parameter.VIBRATO_DEPTH);
        vibratoWheel = zone.get(Parameter.VIBRATO_WHEEL);
        vibratoDelay = zone.get(Parameter.VIBRATO_DELAY);
        vibratoRate = zone.get(Parameter.VIBRATO_RATE);
        bendUp = zone.get(Parameter.BEND_UP);
        bendDown = zone.get(Parameter.BEND_DOWN);
        cutoff = zone.get(Parameter.CUTOFF) * Math.pow(2, zone.get(Parameter.FILTER_VELOCITY) * velocity / 127.0 / 1200);
        filterDepth = zone.get(Parameter.FILTER_ENVELOPE);
        levelBefore = level.level();
        position = isBackward ? end - 1 : start;
        direction = isBackward ? -1 : 1;
        over = end <= start;
    }

    Zone zone() { return zone; }

    int key() { return key; }

    boolean isOver() { return over; }

    boolean isReleased() { return level.isReleased(); }

    void release() {
        if (!zone.get(Parameter.ONE_SHOT)) silence();
    }

    /// Ends it whatever it is.
    void silence() {
        level.release();
        filterEnvelope.release();
    }

    private double velocityGain() {
        double tracking = zone.get(Parameter.VELOCITY_TRACKING) / 100, square = velocity * velocity / (127.0 * 127);
        return tracking >= 0 ? Math.pow(square, tracking) : Math.pow(1 - square + 1e-4, -tracking);
    }

    private double fades() {
        return fade(zone.get(Parameter.KEY_FADE_IN), key, true, zone.get(Parameter.KEY_FADE_CURVE))
                * fade(zone.get(Parameter.KEY_FADE_OUT), key, false, zone.get(Parameter.KEY_FADE_CURVE))
                * fade(zone.get(Parameter.VELOCITY_FADE_IN), velocity, true, zone.get(Parameter.VELOCITY_FADE_CURVE))
                * fade(zone.get(Parameter.VELOCITY_FADE_OUT), velocity, false, zone.get(Parameter.VELOCITY_FADE_CURVE));
    }

    private static double fade(Optional<Span> span, int value, boolean isIn, FadeCurve curve) {
        if (span.isEmpty()) return 1;
        int low = span.get().low(), high = span.get().high();
        double share = high == low ? value >= high ? 1 : 0 : Math.clamp((value - low) / (double) (high - low), 0, 1), gain = isIn ? share : 1 - share;
        return curve == FadeCurve.POWER ? Math.sqrt(gain) : gain;
    }

    /// Adds its frames to `[left, right][at …]`.
    /// @param bend −1 to 1
    /// @param wheel of modulation, 0 to 1
    void add(double[][] out, int at, int count, double bend, double wheel) {
        double[] left = sound.planes()[0], right = sound.planes()[sound.planes().length - 1];
        boolean isMono = left == right;
        for (int i = 0; i < count && !over; i += STEP) {
            int n = Math.min(STEP, count - i);
            double from = levelBefore;
            level.advance((double) n / rateHz);
            filterEnvelope.advance((double) n / rateHz);
            seconds += (double) n / rateHz;
            levelBefore = level.level();
            double to = levelBefore, step = ratio * pitch(bend, wheel);
            filter.ifPresent(this::tune);
            double[] l = block[0], r = isMono ? l : block[1];
            int read = 0;
            while (read < n && !over) {
                // Where no end is near, no end is looked for.
                int ahead = framesAhead(step, n - read);
                if (ahead > 0) {
                    if (isMono)
                        read(left, step, l, read, ahead);
                    else
                        read(left, right, step, read, ahead);
                    position += ahead * step;
                    read += ahead;
                    continue;
                }

                l[read] = sampleAt(left, position);
                if (!isMono) r[read] = sampleAt(right, position);
                move(step);
                read++;
            }
            if (filter.isPresent()) {
                if (isMono)
                    filter.get().process(l, read);
                else
                    filter.get().process(l, r, read);
            }
            mix(l, from * leftGain, to * leftGain, n, out[0], at + i, read);
            mix(r, from * rightGain, to * rightGain, n, out[1], at + i, read);
            over |= level.isOver();
        }
    }

    /// Adds frames with a gain that goes evenly from one value to the other, which it would reach after so many.
    private static void mix(double[] x, double from, double to, int frames, double[] into, int at, int count) {
        double rise = (to - from) / frames;
        // Held notes mostly stay as loud as they are, and vector instructions are made of that loop.
        if (rise == 0)
            for (int k = 0; k < count; k++)
                into[at + k] += x[k] * from;
        else
            for (int k = 0; k < count; k++)
                into[at + k] += x[k] * (from + rise * k);
    }

    private double pitch(double bend, double wheel) {
        double t = seconds - vibratoDelay, depth = vibratoDepth + wheel * vibratoWheel, cents = bend < 0 ? -bend * bendDown : bend * bendUp;
        if (depth != 0 && t >= 0) cents += depth * Math.sin(2 * Math.PI * vibratoRate * t);
        return cents == 0 ? 1 : Math.pow(2, cents / 1200);
    }

    private void tune(Filter f) {
        double cents = filterDepth == 0 ? 0 : filterEnvelope.level() * filterDepth;
        if (Math.abs(cents - tunedCents) < LEAST_CENTS) return;
        tunedCents = cents;
        f.tune(cutoff * Math.pow(2, cents / 1200));
    }

    /// How many frames it goes on forward, at the least, before anything but four frames in a row is read.
    private int framesAhead(double step, int most) {
        if (direction < 0 || position < 1) return 0;
        long near = loopEnd > 0 && (position < loopEnd || loops()) ? Math.min(end, loopEnd - loopCrossfade) : end;
        return (int) Math.clamp((near - 2 - position) / step, 0, most);
    }

    /// Places are counted in 2⁻³² of a frame, as whole numbers fall apart into frame and rest sooner than others.
    private static long place(double frames) { return (long) (frames * (1L << 32)); }

    private static double rest(long place) { return (place & 0xFFFF_FFFFL) * 0x1p-32; }

    private void read(double[] x, double step, double[] into, int from, int count) {
        long at = place(position), by = place(step);
        for (int k = 0; k < count; k++, at += by) {
            int i = (int) (at >>> 32);
            into[from + k] = cubic(x[i - 1], x[i], x[i + 1], x[i + 2], rest(at));
        }
    }

    private void read(double[] left, double[] right, double step, int from, int count) {
        double[] l = block[0], r = block[1];
        long at = place(position), by = place(step);
        for (int k = 0; k < count; k++, at += by) {
            int i = (int) (at >>> 32);
            double t = rest(at);
            l[from + k] = cubic(left[i - 1], left[i], left[i + 1], left[i + 2], t);
            r[from + k] = cubic(right[i - 1], right[i], right[i + 1], right[i + 2], t);
        }
    }

    private boolean loops() { return loopEnd > 0 && !(untilRelease && level.isReleased()); }

    private void move(double step) {
        position += direction * step;
        if (loops()) {
            if (direction > 0 && position >= loopEnd) {
                if (alternates) {
                    direction = -1;
                    position = 2.0 * (loopEnd - 1) - position;
                } else
                    position = loopStart + (position - loopStart) % (loopEnd - loopStart);
            } else
                if (direction < 0 && position < loopStart && !isBackward) {
                    direction = 1;
                    position = 2.0 * loopStart - position;
                }
        }
        over |= direction > 0 ? position >= end && !loops() : position < start;
    }

    /// Between frames by a cubic through four of them. Behind a loop's end lies its start.
    private double sampleAt(double[] x, double at) {
        int i = (int) at;
        double t = at - i, a, b, c, d;
        if (i >= 1 && i + 2 < x.length && (loopEnd == 0 || i + 2 < loopEnd)) {
            a = x[i - 1];
            b = x[i];
            c = x[i + 1];
            d = x[i + 2];
        } else {
            a = frame(x, i - 1);
            b = frame(x, i);
            c = frame(x, i + 1);
            d = frame(x, i + 2);
        }
        double y = cubic(a, b, c, d, t);
        if (loopCrossfade > 0 && at > loopEnd - loopCrossfade && loops()) {
            double share = (at - (loopEnd - loopCrossfade)) / loopCrossfade;
            if (share <= 1) y = y * (1 - share) + frame(x, i - (loopEnd - loopStart)) * share;
        }
        return y;
    }

    private static double cubic(double a, double b, double c, double d, double t) {
        return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
    }

    private double frame(double[] x, int i) {
        if (i >= loopEnd && loops() && direction > 0) return x[loopStart + (i - loopStart) % (loopEnd - loopStart)];
        return i < 0 || i >= x.length ? 0 : x[i];
    }
}
