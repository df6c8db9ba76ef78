package ablecrate.format.program;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// A program as its file has it. What is absent is as usual.
/// @param format name and version: `program 1`
@JsonInclude(JsonInclude.Include.NON_ABSENT) record ProgramFile(String format, String name, List<ProgramZone> zones) {
    static final String FORMAT = "program 1";
    private static final int LONGEST_NAME = 32;

    /// @param sound path below the folder of the file, `/` between folders
    /// @param keys,velocities the lowest and the highest, both included
    /// @param endFrame behind the last frame played
    @JsonInclude(JsonInclude.Include.NON_ABSENT) record ProgramZone(String sound, List<Integer> keys, List<Integer> velocities, int rootKey,
            Optional<Double> tuningCents, Optional<Double> keyTrackingCents, Optional<Double> gainDb, Optional<Double> panPercent,
            Optional<Double> velocityToLevelPercent, Optional<Long> startFrame, Optional<Long> endFrame, Optional<Boolean> oneShot, Optional<ProgramLoop> loop,
            Optional<Integer> exclusiveGroup, Optional<Double> attackSeconds, Optional<Double> holdSeconds, Optional<Double> decaySeconds,
            Optional<Double> sustainDb, Optional<Double> releaseSeconds, Optional<Double> wheelVibratoCents) {
        ProgramZone {
            require(sound != null && !sound.isEmpty(), "a zone has no sound");
        }

        static ProgramZone of(Zone zone, List<String> sounds) {
            return new ProgramZone(sounds.get(zone.sample()), pair(zone.get(Parameter.KEYS)), pair(zone.get(Parameter.VELOCITIES)),
                    zone.get(Parameter.ROOT_KEY),
                    zone.said(Parameter.TUNING), zone.said(Parameter.KEY_TRACKING), zone.said(Parameter.GAIN), zone.said(Parameter.PAN),
                    zone.said(Parameter.VELOCITY_TRACKING), zone.said(Parameter.START), zone.get(Parameter.END), zone.said(Parameter.ONE_SHOT),
                    zone.get(Parameter.LOOPS).stream().findFirst().map(l -> ProgramLoop.of(l, zone.get(Parameter.LOOP_CROSSFADE))),
                    zone.said(Parameter.EXCLUSIVE_GROUP), zone.said(Parameter.ATTACK), zone.said(Parameter.HOLD), zone.said(Parameter.DECAY),
                    zone.said(Parameter.SUSTAIN), zone.said(Parameter.RELEASE), zone.said(Parameter.VIBRATO_WHEEL));
        }

        private static List<Integer> pair(Span span) { return List.of(span.low(), span.high()); }

        /// @throws IllegalArgumentException in words, if a value is none
        Zone zone(int sample) {
            Zone out = Zone.of(sample).with(Parameter.ROOT_KEY, rootKey);
            out = said(out, Parameter.KEYS, span(keys, "keys"));
            out = said(out, Parameter.VELOCITIES, span(velocities, "velocities"));
            out = said(out, Parameter.TUNING, tuningCents);
            out = said(out, Parameter.KEY_TRACKING, keyTrackingCents);
            out = said(out, Parameter.GAIN, gainDb);
            out = said(out, Parameter.PAN, panPercent);
            out = said(out, Parameter.VELOCITY_TRACKING, velocityToLevelPercent);
            out = said(out, Parameter.START, startFrame);
            out = said(out, Parameter.END, endFrame.map(Optional::of));
            out = said(out, Parameter.ONE_SHOT, oneShot);
            out = said(out, Parameter.LOOPS, loop.map(l -> List.of(l.loop())));
            out = said(out, Parameter.LOOP_CROSSFADE, loop.flatMap(ProgramLoop::crossfadeSeconds));
            out = said(out, Parameter.EXCLUSIVE_GROUP, exclusiveGroup);
            out = said(out, Parameter.SILENCED_BY, exclusiveGroup);
            out = said(out, Parameter.ATTACK, attackSeconds);
            out = said(out, Parameter.HOLD, holdSeconds);
            out = said(out, Parameter.DECAY, decaySeconds);
            out = said(out, Parameter.SUSTAIN, sustainDb);
            out = said(out, Parameter.RELEASE, releaseSeconds);
            return said(out, Parameter.VIBRATO_WHEEL, wheelVibratoCents);
        }

        private static <T> Zone said(Zone zone, Parameter<T> parameter, Optional<T> value) { return value.map(v -> zone.with(parameter, v)).orElse(zone); }

        private static Optional<Span> span(List<Integer> pair, String key) {
            if (pair == null) return Optional.empty();
            require(pair.size() == 2 && pair.get(0) != null && pair.get(1) != null, key + ": the lowest and the highest are expected, found " + pair);
            return Optional.of(new Span(pair.get(0), pair.get(1)));
        }
    }

    /// @param endFrame behind the last frame of the loop
    /// @param mode `forward` or `alternating`
    @JsonInclude(JsonInclude.Include.NON_ABSENT) record ProgramLoop(long startFrame, long endFrame, String mode, Optional<Double> crossfadeSeconds) {
        static ProgramLoop of(Loop loop, double crossfade) {
            return new ProgramLoop(loop.frames().start(), loop.frames().end(), loop.mode().name().toLowerCase(Locale.ROOT),
                    crossfade > 0 ? Optional.of(crossfade) : Optional.empty());
        }

        Loop loop() {
            require(endFrame > startFrame && startFrame >= 0, "loop: frames " + startFrame + " to " + endFrame + " are none");
            require(mode != null && (mode.equals("forward") || mode.equals("alternating")), "loop.mode: '" + mode + "' is neither forward nor alternating");
            return Loop.sustain(new FrameRange(startFrame, endFrame), LoopMode.valueOf(mode.toUpperCase(Locale.ROOT)));
        }
    }

    static ProgramFile of(Instrument instrument, List<String> sounds) {
        List<ProgramZone> zones = new ArrayList<>();
        instrument.zones().forEach(z -> zones.add(ProgramZone.of(z, sounds)));
        return new ProgramFile(FORMAT, "", zones).named(instrument.name());
    }

    /// As much of the name as there is room for.
    ProgramFile named(String other) {
        String name = other.strip();
        return new ProgramFile(format, name.substring(0, Math.min(LONGEST_NAME, name.length())), zones);
    }

    private static void require(boolean holds, String message) {
        if (!holds) throw new IllegalArgumentException(message);
    }
}
