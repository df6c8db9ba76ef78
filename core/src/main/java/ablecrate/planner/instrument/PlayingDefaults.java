package ablecrate.planner.instrument;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/// Sensible releases where a source says none, by the kind of instrument that its names suggest (common practice).
final class PlayingDefaults {
    private record Kind(String name, double releaseSeconds, Pattern words) {}

    private static final List<Kind> KINDS = List.of(
            new Kind("a drum kit", 0, words("kit|drum|perc|kick|snare|hat|tom|cymbal|clap|pan lid|kitchen")),
            new Kind("a plucked instrument", 0.35, words("harp|pluck|guitar|lute|zither|koto|pizz|clav")),
            new Kind("mallets", 0.6, words("marimba|vibra|xylo|bell|glock|mallet|chime|bowl|celesta|kalimba")),
            new Kind("a keyboard", 0.25, words("piano|keys|epiano|clavi")), new Kind("an organ", 0.08, words("organ|reed|harmonium|accordion")),
            new Kind("wind", 0.15, words("flute|bottle|oboe|clarinet|sax|trumpet|horn|brass|wind|pipe|whistle")),
            new Kind("strings", 0.3, words("string|violin|viola|cello|bass|fiddle|saw")), new Kind("a pad", 0.8, words("pad|choir|voice|atmo|drone|ambient")));

    private PlayingDefaults() {}

    private static Pattern words(String alternatives) { return Pattern.compile("(?i)(?<![a-z])(?:" + alternatives + ")"); }

    private static Optional<Kind> find(Instrument instrument) {
        String text = instrument.name() + " " + instrument.about().category();
        return KINDS.stream().filter(k -> k.words().matcher(text).find()).findFirst();
    }

    /// What a release is set to; empty where nothing is known of the instrument, or it needs none.
    static Optional<Double> releaseSeconds(Instrument instrument) { return find(instrument).map(Kind::releaseSeconds).filter(s -> s > 0); }

    /// What a zone's release is set to; empty where it stays.
    static Optional<Double> release(InstrumentTask task, Instrument instrument, Zone zone) {
        // What the target cannot say is not added, to be told as lost; and a bank is as its makers heard it.
        return !task.options().instruments().playing().defaults() || !task.capabilities().carries(Parameter.RELEASE) || task.isLoose()
                || task.bank().isPresent() && task.staysInFormat() || zone.said(Parameter.RELEASE).isPresent() || zone.get(Parameter.ONE_SHOT)
                        ? Optional.empty()
                        : releaseSeconds(instrument);
    }

    /// With the releases that its zones will have.
    static Instrument released(InstrumentTask task, Instrument instrument) {
        return instrument.mapZones(z -> List.of(release(task, instrument, z).map(s -> z.with(Parameter.RELEASE, s)).orElse(z)));
    }

    static String kind(Instrument instrument) { return find(instrument).map(Kind::name).orElse("something else"); }
}
