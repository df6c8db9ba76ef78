package ablecrate.planner.instrument;

import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DeviceLimits;
import ablecrate.fit.FitStep;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.OwnMaps;
import ablecrate.format.Sample;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.library.Gathered;
import ablecrate.option.Banks;
import ablecrate.option.Fitting;
import ablecrate.option.ItemEdit;
import ablecrate.option.PackOptions;
import ablecrate.planner.sound.Accepted;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Gatherers;
import java.util.function.Function;

/// Instruments of a file, what they become a part of, and what is wanted of them: what every stage may look at.
///
/// Three targets: a map beside its sounds, a bank that holds them, or the sounds alone, each with its own mapping.
/// @param file with the zones as the user made them
/// @param format that they become; empty where their sounds go alone
/// @param edits of all that was gathered
/// @param measured what was listened to; empty for what was not
record InstrumentTask(Gathered gathered, InstrumentFile file, boolean isEdited, Optional<InstrumentFormat> format, Accepted accepted, Map<Path, ItemEdit> edits,
        Function<Measurement.Request, Optional<Measurement>> measured) {
    /// @param inJob sounds that an edited map may use beside the file's own
    static InstrumentTask of(Gathered gathered, InstrumentFile file, Accepted accepted, Map<Path, ItemEdit> edits, Map<Path, SoundFile> inJob,
            Function<Measurement.Request, Optional<Measurement>> measured) {
        ItemEdit edit = edits.getOrDefault(gathered.path(), ItemEdit.NONE);
        InstrumentFile full = withAdded(file, edit.added(), inJob);
        // A map made for a file that has other samples by now is none.
        Optional<InstrumentFile> edited = edit.map().filter(m -> fits(m, full)).map(full::withInstruments);
        Optional<InstrumentFormat> format = accepted.instruments(file.formatId());
        InstrumentFile whole = edited.orElse(file);
        return new InstrumentTask(gathered, format.filter(InstrumentFormat::zonesInSounds).isPresent() ? apart(whole) : whole, edited.isPresent(), format,
                accepted, edits, measured);
    }

    /// With a sample of its own for each zone: what two of them share counts twice, and may become two different things.
    private static InstrumentFile apart(InstrumentFile file) {
        List<Sample> samples = new ArrayList<>(file.samples());
        Set<Integer> seen = new HashSet<>();
        List<Instrument> apart = file.instruments().stream().map(i -> i.mapZones(z -> {
            if (seen.add(z.sample())) return List.of(z);
            samples.add(samples.get(z.sample()));
            return List.of(z.withSample(samples.size() - 1));
        })).toList();
        return file.withSamples(samples).withInstruments(apart);
    }

    /// With the sounds that the user put on keys beside the file's own.
    private static InstrumentFile withAdded(InstrumentFile file, List<Path> added, Map<Path, SoundFile> inJob) {
        if (added.isEmpty()) return file;
        List<Sample> all = new ArrayList<>(file.samples());
        for (Path path : added) {
            String name = path.getFileName().toString();
            all.add(inJob.containsKey(path) ? new Sample.Found(name, inJob.get(path)) : new Sample.Missing(name, "it is not in the job any more"));
        }
        return file.withSamples(all);
    }

    private static boolean fits(List<Instrument> map, InstrumentFile file) {
        return map.stream().flatMap(i -> i.zones().stream()).allMatch(z -> z.sample() < file.samples().size());
    }

    InstrumentTask with(InstrumentFile other) { return new InstrumentTask(gathered, other, isEdited, format, accepted, edits, measured); }

    PackOptions options() { return accepted.options(); }

    InstrumentCapabilities capabilities() {
        return format.map(InstrumentFormat::capabilities).orElseGet(() -> OwnMaps.capabilities(accepted.container(SoundFormats.WRITTEN.getFirst().id())))
                .without(lacking(accepted.sheet().limits()));
    }

    private static Set<Parameter<?>> lacking(DeviceLimits limits) {
        Set<Parameter<?>> out = new HashSet<>();
        for (DeviceLimits.Skill skill : DeviceLimits.Skill.values())
            if (!limits.has(skill)) out.addAll(switch (skill) {
                case CROSSFADES -> List.of(Parameter.KEY_FADE_IN, Parameter.KEY_FADE_OUT, Parameter.KEY_FADE_CURVE, Parameter.VELOCITY_FADE_IN,
                        Parameter.VELOCITY_FADE_OUT, Parameter.VELOCITY_FADE_CURVE);
                case ROUND_ROBINS -> List.of(Parameter.TURN, Parameter.CHANCE);
                case RELEASE_SOUNDS -> List.of(Parameter.TRIGGER);
                case KEYSWITCHES -> List.of(Parameter.SWITCH);
                case VELOCITY_CURVES -> List.of(Parameter.VELOCITY_TRACKING);
            });
        return out;
    }

    /// The highest gain of a zone that the target can say, in dB.
    double mostGainDb() {
        return isLoose() || !capabilities().carries(Parameter.GAIN)
                ? Double.MAX_VALUE
                : capabilities().fit(Zone.of(0).with(Parameter.GAIN, Parameter.MOST_GAIN)).get(Parameter.GAIN);
    }

    /// What the target is called; empty for sounds alone.
    String targetName() { return format.map(InstrumentFormat::name).orElse(""); }

    /// Whether sounds go without a map.
    boolean isLoose() { return format.isEmpty(); }

    /// Whether each zone has a sound of its own, which says how it is played.
    boolean isSaidBySounds() { return isLoose() || format.get().zonesInSounds(); }

    /// Whether a fit picks the turns of round robins that stay, as the device does not play all of them.
    boolean fitsTurns() {
        Fitting fitting = options().instruments().fitting();
        DeviceLimits limits = accepted.sheet().limits();
        return !isLoose() && !limits.isNone() && fitting.mode() == Fitting.Mode.DO && !fitting.forbidden().contains(FitStep.Kind.TURNS)
                && (limits.playing().turns() > 0 || !capabilities().carries(Parameter.TURN));
    }

    /// The format, where it holds its sounds.
    Optional<BankFormat> bank() { return format.filter(BankFormat.class::isInstance).map(BankFormat.class::cast); }

    boolean staysInFormat() { return format.filter(f -> f.id().equals(file.formatId())).isPresent(); }

    /// Whether each instrument is a file of its own.
    boolean areApart() { return bank().isEmpty() || options().instruments().banks() == Banks.EACH; }

    /// How many instruments a file holds: one of them, or as many as a bank of the device; 0 for all.
    int instrumentsPerFile() { return areApart() ? 1 : accepted.sheet().layout().instrumentsPerBank(); }

    /// Instruments of one file.
    <T> List<List<T>> files(List<T> instruments) {
        int most = instrumentsPerFile();
        return most == 0 || instruments.isEmpty() ? List.of(instruments) : instruments.stream().gather(Gatherers.windowFixed(most)).toList();
    }

    /// Those that are asked for.
    List<Instrument> chosen() {
        List<String> only = options().instruments().only();
        return only.isEmpty() ? file.instruments() : file.instruments().stream().filter(i -> only.stream().anyMatch(i.name()::equalsIgnoreCase)).toList();
    }
}
