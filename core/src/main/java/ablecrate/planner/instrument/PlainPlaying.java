package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.format.InstrumentFormat;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.PlayingSettings;
import ablecrate.instrument.Zone;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// What is said of how instruments are played as a whole. How far the wheel bends is said of zones in some formats, of the whole in others.
final class PlainPlaying {
    private static final double CENTS = 100;

    private final InstrumentTask task;
    private final boolean isSaid;
    private final Set<String> lost = new LinkedHashSet<>();

    PlainPlaying(InstrumentTask task) {
        this.task = task;
        isSaid = !task.isLoose() && task.format().filter(InstrumentFormat::saysPlaying).isPresent();
    }

    /// The instrument as the target says it: what was chosen goes before what the source says.
    Instrument of(Instrument source) {
        if (isSaid) {
            Optional<Integer> bend = bendKeys(source.zones());
            Instrument plain = bend.isPresent()
                    ? source.mapZones(z -> List.of(z.without(Parameter.BEND_UP).without(Parameter.BEND_DOWN)))
                    : source;
            return plain.withPlaying(task.options().instruments().playing().settings().or(source.playing()).or(PlayingSettings.NONE.withBend(bend)));
        }
        Optional<Integer> bend = source.playing().bendKeys().filter(_ -> task.capabilities().carries(Parameter.BEND_UP));
        lost.addAll(bend.isPresent() ? source.playing().withBend(Optional.empty()).told() : source.playing().told());
        Instrument bare = source.withPlaying(PlayingSettings.NONE);
        return bend.isEmpty() ? bare : bare.mapZones(z -> List.of(bent(z, bend.get() * CENTS)));
    }

    private static Zone bent(Zone zone, double cents) {
        return zone.said(Parameter.BEND_UP).isPresent() ? zone : zone.with(Parameter.BEND_UP, cents).with(Parameter.BEND_DOWN, -cents);
    }

    /// What all zones say alike, in whole keys both ways.
    private static Optional<Integer> bendKeys(List<Zone> zones) {
        List<Double> up = zones.stream().map(z -> z.get(Parameter.BEND_UP)).distinct().toList();
        boolean isOne = up.size() == 1 && zones.stream().allMatch(z -> z.get(Parameter.BEND_DOWN) == -up.getFirst())
                && zones.stream().anyMatch(z -> z.said(Parameter.BEND_UP).isPresent());
        double keys = isOne ? up.getFirst() / CENTS : -1;
        return keys >= 0 && keys <= PlayingSettings.MOST_BEND && keys == Math.rint(keys) ? Optional.of((int) keys) : Optional.empty();
    }

    Optional<Change> change() {
        return lost.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.PlayingDropped(List.copyOf(lost), task.targetName()));
    }
}
