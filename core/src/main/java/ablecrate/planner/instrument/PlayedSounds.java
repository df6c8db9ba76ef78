package ablecrate.planner.instrument;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
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
        List<PlayedSound> sounds = new ArrayList<>();
        List<PlayedInstrument> played = instruments.stream()
                .map(i -> new PlayedInstrument(i, i.groups().stream()
                        .map(g -> new PlayedGroup(g.name(), g.zones().stream().map(z -> new PlayedZone(z, sound(task, i, z, sounds))).toList())).toList()))
                .toList();
        return new PlayedSounds(played, List.copyOf(sounds));
    }

    /// By how much the loudest zone of each sound is beyond what the target can say; below 0 where none is.
    double[] louderDb(double mostGainDb) {
        double[] out = new double[sounds.size()];
        Arrays.fill(out, Double.NEGATIVE_INFINITY);
        zones().forEach(z -> z.sound().ifPresent(ref -> out[ref.place()] = Math.max(out[ref.place()], z.zone().get(Parameter.GAIN) - mostGainDb)));
        return out;
    }

    Stream<PlayedZone> zones() { return instruments.stream().flatMap(PlayedInstrument::zones); }

    private static Optional<SoundRef> sound(InstrumentTask task, Instrument by, Zone zone, List<PlayedSound> sounds) {
        if (task.file().sound(zone.sample()).filter(s -> s.frames() > 0).isEmpty()) return Optional.empty();
        List<Loop> loops = zone.get(Parameter.LOOPS);
        // Each zone a file of its own where the file has to say how the zone plays.
        for (int i = 0; i < sounds.size() && !task.isSaidBySounds(); i++) {
            PlayedSound sound = sounds.get(i);
            if (sound.sample() != zone.sample() || !loops.isEmpty() && !sound.loops().isEmpty() && !sound.loops().equals(loops)) continue;
            if (sound.loops().isEmpty()) sounds.set(i, sound.withLoops(loops));
            return Optional.of(new SoundRef(i));
        }
        sounds.add(new PlayedSound(zone.sample(), loops, by, zone));
        return Optional.of(new SoundRef(sounds.size() - 1));
    }
}
