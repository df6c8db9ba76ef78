package ablecrate.play;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;

/// An instrument under the fingers: notes start and end, and what sounds is read as a stream. Not for two threads.
public final class Voices {
    /// More than these and the oldest goes.
    private static final int MOST = 64;

    /// Gives the sounds of zones, by their sample numbers; empty where one is missing.
    public interface Sounds {
        Optional<LoadedSound> sound(int sample);
    }

    private final Instrument instrument;
    private final Sounds sounds;
    private final int rateHz;
    private final Random random;
    private final List<Voice> voices = new ArrayList<>();
    /// By the range of choosing keys, the one pressed last.
    private final Map<Span, Integer> chosen = new HashMap<>();
    /// Keys that were let go while the pedal is down.
    private final Set<Integer> held = new HashSet<>();
    private final Map<Integer, Integer> notesOfKey = new HashMap<>(), velocityOfKey = new HashMap<>();

    private double bend, wheel;
    private boolean isSustained;

    public Voices(Instrument instrument, Sounds sounds, int rateHz, Random random) {
        this.instrument = instrument;
        this.sounds = sounds;
        this.rateHz = rateHz;
        this.random = random;
    }

    /// @param velocity 1…127
    /// @return the zones that sound
    public List<Zone> noteOn(int key, int velocity) {
        if (held.remove(key)) letGo(key);
        int count = notesOfKey.merge(key, 1, Integer::sum) - 1;
        velocityOfKey.put(key, velocity);
        instrument.zones().stream().flatMap(z -> z.get(Parameter.SWITCH).stream()).map(KeySwitch::keys).filter(k -> k.contains(key))
                .forEach(k -> chosen.put(k, key));
        return start(key, velocity, count, Trigger.RELEASE, false);
    }

    /// The key is let go; release samples sound at the velocity it was struck with.
    public void noteOff(int key) {
        if (isSustained)
            held.add(key);
        else
            letGo(key);
    }

    /// The pedal: keys that are let go while it is down sound on until it goes up, or they are struck anew.
    public void sustain(boolean isDown) {
        isSustained = isDown;
        if (isDown) return;
        held.forEach(this::letGo);
        held.clear();
    }

    /// @param position of the bend wheel, −1 to 1
    public void bend(double position) { bend = position; }

    /// @param position of the modulation wheel, 0 to 1
    public void wheel(double position) { wheel = position; }

    private void letGo(int key) {
        voices.stream().filter(v -> v.key() == key).forEach(Voice::release);
        start(key, velocityOfKey.getOrDefault(key, 64), notesOfKey.getOrDefault(key, 1) - 1, Trigger.RELEASE, true);
    }

    public void silence() { voices.forEach(Voice::silence); }

    private boolean isChosen(Zone zone) {
        return zone.get(Parameter.SWITCH).map(s -> chosen.getOrDefault(s.keys(), s.first().orElse(-1)) == s.key()).orElse(true);
    }

    private List<Zone> start(int key, int velocity, int count, Trigger trigger, boolean isWanted) {
        double chance = random.nextDouble();
        List<Zone> out = new ArrayList<>();
        for (Zone zone : instrument.zones()) {
            if (!zone.covers(key, velocity) || !isChosen(zone) || zone.get(Parameter.TRIGGER) == trigger != isWanted
                    || !zone.get(Parameter.TURN).isDueAfter(count)
                    || !zone.get(Parameter.CHANCE).contains(chance))
                continue;
            Optional<LoadedSound> sound = sounds.sound(zone.sample());
            if (sound.isEmpty()) continue;
            int group = zone.get(Parameter.EXCLUSIVE_GROUP);
            if (group > 0) voices.stream().filter(v -> v.zone().get(Parameter.SILENCED_BY) == group && !out.contains(v.zone())).forEach(Voice::silence);
            voices.add(new Voice(zone, key, velocity, sound.get(), rateHz));
            out.add(zone);
        }
        while (voices.size() > MOST)
            voices.removeFirst();
        return out;
    }

    public boolean isSilent() { return voices.isEmpty(); }

    /// Fills `[left, right][0 … count)`.
    public void render(double[][] block, int count) {
        for (double[] plane : block)
            Arrays.fill(plane, 0, count, 0);
        add(block, 0, count);
    }

    /// Adds to `[left, right][at … at + count)`.
    public void add(double[][] out, int at, int count) {
        voices.forEach(v -> v.add(out, at, count, bend, wheel));
        voices.removeIf(Voice::isOver);
    }
}
