package ablecrate.standins;

import java.util.ArrayList;
import java.util.List;

/// Plays a preset as a device does: 32 voices, notes, sustain pedal, bend and modulation wheels; straight lines between samples, or a curve through four.
public final class DevicePlayer {
    /// Vibrato is renewed so often, in frames.
    private static final int VOICES = 32, STEP = 32;
    private static final double SILENT_DB = -100, FASTEST = 1024;

    private final Preset preset;
    private final int rateHz;
    private final List<Voice> voices = new ArrayList<>();
    private double bend = 1, wheel;
    private boolean isSustained;

    public DevicePlayer(Preset preset, int rateHz) {
        this.preset = preset;
        this.rateHz = rateHz;
    }

    public void noteOn(int key, int velocity) {
        if (preset.playing().isMono()) voices.forEach(Voice::release);
        for (Preset.Slot slot : preset.slots()) {
            if (!slot.covers(key, velocity)) continue;
            if (slot.group() > 0) voices.stream().filter(v -> v.slot.group() == slot.group() && v.isFromBefore).forEach(Voice::release);
            voices.add(new Voice(slot, key, velocity));
        }
        voices.forEach(v -> v.isFromBefore = true);
        while (voices.size() > VOICES)
            voices.removeFirst();
    }

    public void noteOff(int key) {
        for (Voice voice : voices)
            if (voice.key == key && !voice.slot.isOneShot()) {
                voice.isLetGo = true;
                if (!isSustained) voice.release();
            }
    }

    public void sustain(boolean down) {
        isSustained = down;
        if (!down) voices.stream().filter(v -> v.isLetGo).forEach(Voice::release);
    }

    /// @param position −1 … 1
    public void bend(double position) { bend = Math.pow(2, position * preset.playing().bendKeys() / 12); }

    /// The modulation wheel.
    /// @param position 0 … 1
    public void wheel(double position) { wheel = position; }

    public boolean isSilent() { return voices.isEmpty(); }

    /// Adds to `[left, right][at … at + count)`.
    public void render(double[][] out, int at, int count) {
        for (int i = 0; i < count; i++)
            for (Voice voice : voices)
                voice.add(out, at + i);
        voices.removeIf(v -> v.isOver);
    }

    private final class Voice {
        private final Preset.Slot slot;
        private final int key;
        private final double[][] planes;
        private final double step, left, right;
        private final LowPass[] filters;
        private double position, seconds, sway = 1, releasedAt = Double.POSITIVE_INFINITY, levelAtRelease;
        private int direction = 1, played;
        private boolean isFromBefore, isLetGo, isOver;

        Voice(Preset.Slot slot, int key, int velocity) {
            this.slot = slot;
            this.key = key;
            planes = slot.sound().planes();
            position = slot.from();
            step = Math.pow(2, (slot.cents() + (key - slot.root()) * slot.centsPerKey()) / 1200) * slot.sound().rateHz() / rateHz;
            double gain = Math.pow(10, slot.gainDb() / 20) * Math.pow(velocity / 127.0, 2 * slot.velocityPercent() / 100), pan = slot.pan() / 100;
            filters = new LowPass[]{new LowPass(slot.shape(), rateHz), new LowPass(slot.shape(), rateHz)};
            // What no ear hears any more is not played.
            isOver = !(step <= FASTEST);
            boolean isMono = planes.length == 1;
            left = gain * (isMono ? Math.cos((pan + 1) * Math.PI / 4) : Math.min(1, 1 - pan));
            right = gain * (isMono ? Math.sin((pan + 1) * Math.PI / 4) : Math.min(1, 1 + pan));
        }

        void release() {
            if (seconds < releasedAt) {
                levelAtRelease = held();
                releasedAt = seconds;
            }
        }

        private double held() {
            Preset.Shape shape = slot.shape();
            if (seconds < shape.attack()) return seconds / shape.attack();
            double t = seconds - shape.attack() - shape.hold();
            return t <= 0 ? 1 : Math.pow(10, (t < shape.decay() ? shape.sustainDb() * t / shape.decay() : shape.sustainDb()) / 20);
        }

        private double level() {
            if (seconds < releasedAt) return held();
            double t = (seconds - releasedAt) / Math.max(0.002, slot.shape().release());
            if (t >= 1) isOver = true;
            return levelAtRelease * Math.pow(10, SILENT_DB * t / 20);
        }

        void add(double[][] out, int at) {
            if (isOver) return;
            double level = level();
            double l = filters[0].pass(sample(planes[0])), r = planes.length == 1 ? l : filters[1].pass(sample(planes[1]));
            out[0][at] += l * level * left;
            out[1][at] += r * level * right;
            if (played++ % STEP == 0) sway = Math.pow(2, slot.shape().vibrato().at(seconds, wheel) / 1200);
            seconds += 1.0 / rateHz;
            move();
        }

        private void move() {
            position += direction * step * bend * sway;
            Preset.Loop loop = slot.loop();
            if (loop.end() == 0)
                isOver |= position >= slot.to();
            else
                if (loop.alternates())
                    turn(loop.start(), loop.end() - 1);
                else
                    if (position >= loop.end()) position = loop.start() + (position - loop.start()) % (loop.end() - loop.start());
        }

        /// On the loop's first frame and its last, as often as a step goes round a short one.
        private void turn(int first, int last) {
            if (direction > 0 ? position <= last : position >= first) return;
            double way = last - first, along = direction > 0 ? position - first : 2 * way - (position - first), round = way == 0 ? 0 : along % (2 * way);
            direction = round <= way ? 1 : -1;
            position = first + (round <= way ? round : 2 * way - round);
        }

        private double sample(double[] plane) {
            int i = (int) position;
            Preset.Loop loop = slot.loop();
            double t = position - i, now = plane[i], next = frame(plane, i + 1), y = preset.playing().isSmooth()
                    ? curve(i == 0 ? 0 : plane[i - 1], now, next, frame(plane, i + 2), t)
                    : now + t * (next - now);

            double into = position - (loop.end() - loop.crossfade());
            if (loop.crossfade() > 0 && into > 0 && into <= loop.crossfade()) {
                int before = i - (loop.end() - loop.start());
                double share = into / loop.crossfade();
                y = y * (1 - share) + (plane[before] + t * (plane[before + 1] - plane[before])) * share;
            }
            return y;
        }

        /// Behind the end of a loop that goes on at its start it is that of the start; nothing is behind the end of the sound.
        private double frame(double[] plane, int i) {
            Preset.Loop loop = slot.loop();
            int at = loop.end() > 0 && i >= loop.end() && !loop.alternates() ? loop.start() + (i - loop.end()) % (loop.end() - loop.start()) : i;
            return at < plane.length ? plane[at] : 0;
        }

        /// The cubic curve through two samples with the slopes that their neighbours give them (Catmull and Rom 1974).
        /// @param t from `now`, 0, to `next`, 1
        private static double curve(double before, double now, double next, double after, double t) {
            double slope = (next - before) / 2, nextSlope = (after - now) / 2, rise = next - now;
            return now + t * (slope + t * (3 * rise - 2 * slope - nextSlope + t * (slope + nextSlope - 2 * rise)));
        }
    }
}
