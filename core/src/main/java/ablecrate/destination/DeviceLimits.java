package ablecrate.destination;

import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/// What a device holds of instruments, and of sounds; 0 is no limit.
/// @param layers velocity layers on a key
/// @param transposeKeys how far a sound may be moved from its root, up or down
/// @param lacks what the device cannot do with zones
/// @param playing which notes it plays
/// @param instrumentBytes memory for the audio of one instrument
/// @param totalBytes memory for the audio of all instruments together; of all sounds, where a device takes no instruments
/// @param sampleOverheadBytes that each sample takes beside its audio
public record DeviceLimits(int zones, int samples, int layers, int transposeKeys, List<String> lacks, Playing playing, long instrumentBytes,
        long totalBytes, int sampleOverheadBytes) {
    public static final DeviceLimits NONE = new DeviceLimits(0, 0, 0, 0, List.of(), Playing.ANY, 0, 0, 0);

    /// @param keys the lowest and the highest that sound; empty is all
    /// @param turns of a round robin; 0 is no limit
    public record Playing(List<Integer> keys, int turns) {
        public static final Playing ANY = new Playing(List.of(), 0);

        public Playing {
            keys = keys == null ? List.of() : List.copyOf(keys);
            if (!keys.isEmpty() && (keys.size() != 2 || keys.get(0) < 0 || keys.get(0) > keys.get(1) || keys.get(1) > 127))
                throw new IllegalArgumentException("limits.playing.keys: the lowest and the highest are expected, from 0 to 127, found " + keys);
            if (turns < 0 || turns > Turn.MOST) throw new IllegalArgumentException("limits.playing.turns: 0 to " + Turn.MOST + " are expected, found " + turns);
        }

        /// Keys that sound.
        public Span span() { return keys.isEmpty() ? new Span(0, 127) : new Span(keys.get(0), keys.get(1)); }
    }

    /// What players of instruments do, and some devices do not.
    public enum Skill {
        CROSSFADES, ROUND_ROBINS, RELEASE_SOUNDS, KEYSWITCHES, VELOCITY_CURVES;

        public String id() { return name().toLowerCase(Locale.ROOT).replace('_', '-'); }
    }

    public DeviceLimits {
        lacks = lacks == null ? List.of() : List.copyOf(lacks);
        playing = playing == null ? Playing.ANY : playing;
        if (zones < 0 || samples < 0 || layers < 0 || transposeKeys < 0 || instrumentBytes < 0 || totalBytes < 0 || sampleOverheadBytes < 0)
            throw new IllegalArgumentException("limits: numbers must not be negative");
        for (String skill : lacks)
            if (Arrays.stream(Skill.values()).noneMatch(s -> s.id().equals(skill)))
                throw new IllegalArgumentException("limits.lacks: '" + skill + "' is none of " + Arrays.stream(Skill.values()).map(Skill::id).toList());
    }

    public boolean isNone() { return equals(NONE); }

    /// Whether nothing is limited but memory for all sounds together.
    boolean isOfSounds() { return equals(new DeviceLimits(0, 0, 0, 0, List.of(), Playing.ANY, 0, totalBytes, sampleOverheadBytes)); }

    public boolean has(Skill skill) { return !lacks.contains(skill.id()); }

    /// The numbers alone.
    public DeviceLimits withoutSkills() {
        return new DeviceLimits(zones, samples, layers, transposeKeys, List.of(), Playing.ANY, instrumentBytes, totalBytes, sampleOverheadBytes);
    }

    public DeviceLimits withInstrumentBytes(long bytes) {
        return new DeviceLimits(zones, samples, layers, transposeKeys, lacks, playing, bytes, totalBytes, sampleOverheadBytes);
    }

    public DeviceLimits withTotalBytes(long bytes) {
        return new DeviceLimits(zones, samples, layers, transposeKeys, lacks, playing, instrumentBytes, bytes, sampleOverheadBytes);
    }

    /// Whether there is one memory, and nothing has a part of it for itself.
    public boolean isMemoryShared() { return totalBytes > 0 && instrumentBytes == 0; }

    /// With so much memory, or less where the device has less: for all together where they share it, or else for each instrument.
    public DeviceLimits withMemory(long bytes) {
        return isMemoryShared()
                ? withTotalBytes(Math.min(bytes, totalBytes))
                : withInstrumentBytes(instrumentBytes == 0 ? bytes : Math.min(bytes, instrumentBytes));
    }

    /// The same where each instrument has all of the memory for itself.
    public DeviceLimits ofEach() { return withInstrumentBytes(bytesOfOne()).withTotalBytes(0); }

    /// Of one instrument that has the memory for itself.
    public long bytesOfOne() { return instrumentBytes == 0 ? totalBytes : totalBytes == 0 ? instrumentBytes : Math.min(instrumentBytes, totalBytes); }
}
