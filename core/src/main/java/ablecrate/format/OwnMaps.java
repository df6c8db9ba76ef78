package ablecrate.format;

import ablecrate.codec.Capabilities;
import ablecrate.codec.WrittenFormat;
import ablecrate.instrument.About;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import java.util.Optional;
import java.util.Set;

/// Sounds that carry their own mapping: a folder of them is an instrument, each file a zone.
public final class OwnMaps {
    private OwnMaps() {}

    /// What of a zone the chunks of a sound format hold.
    public static InstrumentCapabilities capabilities(WrittenFormat format) {
        Capabilities can = format.capabilities();
        InstrumentCapabilities.Builder carries = new InstrumentCapabilities.Builder();
        if (can.rootKey()) carries.exactly(Parameter.ROOT_KEY).with(Parameter.TUNING, switch (can.fineTune()) {
            case EXACT -> Precision.exactly();
            default -> Precision.steps("whole cents", 1, -12_700, 12_700);
        });
        if (can.ranges()) carries.exactly(Parameter.KEYS, Parameter.VELOCITIES);
        if (can.gain().exists())
            carries.with(Parameter.GAIN, Precision.steps("whole dB", 1, Math.max(-144, can.gain().lowest()), Math.min(48, can.gain().highest())));
        if (can.loops().sustain() > 0)
            carries.with(Parameter.LOOPS, can.loops().sustain() == 1 ? Precision.as("one", l -> l.stream().limit(1).toList()) : Precision.exactly());
        return new InstrumentCapabilities(carries.map(), z -> z, Set.of(About.Field.NAME), false, Optional.of(can), false);
    }

    /// What a sound says of itself where it plays as the zone does.
    public static SoundMetadata metadata(Zone zone, SoundMetadata sound) {
        Mapping mapping = new Mapping(Optional.of(zone.get(Parameter.ROOT_KEY)), 0, zone.said(Parameter.KEYS), zone.said(Parameter.VELOCITIES),
                zone.said(Parameter.GAIN)).tunedBy(zone.get(Parameter.TUNING));
        return sound.withMapping(mapping).withLoops(zone.get(Parameter.LOOPS));
    }

    /// The zone that a sound describes.
    public static Zone zone(int sample, SoundMetadata metadata) {
        Mapping mapping = metadata.mapping();
        Zone zone = Zone.of(sample);
        if (mapping.rootKey().isPresent()) zone = zone.with(Parameter.ROOT_KEY, mapping.rootKey().get());
        if (mapping.fineTuneCents() != 0) zone = zone.with(Parameter.TUNING, mapping.fineTuneCents());
        if (mapping.keys().isPresent()) zone = zone.with(Parameter.KEYS, mapping.keys().get());
        if (mapping.velocities().isPresent()) zone = zone.with(Parameter.VELOCITIES, mapping.velocities().get());
        if (mapping.gainDb().filter(g -> g != 0).isPresent()) zone = zone.with(Parameter.GAIN, mapping.gainDb().get());
        return metadata.loops().isEmpty() ? zone : zone.with(Parameter.LOOPS, metadata.loops());
    }
}
