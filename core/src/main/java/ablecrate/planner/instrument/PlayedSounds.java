package ablecrate.planner.instrument;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/// The sounds that zones play, each once. Zones that loop a sample differently need it differently where its rate changes, so that these are two.
/// @param sounds in the order of the zones that play them first
record PlayedSounds(List<PlayedInstrument> instruments, List<PlayedSound> sounds) {
    /// Which of the sounds a zone plays.
    record SoundRef(int place) {}

    /// @param sample of the file
    /// @param by the instrument, and the zone, that plays it first
    record PlayedSound(int sample, List<Loop> loops, Instrument by, Zone zone) {
        PlayedSound withLoops(List<Loop> others) { return new PlayedSound(sample, others, by, zone); }
    }

    record PlayedInstrument(Instrument instrument, List<PlayedGroup> groups) {
        Stream<PlayedZone> zones() { return groups.stream().flatMap(g -> g.zones().stream()); }
    }

    record PlayedGroup(String name, List<PlayedZone> zones) {}

    /// @param sound empty where its sample is missing, or empty
    record PlayedZone(Zone zone, Optional<SoundRef> sound) {}

    static PlayedSounds of(InstrumentTask task, List<Instrument> instruments) {
        Collected sounds = new Collected(task);
        List<PlayedInstrument> played = instruments.stream()
                .map(i -> new PlayedInstrument(i, i.groups().stream()
                        .map(g -> new PlayedGroup(g.name(), g.zones().stream().map(z -> new PlayedZone(z, sounds.of(i, z))).toList())).toList()))
                .toList();
        return new PlayedSounds(played, List.copyOf(sounds.all));
    }

    /// By how much the loudest zone of each sound is beyond what the target can say; below 0 where none is.
    double[] louderDb(double mostGainDb) {
        double[] out = new double[sounds.size()];
        Arrays.fill(out, Double.NEGATIVE_INFINITY);
        zones().forEach(z -> z.sound().ifPresent(ref -> out[ref.place()] = Math.max(out[ref.place()], z.zone().get(Parameter.GAIN) - mostGainDb)));
        return out;
    }

    Stream<PlayedZone> zones() { return instruments.stream().flatMap(PlayedInstrument::zones); }

    /// The sounds of the zones so far.
    private static final class Collected {
        private final InstrumentTask task;
        private final boolean isEachItsOwn;
        private final List<PlayedSound> all = new ArrayList<>();
        /// Where the sounds of a sample lie among all.
        private final Map<Integer, List<Integer>> places = new HashMap<>();

        Collected(InstrumentTask task) {
            this.task = task;
            // Where the file has to say how its zone plays.
            isEachItsOwn = task.isSaidBySounds();
        }

        Optional<SoundRef> of(Instrument by, Zone zone) {
            if (task.file().sound(zone.sample()).filter(s -> s.frames() > 0).isEmpty()) return Optional.empty();
            List<Loop> loops = zone.get(Parameter.LOOPS);
            List<Integer> ofSample = places.computeIfAbsent(zone.sample(), _ -> new ArrayList<>());
            for (int place : isEachItsOwn ? List.<Integer>of() : ofSample) {
                PlayedSound sound = all.get(place);
                if (!loops.isEmpty() && !sound.loops().isEmpty() && !sound.loops().equals(loops)) continue;
                if (sound.loops().isEmpty()) all.set(place, sound.withLoops(loops));
                return Optional.of(new SoundRef(place));
            }
            ofSample.add(all.size());
            all.add(new PlayedSound(zone.sample(), loops, by, zone));
            return Optional.of(new SoundRef(all.size() - 1));
        }
    }
}
