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

/// What is said of how instruments are played as a whole. What the wheels do is said of zones in some formats, of the whole in others.
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
    Instrument of(Instrument source) { return isSaid ? ofTheWhole(source) : ofZones(source); }

    private Instrument ofTheWhole(Instrument source) {
        boolean isEven = source.zones().stream().allMatch(z -> z.get(Parameter.BEND_DOWN) == -z.get(Parameter.BEND_UP));
        Optional<Integer> bend = isEven ? whole(source, Parameter.BEND_UP, CENTS, PlayingSettings.MOST_BEND) : Optional.empty();
        Optional<Integer> wheel = whole(source, Parameter.VIBRATO_WHEEL, 1, PlayingSettings.MOST_WHEEL);
        Instrument plain = source;
        if (bend.isPresent()) plain = plain.mapZones(z -> List.of(z.without(Parameter.BEND_UP).without(Parameter.BEND_DOWN)));
        if (wheel.isPresent()) {
            if (wheel.get() > 0 && source.zones().stream().anyMatch(PlainPlaying::isTimedForTheWheel)) lost.add("rate and delay of the wheel's vibrato");
            plain = plain.mapZones(z -> List.of(z.without(Parameter.VIBRATO_WHEEL)));
        }
        return plain
                .withPlaying(task.options().instruments().playing().settings().or(source.playing()).or(PlayingSettings.NONE.withBend(bend).withWheel(wheel)));
    }

    private Instrument ofZones(Instrument source) {
        PlayingSettings said = source.playing();
        Instrument out = source.withPlaying(PlayingSettings.NONE);
        if (said.bendKeys().isPresent() && task.capabilities().carries(Parameter.BEND_UP)) {
            double cents = said.bendKeys().get() * CENTS;
            out = out.mapZones(z -> List.of(z.said(Parameter.BEND_UP).isPresent() ? z : z.with(Parameter.BEND_UP, cents).with(Parameter.BEND_DOWN, -cents)));
            said = said.withBend(Optional.empty());
        }
        if (said.wheelCents().isPresent() && task.capabilities().carries(Parameter.VIBRATO_WHEEL)) {
            double cents = said.wheelCents().get();
            out = out.mapZones(z -> List.of(z.said(Parameter.VIBRATO_WHEEL).isPresent() ? z : z.with(Parameter.VIBRATO_WHEEL, cents)));
            said = said.withWheel(Optional.empty());
        }
        lost.addAll(said.told());
        return out;
    }

    /// Whether it says a rate or a delay of vibrato, which but for the wheel there is none of.
    private static boolean isTimedForTheWheel(Zone zone) {
        return zone.get(Parameter.VIBRATO_DEPTH) == 0 && zone.get(Parameter.VIBRATO_PRESSURE) == 0
                && (zone.said(Parameter.VIBRATO_RATE).isPresent() || zone.said(Parameter.VIBRATO_DELAY).isPresent());
    }

    /// What all zones say alike and the source says at all, where it is a whole number from 0 to `most`.
    private static Optional<Integer> whole(Instrument source, Parameter<Double> parameter, double unit, int most) {
        List<Double> values = source.zones().stream().map(z -> z.get(parameter) / unit).distinct().toList();
        boolean isSaid = source.zones().stream().anyMatch(z -> z.said(parameter).isPresent());
        return values.stream().filter(v -> isSaid && values.size() == 1 && v >= 0 && v <= most && v == Math.rint(v)).findFirst().map(Double::intValue);
    }

    Optional<Change> change() {
        return lost.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.PlayingDropped(List.copyOf(lost), task.targetName()));
    }
}
