package ablecrate.standins;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/// A folder for each preset, with WAV files that say how they are played; see `docs/devices/card-sampler.md`.
final class CardSampler implements Device {
    private static final int SOUNDS = 64, SLOTS = 16, LAYERS = 8, NAME = 24, MOST_WHEEL = 1200;
    private static final long MEMORY = 32_000_000, MOST_BYTES = 1_000_000;
    private static final CardCapacity CAPACITY = new CardCapacity(2_000_000_000, 32_768);
    private static final String NAMES = "[A-Za-z0-9 _-]{1,24}";
    private static final CardWave.Limits WAVES = new CardWave.Limits(Set.of(44_100, 48_000), Set.of(16, 24), 2, 0);
    private static final Set<String> KEYS = Set.of("format", "name", "kind", "channel", "voices", "bendKeys", "wheelVibratoCents", "interpolation", "sounds"),
            SOUND_KEYS = Set.of("file", "oneShot", "chokeGroup");

    @Override public String id() { return "card-sampler"; }

    @Override public String name() { return "Card sampler, 16 slots"; }

    @Override public Controls controls() { return Controls.KEYS; }

    @Override public Loaded load(Path card) throws IOException {
        List<Preset> presets = new ArrayList<>();
        List<Refusal> refusals = new ArrayList<>();
        CAPACITY.refusal(card).ifPresent(refusals::add);
        long most = 0;
        for (Path folder : FolderCard.sorted(card)) {
            if (!Files.isDirectory(folder)) continue;
            try {
                Preset preset = preset(card, folder);
                presets.add(preset);
                most = Math.max(most, memory(preset));
            } catch (Refused e) {
                refusals.add(new Refusal(folder.getFileName().toString(), e.getMessage()));
            }
        }
        return new Loaded(presets, refusals, most, MEMORY);
    }

    private static long memory(Preset preset) { return preset.slots().stream().mapToLong(s -> s.sound().bytes()).sum(); }

    private static Preset preset(Path card, Path folder) throws IOException, Refused {
        String name = folder.getFileName().toString();
        if (!name.matches(NAMES)) throw new Refused("folder name; up to 24 letters, digits, spaces, _ and -");
        Path file = folder.resolve(name + ".preset");
        if (!Files.isRegularFile(file)) throw new Refused("no file '" + file.getFileName() + "' in it");
        JsonNode json = CardJson.read(file, MOST_BYTES, "preset", KEYS, "preset 1");
        String title = CardJson.name(json, NAME), kind = json.path("kind").asText();
        if (!kind.equals("slots") && !kind.equals("keys")) throw new Refused("kind '" + kind + "'; plays 'slots' and 'keys'");
        JsonNode sounds = json.path("sounds");
        int room = kind.equals("slots") ? SLOTS : SOUNDS;
        if (sounds.isEmpty() || sounds.size() > room) throw new Refused(sounds.size() + " sounds; has room for " + room);
        List<Preset.Slot> slots = new ArrayList<>();
        Set<String> listed = new HashSet<>(Set.of(file.getFileName().toString()));
        for (int i = 0; i < sounds.size(); i++)
            try {
                slots.add(slot(folder, sounds.get(i), kind.equals("slots")));
                if (!listed.add(sounds.get(i).path("file").asText())) throw new Refused("'" + sounds.get(i).path("file").asText() + "' is there twice");
            } catch (Refused e) {
                throw new Refused("sound " + (i + 1) + ": " + e.getMessage());
            }
        for (Path other : FolderCard.sorted(folder))
            if (!listed.contains(other.getFileName().toString())) throw new Refused("'" + other.getFileName() + "' is not listed");
        int channel = json.path("channel").asInt(1), bend = json.path("bendKeys").asInt(2);
        String voices = json.path("voices").asText("poly");
        if (channel < 1 || channel > 16) throw new Refused("channel " + channel + "; listens on 1 to 16");
        if (!voices.equals("poly") && !voices.equals("mono")) throw new Refused("voices '" + voices + "'; plays 'poly' and 'mono'");
        if (bend < 0 || bend > 24) throw new Refused("a bend of " + bend + " keys; bends by 0 to 24");
        int wheel = json.path("wheelVibratoCents").asInt(0);
        if (wheel < 0 || wheel > MOST_WHEEL) throw new Refused("a wheel to vibrato of " + wheel + " cents; takes 0 to " + MOST_WHEEL);
        String interpolation = json.path("interpolation").asText("straight");
        if (!interpolation.equals("straight") && !interpolation.equals("smooth"))
            throw new Refused("interpolation '" + interpolation + "'; plays 'straight' and 'smooth'");
        Preset preset = new Preset(title, card.relativize(file), slots.stream().map(s -> s.with(s.shape().with(Preset.Vibrato.ofWheel(wheel)))).toList(),
                new Preset.Playing(channel, voices.equals("mono"), bend, interpolation.equals("smooth")));
        Preset.layers(slots, LAYERS);
        if (memory(preset) > MEMORY) throw new Refused("memory full: " + memory(preset) + " of " + MEMORY + " bytes");
        return preset;
    }

    private static Preset.Slot slot(Path folder, JsonNode json, boolean isSlot) throws IOException, Refused {
        CardJson.known(json, SOUND_KEYS, "sound");
        String name = json.path("file").asText();
        if (!name.matches(NAMES + "\\.wav")) throw new Refused("file name '" + name + "'; up to 24 letters, digits, spaces, _ and -, and .wav");
        Path file = folder.resolve(name);
        if (!Files.isRegularFile(file)) throw new Refused("'" + name + "' is missing");
        CardWave sound = CardWave.read(file, WAVES);
        WaveFile.Own own = sound.own();
        if (own.root().filter(r -> r >= 0 && r <= 127).isEmpty()) throw new Refused("'" + name + "' says no root key");
        if (own.low() < 0 || own.low() > own.high() || own.softest() < 0 || own.softest() > own.loudest()) throw new Refused("'" + name + "' lies on no key");
        boolean isOneShot = json.path("oneShot").asBoolean(false);
        if (isSlot && (own.low() != own.high() || !isOneShot)) throw new Refused("'" + name + "' is no one-shot on one key, as slots are");
        return new Preset.Slot(own.low(), own.high(), own.softest(), own.loudest(), own.root().get(), own.cents(), 100, own.gainDb(), 0, 100, 0,
                sound.frames(), isOneShot, sound.loop(true), json.path("chokeGroup").asInt(0), Preset.Shape.PLAIN, sound);
    }
}
