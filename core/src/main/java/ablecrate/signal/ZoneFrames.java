package ablecrate.signal;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.Optional;

/// Zones of a sound that was converted: where they start and end in the result, and the tuning that pays for the loop.
public final class ZoneFrames {
    private ZoneFrames() {}

    /// All but the loops, which the sound's own plan has moved.
    /// @param frames of the result
    public static Zone moved(Zone zone, SourceChain chain, int sourceRateHz, long frames) {
        double ratio = (double) chain.outputStep() / chain.inputStep(), cents = 1200 * Math.log(ratio * sourceRateHz / chain.rateHz()) / Math.log(2);
        Zone out = zone;
        if (Math.abs(cents) > 1e-9)
            out = out.with(Parameter.TUNING, Math.clamp(zone.get(Parameter.TUNING) + cents, -Parameter.MOST_TUNING, Parameter.MOST_TUNING));
        if (zone.get(Parameter.START) > 0) out = out.with(Parameter.START, Math.min(frame(zone.get(Parameter.START), chain, ratio), frames - 1));
        if (zone.get(Parameter.END).isPresent()) {
            long end = Math.min(frames, frame(zone.get(Parameter.END).get(), chain, ratio));
            out = end >= frames || end <= out.get(Parameter.START) ? out.without(Parameter.END) : out.with(Parameter.END, Optional.of(end));
        }
        return out;
    }

    private static long frame(long frame, SourceChain chain, double ratio) {
        return chain.place(Math.max(0, Math.round((frame - chain.part().start()) * ratio)));
    }
}
