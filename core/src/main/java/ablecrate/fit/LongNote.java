package ablecrate.fit;

import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import java.util.List;
import java.util.Optional;

/// How loud a note goes on where its key is held for longer than it is rendered: told from the levels of its sounds, as rendering that would take three times as long.
/// @param parts of each late block, the mean power as a part of the last rendered one's
/// @param isEnding whether one of its sounds has no loop and ends by itself
record LongNote(double[] parts, boolean isEnding) {
    static LongNote of(List<Zone> zones, Voices.Sounds sounds, int key) {
        double[] parts = new double[HeardNote.LATE_BLOCKS];
        double rendered = power(zones, sounds, key, HeardNote.HELD_BLOCKS - 1);
        for (int late = 0; late < parts.length; late++)
            parts[late] = rendered > 0 ? power(zones, sounds, key, HeardNote.HELD_BLOCKS + late) / rendered : 0;
        return new LongNote(parts, zones.stream().anyMatch(z -> !isLooped(z)));
    }

    private static boolean isLooped(Zone zone) { return zone.get(Parameter.LOOPS).stream().anyMatch(l -> l.use() == Loop.Use.SUSTAIN); }

    private static double power(List<Zone> zones, Voices.Sounds sounds, int key, int block) {
        double sum = 0;
        for (Zone zone : zones) {
            Optional<LoadedSound> sound = sounds.sound(zone.sample());
            if (sound.isPresent())
                sum += Math.pow(10, (zone.get(Parameter.GAIN) + heldDb(zone, HeardNote.middleSeconds(block))) / 10) * power(zone, sound.get(), key, block);
        }
        return sum;
    }

    /// Mean power of its samples while a block lasts; of a loop, of all of it.
    private static double power(Zone zone, LoadedSound sound, int key, int block) {
        double cents = zone.get(Parameter.TUNING) + (key - zone.get(Parameter.ROOT_KEY)) * zone.get(Parameter.KEY_TRACKING),
                framesPerSecond = sound.rateHz() * Math.pow(2, cents / 1200);
        double from = HeardNote.fromSeconds(block) * framesPerSecond, to = HeardNote.toSeconds(block) * framesPerSecond;
        Optional<Loop> loop = zone.get(Parameter.LOOPS).stream().filter(l -> l.use() == Loop.Use.SUSTAIN && l.frames().end() <= sound.frames()).findFirst();
        if (loop.isPresent() && from >= loop.get().frames().start())
            return mean(sound, loop.get().frames().start(), loop.get().frames().end(), loop.get().frames().length());
        long start = zone.get(Parameter.START), end = Math.min(sound.frames(), zone.get(Parameter.END).orElse((long) sound.frames()));
        return zone.get(Parameter.BACKWARD)
                ? mean(sound, Math.max(start, Math.round(end - to)), Math.round(end - from), to - from)
                : mean(sound, start + Math.round(from), Math.min(end, start + Math.round(to)), to - from);
    }

    /// @param frames by which it is divided; what lies behind the sound is silent
    private static double mean(LoadedSound sound, long from, long to, double frames) {
        double sum = 0;
        for (double[] plane : sound.planes())
            for (int i = (int) Math.max(0, from); i < Math.min(to, plane.length); i++)
                sum += plane[i] * plane[i];
        return sum / (frames * sound.planes().length);
    }

    /// Level of the envelope while the key is held, in dB.
    private static double heldDb(Zone zone, double seconds) {
        double into = seconds - zone.get(Parameter.DELAY) - zone.get(Parameter.ATTACK) - zone.get(Parameter.HOLD), decay = zone.get(Parameter.DECAY);
        return zone.get(Parameter.SUSTAIN) * (into <= 0 ? 0 : into >= decay ? 1 : into / decay);
    }
}
