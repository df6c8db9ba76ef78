package ablecrate.fit;

import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/// How loud a note goes on where its key is held for longer than it is rendered: told from the levels of its sounds, as rendering that would take five times as long.
/// @param parts of each late block, the mean power as a part of the last rendered one's
/// @param isEnding whether one of its sounds has no loop and ends by itself
record LongNote(double[] parts, boolean isEnding) {
    private static final int LAST_BLOCK = HeardNote.HELD_BLOCKS - 1;

    /// @param zones that sound together, one at the least
    static LongNote of(List<Zone> zones, Voices.Sounds sounds, int key) {
        boolean isEnding = zones.stream().anyMatch(z -> sounds.sound(z.sample()).filter(s -> loop(z, s).isEmpty()).isPresent());
        double[] powers = IntStream.rangeClosed(LAST_BLOCK, LAST_BLOCK + HeardNote.LATE_BLOCKS)
                .mapToDouble(block -> isEnding ? power(zones, sounds, key, block) : envelope(zones.getFirst(), block)).toArray();
        return new LongNote(Arrays.stream(powers).skip(1).map(power -> powers[0] > 0 ? power / powers[0] : 0).toArray(), isEnding);
    }

    /// The loop in which it goes on while its key is held, as the player has it.
    private static Optional<Loop> loop(Zone zone, LoadedSound sound) {
        return zone.get(Parameter.LOOPS).stream().filter(l -> l.use() == Loop.Use.SUSTAIN && l.frames().end() <= sound.frames()).findFirst();
    }

    private static double power(List<Zone> zones, Voices.Sounds sounds, int key, int block) {
        double sum = 0;
        for (Zone zone : zones) {
            Optional<LoadedSound> sound = sounds.sound(zone.sample());
            if (sound.isPresent())
                sum += Math.pow(10, zone.get(Parameter.GAIN) / 10) * envelope(zone, block) * power(zone, sound.get(), key, block);
        }
        return sum;
    }

    /// Mean power of its samples while a block lasts; of a loop, of all of it.
    private static double power(Zone zone, LoadedSound sound, int key, int block) {
        double cents = zone.get(Parameter.TUNING) + (key - zone.get(Parameter.ROOT_KEY)) * zone.get(Parameter.KEY_TRACKING),
                framesPerSecond = sound.rateHz() * Math.pow(2, cents / 1200);
        double from = HeardNote.fromSeconds(block) * framesPerSecond, to = HeardNote.toSeconds(block) * framesPerSecond;
        Optional<Loop> loop = loop(zone, sound);
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

    /// Power of the envelope in the middle of a block, while the key is held.
    private static double envelope(Zone zone, int block) {
        double into = HeardNote.middleSeconds(block) - zone.get(Parameter.DELAY) - zone.get(Parameter.ATTACK) - zone.get(Parameter.HOLD),
                decay = zone.get(Parameter.DECAY);
        return Math.pow(10, zone.get(Parameter.SUSTAIN) * (into <= 0 ? 0 : into >= decay ? 1 : into / decay) / 10);
    }
}
