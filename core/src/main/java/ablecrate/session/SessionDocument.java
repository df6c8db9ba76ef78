package ablecrate.session;

import static ablecrate.session.TempoMap.require;

import ablecrate.audio.Depth;
import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/// A recording session: its rate and depth, its bars, its files, and which part of which file sounds when. The keys of the JSON file are the names here.
/// Places on the time line are in frames at the session's rate, since the start of bar 1.
/// @param schema of the file, for editors
/// @param format [#FORMAT]
/// @param depth of its files: `24`, `32f`
/// @param dayFrame time of day at bar 1, in frames since midnight at the session's rate; time stamps of files refer to it
/// @param tempo,meters the first of each at bar 1
/// @param files all that belong to the session, whether on a track or not
@JsonInclude(JsonInclude.Include.NON_EMPTY) public record SessionDocument(@JsonProperty("$schema") String schema, String format, int rateHz, String depth,
        long dayFrame, List<TempoMap.Tempo> tempo, List<TempoMap.Meter> meters, List<SoundRef> files, List<Track> tracks, List<Marker> markers) {
    /// Its name in a session's folder.
    public static final String NAME = "session.json";
    public static final String FORMAT = "session 1", SCHEMA = "session.schema.json";
    /// More than any session has; a document with more is refused before it is worked on.
    private static final int MOST = 200_000;
    private static final long LONGEST = 1L << 40;

    /// A file, and how it is known again should it be gone.
    /// @param path below the session's folder, `/` between folders; an absolute one, or one that leads out, is a link
    /// @param frames of the file; absent where nobody has told
    /// @param xxh128 of the file
    @JsonInclude(JsonInclude.Include.NON_EMPTY) public record SoundRef(String path, Optional<Long> frames, Optional<String> xxh128) {
        public SoundRef {
            require(path != null && !path.isBlank(), "files: a path is missing");
            frames = frames == null ? Optional.empty() : frames;
            xxh128 = xxh128 == null ? Optional.empty() : xxh128;
        }
    }

    /// @param name for people
    @JsonInclude(JsonInclude.Include.NON_DEFAULT) public record Track(String name, double gainDb, double panPercent, boolean muted,
            @JsonInclude(JsonInclude.Include.ALWAYS) List<Clip> clips) {
        public Track {
            require(name != null, "tracks: a name is missing");
            requireGain(gainDb, panPercent, "track '" + name + "'");
            clips = clips == null ? List.of() : List.copyOf(clips);
        }

        Track with(UnaryOperator<Clip> change) { return new Track(name, gainDb, panPercent, muted, clips.stream().map(change).toList()); }
    }

    /// A part of a file on the time line.
    /// @param file the path of one of the files
    /// @param bar the same place as `startFrame`, for readers; 0 where it is not told
    /// @param offsetFrames what of the file comes before it, in the file's own frames
    /// @param lengthFrames on the time line, at the session's rate, as the fades are
    @JsonInclude(JsonInclude.Include.NON_DEFAULT) public record Clip(@JsonInclude(JsonInclude.Include.ALWAYS) String file,
            @JsonInclude(JsonInclude.Include.ALWAYS) long startFrame, double bar, @JsonInclude(JsonInclude.Include.ALWAYS) long offsetFrames,
            @JsonInclude(JsonInclude.Include.ALWAYS) long lengthFrames, double gainDb, double panPercent, long fadeInFrames, long fadeOutFrames,
            boolean muted) {
        public Clip {
            require(file != null, "clips: a file is missing");
            require(startFrame >= 0 && offsetFrames >= 0 && lengthFrames > 0,
                    "clip of '" + file + "': start and offset are at least 0, the length is above it");
            require(startFrame <= LONGEST && offsetFrames <= LONGEST && lengthFrames <= LONGEST, "clip of '" + file + "': no time line is so long");
            require(fadeInFrames >= 0 && fadeOutFrames >= 0 && fadeInFrames <= lengthFrames - fadeOutFrames,
                    "clip of '" + file + "': its fades are longer than it is");
            requireGain(gainDb, panPercent, "clip of '" + file + "'");
        }

        /// A whole file.
        public static Clip of(String file, long startFrame, long lengthFrames, double panPercent) {
            return new Clip(file, startFrame, 0, 0, lengthFrames, 0, panPercent, 0, 0, false);
        }

        public Clip of(String otherFile, long otherOffset, long otherLength) {
            long out = Math.min(fadeOutFrames, otherLength), in = Math.min(fadeInFrames, otherLength - out);
            return new Clip(otherFile, startFrame, bar, otherOffset, otherLength, gainDb, panPercent, in, out, muted);
        }

        private Clip at(double otherBar) {
            return new Clip(file, startFrame, otherBar, offsetFrames, lengthFrames, gainDb, panPercent, fadeInFrames, fadeOutFrames, muted);
        }

        public long endFrame() { return startFrame + lengthFrames; }
    }

    public record Marker(String name, long frame) {}

    public SessionDocument {
        require(FORMAT.equals(format), "format: '" + FORMAT + "' is expected, found '" + format + "'");
        require(rateHz >= 1000 && rateHz <= 1_000_000, "rateHz: " + rateHz + " is no rate from 1000 to 1000000 Hz");
        require(Depth.byId(depth).isPresent(), "depth: '" + depth + "' is none of 8, 16, 24, 32, 32f, 64f");
        schema = SCHEMA;
        tempo = orEmpty(tempo);
        meters = orEmpty(meters);
        files = orEmpty(files);
        tracks = orEmpty(tracks);
        markers = orEmpty(markers);
        require(files.size() <= MOST && tracks.stream().mapToLong(t -> t.clips().size()).sum() <= MOST, "more than " + MOST + " files or clips");
        Set<String> paths = new HashSet<>();
        files.forEach(f -> require(paths.add(f.path()), "files: '" + f.path() + "' is there twice"));
        TempoMap bars = new TempoMap(tempo, meters, rateHz);
        tracks = tracks.stream().map(t -> t.with(c -> {
            require(paths.contains(c.file()), "track '" + t.name() + "': its clip of '" + c.file() + "' is of no file of the session");
            require(c.bar() == 0 || Math.abs(bars.frame(c.bar()) - c.startFrame()) <= 1,
                    "track '" + t.name() + "': frame " + c.startFrame() + " lies at bar " + bars.bar(c.startFrame()) + ", not " + c.bar());
            return c.at(bars.bar(c.startFrame()));
        })).toList();
    }

    /// One without files.
    public static SessionDocument of(int rateHz, Depth depth, double bpm, int beats, int unit) {
        return new SessionDocument(SCHEMA, FORMAT, rateHz, depth.id(), 0, List.of(new TempoMap.Tempo(1, bpm)), List.of(new TempoMap.Meter(1, beats, unit)),
                List.of(), List.of(), List.of());
    }

    private static <T> List<T> orEmpty(List<T> list) { return list == null ? List.of() : List.copyOf(list); }

    private static void requireGain(double gainDb, double panPercent, String where) {
        require(Double.isFinite(gainDb) && gainDb <= 60, where + ": a gain of " + gainDb + " dB");
        require(panPercent >= -100 && panPercent <= 100, where + ": a pan of " + panPercent + " %");
    }

    /// Where its bars lie.
    /// With other markers.
    public SessionDocument marked(List<Marker> all) {
        return new SessionDocument(schema, format, rateHz, depth, dayFrame, tempo, meters, files, tracks, all);
    }

    @JsonIgnore public TempoMap bars() { return new TempoMap(tempo, meters, rateHz); }

    @JsonIgnore public Depth depthValue() { return Depth.byId(depth).orElseThrow(); }

    /// Where the last clip ends.
    @JsonIgnore public long endFrame() { return tracks.stream().flatMap(t -> t.clips().stream()).mapToLong(Clip::endFrame).max().orElse(0); }

    @JsonIgnore public Optional<SoundRef> file(String path) { return files.stream().filter(f -> f.path().equals(path)).findFirst(); }

    /// Paths of files that no clip plays.
    @JsonIgnore public Set<String> offTracks() {
        Set<String> off = new LinkedHashSet<>(files.stream().map(SoundRef::path).toList());
        tracks.forEach(t -> t.clips().forEach(c -> off.remove(c.file())));
        return off;
    }

    public SessionDocument from(long otherDayFrame) {
        return new SessionDocument(schema, format, rateHz, depth, otherDayFrame, tempo, meters, files, tracks, markers);
    }

    /// The same bars and markers, without files and tracks.
    public SessionDocument without() {
        return new SessionDocument(schema, format, rateHz, depth, dayFrame, tempo, meters, List.of(), List.of(), markers);
    }

    /// With further files and tracks behind those that are there; a file that is there is told anew.
    public SessionDocument with(List<SoundRef> more, List<Track> moreTracks) {
        Map<String, SoundRef> told = new HashMap<>();
        more.forEach(f -> told.put(f.path(), f));
        List<SoundRef> all = new ArrayList<>();
        files.forEach(f -> all.add(told.containsKey(f.path()) ? told.remove(f.path()) : f));
        more.stream().filter(f -> told.containsKey(f.path())).forEach(all::add);
        List<Track> allTracks = new ArrayList<>(tracks);
        allTracks.addAll(moreTracks);
        return new SessionDocument(schema, format, rateHz, depth, dayFrame, tempo, meters, all, allTracks, markers);
    }

    /// With other files, and clips that follow them.
    public SessionDocument following(List<SoundRef> otherFiles, UnaryOperator<Clip> clips) {
        return new SessionDocument(schema, format, rateHz, depth, dayFrame, tempo, meters, otherFiles, tracks.stream().map(t -> t.with(clips)).toList(),
                markers);
    }
}
