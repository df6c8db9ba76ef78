package ablecrate.standins;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/// Four velocity layers on a key, a program file and a folder of WAV files for each instrument; see `docs/devices/keyboard-sampler.md`.
final class KeyboardSampler implements Device {
    static final int LAYERS = 4, ZONES = 128, NAME = 32;
    static final long MEMORY = 64_000_000;
    private static final int DEPTH = 3, MOST_WHEEL = 1200;
    private static final long MOST_BYTES = 10_000_000;
    private static final CardWave.Limits SOUNDS = new CardWave.Limits(Set.of(44_100, 48_000), Set.of(16, 24), 2, 0);
    private static final Set<String> PROGRAM_KEYS = Set.of("format", "name", "zones"), LOOP_KEYS = Set.of("startFrame", "endFrame", "mode", "crossfadeSeconds"),
            ZONE_KEYS = Set.of("sound", "keys", "velocities", "rootKey", "tuningCents", "keyTrackingCents", "gainDb", "panPercent", "velocityToLevelPercent",
                    "startFrame", "endFrame", "oneShot", "loop", "exclusiveGroup", "attackSeconds", "holdSeconds", "decaySeconds", "sustainDb",
                    "releaseSeconds", "wheelVibratoCents");

    @Override public String id() { return "keyboard-sampler"; }

    @Override public String name() { return "Keyboard sampler, 4 layers"; }

    @Override public Controls controls() { return Controls.KEYS; }

    @Override public Loaded load(Path card) throws IOException {
        List<Preset> presets = new ArrayList<>();
        List<Refusal> refusals = new ArrayList<>();
        long most = 0;
        List<Path> programs;
        try (Stream<Path> files = Files.walk(card, DEPTH)) {
            programs = files.filter(f -> f.getFileName().toString().endsWith(".program")).sorted().toList();
        }
        for (Path program : programs)
            try {
                Preset preset = program(card, program);
                presets.add(preset);
                most = Math.max(most, memory(preset));
            } catch (Refused e) {
                refusals.add(new Refusal(card.relativize(program).toString().replace('\\', '/'), e.getMessage()));
            }
        return new Loaded(presets, refusals, most, MEMORY);
    }

    private static long memory(Preset preset) {
        return preset.slots().stream().map(Preset.Slot::sound).distinct().mapToLong(CardWave::bytes).sum();
    }

    private static Preset program(Path card, Path file) throws IOException, Refused {
        JsonNode json = CardJson.read(file, MOST_BYTES, "program", PROGRAM_KEYS, "program 1");
        String name = CardJson.name(json, NAME);
        JsonNode zones = json.path("zones");
        if (zones.isEmpty() || zones.size() > ZONES) throw new Refused(zones.size() + " zones; has room for " + ZONES);
        Map<String, CardWave> sounds = new HashMap<>();
        List<Preset.Slot> slots = new ArrayList<>();
        for (int i = 0; i < zones.size(); i++)
            try {
                slots.add(slot(file.getParent(), zones.get(i), sounds));
            } catch (Refused e) {
                throw new Refused("zone " + (i + 1) + ": " + e.getMessage());
            }
        Preset preset = new Preset(name, card.relativize(file), slots);
        Preset.layers(slots, LAYERS);
        if (memory(preset) > MEMORY) throw new Refused("memory full: " + memory(preset) + " of " + MEMORY + " bytes");
        return preset;
    }

    private static Preset.Slot slot(Path folder, JsonNode zone, Map<String, CardWave> sounds) throws IOException, Refused {
        CardJson.known(zone, ZONE_KEYS, "zone");
        String path = zone.path("sound").asText();
        Path file = folder.resolve(path).normalize();
        if (path.isEmpty() || path.startsWith("/") || path.contains("\\") || !file.startsWith(folder.normalize()))
            throw new Refused("sound '" + path + "' is not below the program");
        if (!Files.isRegularFile(file)) throw new Refused("sound '" + path + "' is missing");
        if (!sounds.containsKey(path)) sounds.put(path, CardWave.read(file, SOUNDS));
        CardWave sound = sounds.get(path);
        int[] keys = pair(zone, "keys", 0), velocities = pair(zone, "velocities", 1);
        int from = (int) zone.path("startFrame").asLong(0), to = (int) zone.path("endFrame").asLong(sound.frames());
        if (from < 0 || to > sound.frames() || from >= to) throw new Refused("plays frames " + from + " to " + to + " of " + sound.frames());
        int root = zone.path("rootKey").asInt(-1);
        if (root < 0 || root > 127) throw new Refused("no root key");
        double wheel = zone.path("wheelVibratoCents").asDouble(0);
        if (Math.abs(wheel) > MOST_WHEEL) throw new Refused("a wheel to vibrato of " + wheel + " cents; up to " + MOST_WHEEL);
        Preset.Shape shape = new Preset.Shape(zone.path("attackSeconds").asDouble(0), zone.path("holdSeconds").asDouble(0),
                zone.path("decaySeconds").asDouble(0),
                zone.path("sustainDb").asDouble(0), zone.path("releaseSeconds").asDouble(Preset.Shape.PLAIN.release()), 0, 0, Preset.Vibrato.ofWheel(wheel));
        return new Preset.Slot(keys[0], keys[1], velocities[0], velocities[1], root, zone.path("tuningCents").asDouble(0),
                zone.path("keyTrackingCents").asDouble(100),
                zone.path("gainDb").asDouble(0), zone.path("panPercent").asDouble(0), zone.path("velocityToLevelPercent").asDouble(100), from, to,
                zone.path("oneShot").asBoolean(false), loop(zone.path("loop"), sound), zone.path("exclusiveGroup").asInt(0), shape, sound);
    }

    private static int[] pair(JsonNode zone, String key, int least) throws Refused {
        JsonNode pair = zone.path(key);
        int low = pair.path(0).asInt(-1), high = pair.path(1).asInt(-1);
        if (pair.size() != 2 || low < least || high > 127 || low > high) throw new Refused(key + " " + pair);
        return new int[]{low, high};
    }

    private static Preset.Loop loop(JsonNode loop, CardWave sound) throws Refused {
        if (loop.isMissingNode()) return Preset.Loop.NONE;
        CardJson.known(loop, LOOP_KEYS, "loop");
        long start = loop.path("startFrame").asLong(-1), end = loop.path("endFrame").asLong(-1);
        String mode = loop.path("mode").asText();
        if (start < 0 || end <= start || end > sound.frames()) throw new Refused("loop " + start + " to " + end + " of " + sound.frames() + " frames");
        if (!mode.equals("forward") && !mode.equals("alternating")) throw new Refused("loop mode '" + mode + "'");
        double crossfade = loop.path("crossfadeSeconds").asDouble(0);
        return new Preset.Loop((int) start, (int) end, mode.equals("alternating"), (int) Math.min(start, Math.round(crossfade * sound.rateHz())));
    }
}
