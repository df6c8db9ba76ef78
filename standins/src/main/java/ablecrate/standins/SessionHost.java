package ablecrate.standins;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// A recording session as a careful host opens it; see `docs/devices/session.md`. Knows the document by its page alone.
public final class SessionHost {
    private static final Set<String> KEYS = Set.of("$schema", "format", "rateHz", "depth", "dayFrame", "tempo", "meters", "files", "tracks", "markers"),
            FILE_KEYS = Set.of("path", "frames", "xxh128"), TRACK_KEYS = Set.of("name", "gainDb", "panPercent", "muted", "clips"),
            CLIP_KEYS = Set.of("file", "startFrame", "bar", "offsetFrames", "lengthFrames", "gainDb", "panPercent", "fadeInFrames", "fadeOutFrames", "muted");
    private static final long MOST_BYTES = 100_000_000, LONGEST = 1L << 40;

    /// Decodes what a careful host refuses.
    public interface Decoder {
        /// @param file that need not be there
        Optional<HostSound> open(Path file) throws IOException;
    }

    /// A clip that plays.
    /// @param track which of the session's tracks, from 0
    record Clip(int track, HostSound sound, long start, long offset, long length, double gainDb, double pan, long fadeIn, long fadeOut) {}

    /// @param clips in the document
    /// @param playing those of them that play
    public record Track(String name, int clips, int playing) {}

    /// What a host makes of a folder.
    public static final class Opened {
        private final int rateHz;
        private final List<Track> tracks;
        private final List<Device.Refusal> refusals;
        private final List<Clip> clips;
        private final Beats beats;

        private Opened(int rateHz, List<Track> tracks, List<Device.Refusal> refusals, List<Clip> clips, Beats beats) {
            this.rateHz = rateHz;
            this.tracks = List.copyOf(tracks);
            this.refusals = List.copyOf(refusals);
            this.clips = List.copyOf(clips);
            this.beats = beats;
        }

        public int rateHz() { return rateHz; }

        /// To the end of the last clip.
        public long frames() { return clips.stream().mapToLong(c -> c.start() + c.length()).max().orElse(0); }

        public List<Track> tracks() { return tracks; }

        public List<Device.Refusal> refusals() { return refusals; }

        List<Clip> clips() { return clips; }

        Beats beats() { return beats; }
    }

    private final Path file, folder;
    private final Optional<Decoder> decoder;
    private final List<Device.Refusal> refusals = new ArrayList<>();
    private final Map<String, HostSound> sounds = new HashMap<>();
    private int rateHz;
    private String depth;

    private SessionHost(Path file, Path folder, Optional<Decoder> decoder) {
        this.file = file;
        this.folder = folder.toAbsolutePath().normalize();
        this.decoder = decoder;
    }

    /// @param decoder of files that are refused, so that they are heard all the same; they stay refused
    public static Opened open(Path folder, Optional<Decoder> decoder) throws IOException { return open(folder.resolve("session.json"), folder, decoder); }

    /// @param document of the session, wherever it lies
    public static Opened open(Path document, Path folder, Optional<Decoder> decoder) throws IOException {
        return new SessionHost(document, folder, decoder).open();
    }

    private Opened open() throws IOException {
        try {
            return document();
        } catch (Refused e) {
            refusals.add(new Device.Refusal("session.json", e.getMessage()));
            return new Opened(rateHz, List.of(), refusals, List.of(), Beats.NONE);
        }
    }

    private Opened document() throws IOException, Refused {
        if (!Files.isRegularFile(file)) throw new Refused("no session.json in the folder");
        if (Files.size(file) > MOST_BYTES) throw new Refused("too large");
        JsonNode json;
        try {
            JsonMapper mapper = JsonMapper.builder().build();
            mapper.getFactory().setStreamReadConstraints(StreamReadConstraints.builder().maxNestingDepth(20).build());
            json = mapper.readTree(file.toFile());
        } catch (JsonProcessingException e) {
            throw new Refused("not JSON: " + e.getOriginalMessage());
        }
        known(json, KEYS, "session");
        if (!json.path("format").asText().equals("session 1")) throw new Refused("format '" + json.path("format").asText() + "'; reads 'session 1'");
        rateHz = json.path("rateHz").asInt();
        depth = json.path("depth").asText();
        if (rateHz < 8000 || rateHz > 384_000) throw new Refused("rate of " + rateHz + " Hz");
        if (!Set.of("16", "24", "32f").contains(depth)) throw new Refused("depth " + depth + "; plays 16, 24 and 32f");
        Beats beats = Beats.of(json.path("tempo"), json.path("meters"), rateHz);
        files(json.path("files"));
        List<Track> tracks = new ArrayList<>();
        List<Clip> clips = new ArrayList<>();
        for (JsonNode track : json.path("tracks")) {
            known(track, TRACK_KEYS, "track");
            int before = clips.size();
            for (JsonNode clip : track.path("clips"))
                clip(tracks.size(), track, clip).ifPresent(clips::add);
            tracks.add(new Track(track.path("name").asText(), track.path("clips").size(), clips.size() - before));
        }
        return new Opened(rateHz, tracks, refusals, clips, beats);
    }

