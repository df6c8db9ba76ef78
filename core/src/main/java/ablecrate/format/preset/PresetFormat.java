package ablecrate.format.preset;

import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFormats;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFile;
import ablecrate.format.JsonMap;
import ablecrate.format.MapFormat;
import ablecrate.format.OwnMaps;
import ablecrate.format.SamplesBeside;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.PlayingSettings;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/// Presets: what they carry, and how they know themselves.
public final class PresetFormat implements MapFormat {
    static final String ID = "preset";
    /// Cents of a pitch fraction of `smpl`.
    private static final double TUNING_STEP = 100.0 / (1L << 32);
    private static final InstrumentCapabilities CAPABILITIES = OwnMaps.capabilities(SoundFormats.written("wav").orElseThrow())
            .withExactly(Parameter.ONE_SHOT, Parameter.EXCLUSIVE_GROUP, Parameter.SILENCED_BY).withTogether(PresetFormat::together);

    /// A zone of a group is ended by that group; one-shots do not loop. A tuning of more than half a key is told by another root.
    private static Zone together(Zone zone) {
        Mapping mapping = Mapping.NONE.withRootKey(Optional.of(zone.get(Parameter.ROOT_KEY))).tunedBy(zone.get(Parameter.TUNING));
        double cents = Math.rint(mapping.tellableCents() / TUNING_STEP) * TUNING_STEP;
        Zone tuned = zone.said(Parameter.TUNING).isEmpty()
                ? zone
                : zone.with(Parameter.ROOT_KEY, mapping.rootKey().get()).with(Parameter.TUNING, cents);
        Zone out = tuned.get(Parameter.LOOPS).isEmpty() ? tuned : tuned.without(Parameter.ONE_SHOT);
        int group = out.get(Parameter.EXCLUSIVE_GROUP);
        return group == 0 || out.get(Parameter.SILENCED_BY) == 0
                ? out.without(Parameter.EXCLUSIVE_GROUP).without(Parameter.SILENCED_BY)
                : out.with(Parameter.SILENCED_BY, group);
    }

    @Override public String id() { return ID; }

    @Override public String name() { return "Preset"; }

    @Override public String extension() { return "preset"; }

    @Override public InstrumentCapabilities capabilities() { return CAPABILITIES; }

    @Override public boolean zonesInSounds() { return true; }

    @Override public boolean saysPlaying() { return true; }

    @Override public boolean recognises(byte[] head, String fileName) {
        return JsonMap.recognises(head, ID);
    }

    @Override public InstrumentFile read(Path path) throws IOException, FormatException { return read(path, UnaryOperator.identity()); }

    @Override public InstrumentFile read(Path path, UnaryOperator<Path> lies) throws IOException, FormatException {
        Path file = path.toAbsolutePath().normalize();
        PresetFile preset = JsonMap.read(file, PresetFile.class, PresetFile::format, PresetFile.FORMAT);
        List<Problem> problems = new ArrayList<>();
        SamplesBeside samples = new SamplesBeside(file, lies, problems);
        List<Zone> zones = new ArrayList<>();
        List<PresetFile.PresetSound> said = preset.sounds() == null ? List.of() : preset.sounds();
        for (int i = 0; i < said.size(); i++) {
            if (said.get(i) == null) {
                problems.add(Problem.lost("a sound of the list is empty", "sound " + (i + 1)));
                continue;
            }
            int sample = samples.number(said.get(i).file(), 0, "sound " + (i + 1));
            zones.add(said.get(i).zone(OwnMaps.zone(sample, samples.file(sample).map(f -> f.metadata()).orElse(SoundMetadata.NONE))));
        }
        if (zones.isEmpty()) throw new FormatException("it lists no sound", "", "There is no instrument in it.");
        String name = JsonMap.name(preset.name(), file);
        About about = About.named(name);
        return new InstrumentFile(file, Files.size(file), ID, "Preset 1", about,
                List.of(new Instrument(about, Optional.empty(), playing(preset, problems), List.of(new ZoneGroup("", zones)))), samples.all(), List.of(),
                problems);
    }

    private static PlayingSettings playing(PresetFile preset, List<Problem> problems) {
        try {
            return preset.playing();
        } catch (IllegalArgumentException e) {
            problems.add(Problem.lost(e.getMessage() + "; it plays as usual", "preset"));
            return PlayingSettings.NONE;
        }
    }

    @Override public byte[] write(Instrument instrument, List<String> sounds) {
        return bytes(PresetFile.of(instrument, sounds));
    }

    @Override public Optional<byte[]> renamed(Path file, String name) throws IOException, FormatException {
        return Optional.of(bytes(JsonMap.read(file, PresetFile.class, PresetFile::format, PresetFile.FORMAT).named(name)));
    }

    private static byte[] bytes(PresetFile preset) { return Json.write(preset).getBytes(StandardCharsets.UTF_8); }
}
