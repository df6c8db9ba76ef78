package ablecrate.format.preset;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.PlayingSettings;
import ablecrate.instrument.Zone;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Optional;

/// A preset as its file has it. What is absent is as usual.
/// @param format name and version: `preset 1`
/// @param kind `slots` for up to 16 sounds on keys of their own that play to their end, else `keys`
/// @param channel of MIDI, 1 to 16
/// @param voices `mono`, where a note ends the one before, or `poly`
/// @param bendKeys by which the bend wheel raises and lowers
/// @param wheelVibratoCents that the fully raised modulation wheel adds
/// @param interpolation between samples, `straight` or `smooth`
@JsonInclude(JsonInclude.Include.NON_ABSENT) record PresetFile(String format, String name, String kind,
        Optional<Integer> channel, Optional<String> voices, Optional<Integer> bendKeys, Optional<Integer> wheelVibratoCents, Optional<String> interpolation,
        List<PresetSound> sounds) {
    static final String FORMAT = "preset 1";
    private static final String SLOTS = "slots", KEYS = "keys", MONO = "mono", POLY = "poly", STRAIGHT = "straight", SMOOTH = "smooth";
    private static final int LONGEST_NAME = 24, MOST_SLOTS = 16;

    /// @param file in the folder of the preset
    /// @param oneShot plays to its end whatever happens to the key
    /// @param chokeGroup a sound that starts ends those of its group
    @JsonInclude(JsonInclude.Include.NON_ABSENT) record PresetSound(String file, Optional<Boolean> oneShot, Optional<Integer> chokeGroup) {
        PresetSound {
            if (file == null || file.isEmpty() || file.contains("/") || file.contains("\\"))
                throw new IllegalArgumentException("a sound's file lies in the folder of the preset, found '" + file + "'");
        }

        /// The zone that its file describes, with what the preset says of it.
        Zone zone(Zone own) {
            Zone zone = oneShot.map(o -> own.with(Parameter.ONE_SHOT, o)).orElse(own);
            return chokeGroup.map(g -> zone.with(Parameter.EXCLUSIVE_GROUP, g).with(Parameter.SILENCED_BY, g)).orElse(zone);
        }
    }

    static PresetFile of(Instrument instrument, List<String> sounds) {
        List<Zone> zones = instrument.zones();
        boolean areSlots = zones.size() <= MOST_SLOTS && zones.stream().allMatch(z -> z.get(Parameter.ONE_SHOT) && z.get(Parameter.KEYS).size() == 1);
        PlayingSettings playing = instrument.playing();
        return new PresetFile(FORMAT, "", areSlots ? SLOTS : KEYS, playing.channel(), playing.isMono().map(mono -> mono ? MONO : POLY), playing.bendKeys(),
                playing.wheelCents(), playing.isSmooth().map(smooth -> smooth ? SMOOTH : STRAIGHT),
                zones.stream().map(z -> new PresetSound(sounds.get(z.sample()), z.said(Parameter.ONE_SHOT), z.said(Parameter.EXCLUSIVE_GROUP))).toList())
                .named(instrument.name());
    }

    /// @throws IllegalArgumentException if it says what there is not
    PlayingSettings playing() {
        if (voices.filter(v -> !v.equals(MONO) && !v.equals(POLY)).isPresent())
            throw new IllegalArgumentException("there are voices '" + MONO + "' and '" + POLY + "', not '" + voices.get() + "'");
        if (interpolation.filter(i -> !i.equals(STRAIGHT) && !i.equals(SMOOTH)).isPresent())
            throw new IllegalArgumentException("there is interpolation '" + STRAIGHT + "' and '" + SMOOTH + "', not '" + interpolation.get() + "'");
        return new PlayingSettings(channel, voices.map(MONO::equals), bendKeys, wheelVibratoCents, interpolation.map(SMOOTH::equals));
    }

    /// As much of the name as there is room for.
    PresetFile named(String other) {
        String name = other.strip();
        return new PresetFile(format, name.substring(0, Math.min(LONGEST_NAME, name.length())), kind, channel, voices, bendKeys, wheelVibratoCents,
                interpolation, sounds);
    }
}
