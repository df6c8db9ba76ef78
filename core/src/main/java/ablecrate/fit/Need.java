package ablecrate.fit;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/// What an instrument takes of a device.
/// @param layers velocity layers on a key, at most: stretches of velocities that zones on it play
/// @param bytes of its audio, with what each sample takes beside it
public record Need(int zones, int samples, int layers, long bytes) {
    public static Need of(Instrument instrument, long bytes) {
        List<Zone> zones = instrument.zones();
        List<Set<Span>> layers = Stream.generate(() -> (Set<Span>) new HashSet<Span>()).limit(128).toList();
        Set<Integer> samples = new HashSet<>();
        for (Zone zone : zones) {
            Span keys = zone.get(Parameter.KEYS);
            for (int key = keys.low(); key <= keys.high(); key++)
                layers.get(key).add(zone.get(Parameter.VELOCITIES));
            samples.add(zone.sample());
        }
        return new Need(zones.size(), samples.size(), layers.stream().mapToInt(Set::size).max().orElse(0), bytes);
    }

    /// Whether it is within what one instrument may take.
    public boolean fits(DeviceLimits limits) { return fitsCounts(limits) && within(bytes, limits.instrumentBytes()); }

    boolean fitsCounts(DeviceLimits limits) { return within(zones, limits.zones()) && within(samples, limits.samples()) && within(layers, limits.layers()); }

    static boolean within(long value, long limit) { return limit == 0 || value <= limit; }

    /// Whether a zone plays keys that its sound would have to be moved too far for.
    static boolean reachesTooFar(Zone zone, int most) {
        return most > 0 && zone.get(Parameter.KEY_TRACKING) != 0
                && Math.max(zone.get(Parameter.KEYS).high() - zone.get(Parameter.ROOT_KEY),
                        zone.get(Parameter.ROOT_KEY) - zone.get(Parameter.KEYS).low()) > most;
    }
}
