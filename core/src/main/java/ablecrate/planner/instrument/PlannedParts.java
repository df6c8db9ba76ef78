package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.change.Verdict;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.format.Sample;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.instrument.PlayedSounds.PlayedZone;
import ablecrate.planner.sound.Leveling;
import ablecrate.planner.sound.SoundPlan;
import java.util.ArrayList;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// The sounds of instruments as they are planned, and where their outputs lie among those of all.
record PlannedParts(List<Part> all) {
    /// @param first place of its first output
    /// @param raisedDb by which the sound is louder than its source, so that its zones are softer
    /// @param foldedDb in tenths, by which it plays softer than others because its sides became one, which its zones make up for
    /// @param added the loop that it gets, as it had none
    record Part(PackingItem item, int first, double raisedDb, double foldedDb, Optional<FoundLoop> added) {}

    /// @param sounds in the order of the zones that play them
    /// @param foldedDb of each sound, where it is known
    /// @param leveling that knows all sounds
    static PlannedParts of(List<SoundPlan> sounds, List<Optional<Double>> foldedDb, Leveling leveling) {
        // What all of them lose is the destination's.
        double least = foldedDb.stream().flatMap(Optional::stream).mapToDouble(d -> d).min().orElse(0);
        List<Part> parts = new ArrayList<>();
        int place = 0;
        for (int i = 0; i < sounds.size(); i++) {
            PackingItem item = sounds.get(i).item(leveling);
            parts.add(new Part(item, place, sounds.get(i).raisedDb(leveling), foldedDb.get(i).map(db -> Math.rint(10 * (db - least)) / 10).orElse(0.0),
                    sounds.get(i).addedLoop()));
            place += item.outputs().size();
        }
        return new PlannedParts(parts);
    }

    List<PackingItem> items() { return all.stream().map(Part::item).toList(); }

    Stream<PlannedOutput> outputs() { return all.stream().flatMap(p -> p.item().outputs().stream()); }

    boolean isNone() { return outputs().findAny().isEmpty(); }

    /// What a zone plays, unless it is lost.
    Optional<Part> of(PlayedZone zone) { return zone.sound().map(ref -> all.get(ref.place())).filter(p -> !p.item().outputs().isEmpty()); }

    /// Whether all sounds go as they are.
    boolean areKept() {
        return outputs().noneMatch(PlannedOutput::audioChanges)
                && all.stream().allMatch(p -> p.item().verdict() == Verdict.KEPT && p.item().outputs().size() == 1);
    }

    long audioBytes(List<PlayedSounds.PlayedInstrument> instruments) {
        return instruments.stream().flatMap(PlayedSounds.PlayedInstrument::zones).flatMap(z -> z.sound().stream()).distinct()
                .flatMap(ref -> all.get(ref.place()).item().outputs().stream())
                .mapToLong(PlannedOutput::audioBytes).sum();
    }

    /// Zones that go without a sound.
    Optional<Change> lost(InstrumentTask task, PlayedSounds played) {
        List<String> lost = played.zones().filter(z -> of(z).isEmpty()).map(z -> reason(task, z)).toList();
        return lost.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.ZonesLost((int) played.zones().count(), lost));
    }

    private String reason(InstrumentTask task, PlayedZone zone) {
        Sample sample = task.file().samples().get(zone.zone().sample());
        return "'" + sample.name() + "': " + switch (sample) {
            case Sample.Missing(_, String reason) -> reason;
            case Sample.Found(_, SoundFile f) ->
                zone.sound().map(ref -> all.get(ref.place()).item().reason()).orElse(f.frames() == 0 ? "it is empty" : "it cannot be used");
        };
    }
}