    static void known(JsonNode json, Set<String> keys, String where) throws Refused {
        if (!json.isObject()) throw new Refused(where + " is no object");
        for (Map.Entry<String, JsonNode> field : json.properties())
            if (!keys.contains(field.getKey())) throw new Refused("'" + field.getKey() + "' is not known in a " + where);
    }

    private void files(JsonNode files) throws IOException, Refused {
        Set<String> seen = new HashSet<>();
        for (JsonNode file : files) {
            known(file, FILE_KEYS, "file");
            String path = file.path("path").asText();
            if (!seen.add(path)) throw new Refused("file '" + path + "' is there twice");
            Path place;
            try {
                place = folder.resolve(path).normalize();
            } catch (java.nio.file.InvalidPathException e) {
                refusals.add(new Device.Refusal(path, "no path"));
                continue;
            }
            try {
                sounds.put(path, sound(path, place));
            } catch (Refused e) {
                refusals.add(new Device.Refusal(path, e.getMessage()));
                if (decoder.isPresent()) decoder.get().open(place).ifPresent(s -> sounds.put(path, s));
            }
        }
    }

    private HostSound sound(String path, Path place) throws IOException, Refused {
        if (path.contains("\\") || path.startsWith("/") || !place.startsWith(folder)) throw new Refused("lies outside of the session");
        for (Path part = place; !part.equals(folder); part = part.getParent())
            if (Files.isSymbolicLink(part)) throw new Refused("a link leads out of the session");
        if (!Files.isRegularFile(place, LinkOption.NOFOLLOW_LINKS)) throw new Refused("offline");
        return WaveFile.open(place, (code, rate, bits, channels) -> {
            boolean isFloat = WaveFile.isFloat(code);
            if (!isFloat && !WaveFile.isPcm(code)) throw new Refused("only PCM and float are played, this is format " + code);
            if (rate != rateHz) throw new Refused(rate + " Hz; the session has " + rateHz);
            String is = bits + (isFloat ? "f" : "");
            if (!is.equals(depth)) throw new Refused("depth " + is + "; the session has " + depth);
            if (channels < 1 || channels > 2) throw new Refused(channels + " channels; plays mono and stereo");
        });
    }

    private Optional<Clip> clip(int number, JsonNode track, JsonNode clip) throws Refused {
        known(clip, CLIP_KEYS, "clip");
        String file = clip.path("file").asText(), where = "track '" + track.path("name").asText() + "'";
        long start = clip.path("startFrame").asLong(-1), offset = clip.path("offsetFrames").asLong(-1), length = clip.path("lengthFrames").asLong(0);
        if (start < 0 || offset < 0 || length <= 0 || Math.max(start, Math.max(offset, length)) > LONGEST)
            throw new Refused(where + ": a clip without start, offset or length");
        HostSound sound = sounds.get(file);
        if (sound == null) return Optional.empty();
        if (offset + (double) length * sound.rateHz() / rateHz > sound.frames() + 1) {
            refusals.add(new Device.Refusal(file, where + ": a clip plays beyond the file's end"));
            return Optional.empty();
        }
        if (track.path("muted").asBoolean() || clip.path("muted").asBoolean()) return Optional.empty();
        return Optional.of(new Clip(number, sound, start, offset, length, track.path("gainDb").asDouble() + clip.path("gainDb").asDouble(),
                Math.clamp(track.path("panPercent").asDouble() + clip.path("panPercent").asDouble(), -100, 100) / 100,
                clip.path("fadeInFrames").asLong(), clip.path("fadeOutFrames").asLong()));
    }
}
