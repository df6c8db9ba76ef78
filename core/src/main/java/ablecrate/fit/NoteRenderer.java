package ablecrate.fit;

import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.play.Voices;
import java.util.List;
import java.util.Optional;
import java.util.Random;

/// Notes as our own player plays them.
final class NoteRenderer {
    /// Behind a note's end, for the last window.
    private static final double MORE_SECONDS = 0.05;
    private static final int BLOCK = 1024;

    private NoteRenderer() {}

    /// A note of the usual length: `[left, right][frame]`.
    static double[][] note(List<Zone> zones, Voices.Sounds sounds, int key, int velocity) {
        return render(zones, sounds, key, velocity, HeardNote.HELD_SECONDS, HeardNote.HELD_SECONDS + HeardNote.RELEASE_SECONDS);
    }

    /// A note that is held for so long.
    static double[][] held(List<Zone> zones, Voices.Sounds sounds, int key, int velocity, double seconds) {
        return render(zones, sounds, key, velocity, Double.POSITIVE_INFINITY, seconds);
    }

    private static double[][] render(List<Zone> zones, Voices.Sounds sounds, int key, int velocity, double heldSeconds, double seconds) {
        int rate = NoteAnalyser.RATE_HZ, frames = (int) Math.round((seconds + MORE_SECONDS) * rate);
        double[][] out = new double[2][frames];
        Instrument instrument = new Instrument(About.named(""), Optional.empty(), List.of(new ZoneGroup("", zones)));
        // Choices at random are the same ones each time.
        Voices voices = new Voices(instrument, sounds, rate, new Random(1));
        voices.noteOn(key, velocity);
        long release = heldSeconds == Double.POSITIVE_INFINITY ? Long.MAX_VALUE : Math.round(heldSeconds * rate);
        boolean isHeld = true;
        for (int at = 0; at < frames;) {
            if (isHeld && at >= release) {
                voices.noteOff(key);
                isHeld = false;
            }
            if (voices.isSilent() && !isHeld) break;
            int count = (int) Math.min(Math.min(BLOCK, frames - at), isHeld ? release - at : BLOCK);
            voices.add(out, at, count);
            at += count;
        }
        return out;
    }
}
