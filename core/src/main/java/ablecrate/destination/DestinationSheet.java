package ablecrate.destination;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.LoopMode;
import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// What one destination accepts and how it wants things. The keys of the JSON file are the names here.
/// @param id short and unique: `drum-pads`
/// @param name for people
/// @param about one or two sentences, for people
/// @param document what describes the files beside them: `session`, or nothing
@JsonInclude(JsonInclude.Include.NON_NULL) public record DestinationSheet(String id, String name, String about, Accepts accepts, Defaults defaults, Names names,
        Layout layout, Keeps keeps, DeviceLimits limits, CardRules card, String document) {
    public static final String SESSION = "session";
    /// Rates that sounds have, upwards.
    public static final List<Integer> USUAL_RATES = List.of(8000, 11_025, 16_000, 22_050, 32_000, 44_100, 48_000, 88_200, 96_000, 176_400, 192_000);

    /// An empty list is no limit.
    /// @param instruments formats of instruments, the preferred one first. Where none is listed, instruments are taken apart: their sounds go, each
    ///     with its own mapping
    /// @param maxSeconds the longest sound; 0 is no limit
    /// @param rateRangeHz the lowest and the highest rate, both included; empty is no limit
    public record Accepts(List<String> containers, List<String> instruments, List<Integer> ratesHz, List<String> depths, List<Integer> channels,
            double maxSeconds, Loops loops, List<Integer> rateRangeHz) {
        public Accepts {
            rateRangeHz = orEmpty(rateRangeHz);
            List<Integer> range = rateRangeHz;
            require(range.isEmpty() || range.size() == 2 && USUAL_RATES.stream().anyMatch(r -> r >= range.get(0) && r <= range.get(1)),
                    "accepts.rateRangeHz: the lowest and the highest are expected, with a usual rate between them, found " + range);
            loops = loops == null ? Loops.ANY : loops;
            instruments = orEmpty(instruments);
            instruments.forEach(i -> require(InstrumentFormats.byId(i).isPresent(), "accepts.instruments: '" + i + "' is none of "
                    + InstrumentFormats.ALL.stream().map(InstrumentFormat::id).toList()));
            containers = orEmpty(containers);
            ratesHz = orEmpty(ratesHz).stream().sorted().toList();
            require(ratesHz.isEmpty() || rateRangeHz.isEmpty(), "accepts.rateRangeHz: rates are a list or a range, not both");
            depths = orEmpty(depths);
            channels = orEmpty(channels);
            containers.forEach(c -> require(SoundFormats.written(c).isPresent(), "accepts.containers: '" + c + "' is none of "
                    + SoundFormats.WRITTEN.stream().map(f -> f.id()).toList()));
            depths.forEach(d -> require(Depth.byId(d).isPresent(), "accepts.depths: '" + d + "' is none of 8, 16, 24, 32, 32f, 64f"));
            ratesHz.forEach(r -> requireRate(r, "accepts.ratesHz"));
            channels.forEach(c -> require(c > 0, "accepts.channels: " + c + " is no number of channels"));
            require(maxSeconds >= 0, "accepts.maxSeconds: must not be negative");
        }

        /// Whether a sound may have this rate.
        public boolean takesRate(int hz) {
            return rateRangeHz.isEmpty() ? ratesHz.isEmpty() || ratesHz.contains(hz) : hz >= rateRangeHz.get(0) && hz <= rateRangeHz.get(1);
        }

        /// Rates that a sound can be given: those of the list, or the usual ones in the range; empty where any goes.
        public List<Integer> rateChoices() {
            return rateRangeHz.isEmpty() ? ratesHz : USUAL_RATES.stream().filter(this::takesRate).toList();
        }

        public List<Depth> depthList() { return depths.stream().map(d -> Depth.byId(d).orElseThrow()).sorted().toList(); }
    }

    /// Which loops of a sound the destination plays.
    /// @param most while the key is held; 0 is no limit
    /// @param modes empty is any
    /// @param longestFrames 0 is no limit
    /// @param aroundFrames that a sound has in front of its loop and behind it, at least
    public record Loops(int most, List<String> modes, int shortestFrames, long longestFrames, int aroundFrames) {
        public static final Loops ANY = new Loops(0, List.of(), 0, 0, 0);
        private static final int MOST_AROUND = 65_536;

        public Loops {
            modes = orEmpty(modes);
            require(most >= 0 && shortestFrames >= 0 && longestFrames >= 0 && aroundFrames >= 0, "accepts.loops: numbers must not be negative");
            require(aroundFrames <= MOST_AROUND, "accepts.loops.aroundFrames: at most " + MOST_AROUND + " are expected, found " + aroundFrames);
            require(longestFrames == 0 || longestFrames >= shortestFrames, "accepts.loops.longestFrames: " + longestFrames + " is shorter than the shortest");
            modes.forEach(m -> require(Arrays.stream(LoopMode.values()).anyMatch(l -> l.label().equals(m)),
                    "accepts.loops.modes: '" + m + "' is none of forward, alternating, backward"));
        }

        public Capabilities.Loops.Frames frames() {
            return new Capabilities.Loops.Frames(Math.max(1, shortestFrames), longestFrames == 0 ? Long.MAX_VALUE : longestFrames, aroundFrames);
        }

        public Set<LoopMode> modeSet() {
            return Arrays.stream(LoopMode.values()).filter(m -> modes.isEmpty() || modes.contains(m.label())).collect(Collectors.toSet());
        }
    }

    /// What is chosen where the user says nothing. Absent: as the source where that is accepted, else the nearest that is.
    /// @param container of sounds; or a format of instruments, which folders of loose sounds become then
    public record Defaults(Optional<Integer> rateHz, Optional<String> depth, Optional<String> container, Optional<ChannelChoice> channels) {
        public static final Defaults NONE = new Defaults(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());

        public Defaults {
            if (rateHz != null) rateHz.ifPresent(r -> requireRate(r, "defaults.rateHz"));
            if (container != null)
                container.ifPresent(c -> require(SoundFormats.written(c).isPresent() || InstrumentFormats.byId(c).isPresent(),
                        "defaults.container: '" + c + "' is no container, and no format of instruments"));
        }
    }

    /// @param maxLength characters of a name, without its extension; 0 is no limit
    /// @param alphabet characters that are allowed, ranges with a hyphen as in `A-Z0-9_`; a hyphen itself stands last; empty is any
    /// @param pattern how names are made unless the user says otherwise, see [NamePattern]
    /// @param begin a pattern of what stands in front of every name, whatever else it is made of; empty is nothing
    public record Names(int maxLength, String alphabet, boolean upperCase, String pattern, String begin) {
        public static final Names FREE = new Names(0, "", false, "(name)", "");

        public Names {
            alphabet = alphabet == null ? "" : alphabet;
            pattern = pattern == null || pattern.isEmpty() ? "(name)" : pattern;
            require(maxLength >= 0, "names.maxLength: must not be negative");
            requirePattern(pattern, "names.pattern");
            begin = begin == null ? "" : begin;
            if (!begin.isEmpty()) requirePattern(begin, "names.begin");
        }

        /// By which names that were made are read.
        public NamePattern made() { return NamePattern.parse(begin.isEmpty() ? pattern : begin + "(name)"); }

        /// The same for shorter names, or what is left of them.
        Names atMost(int length) { return new Names(length, alphabet, upperCase, pattern, ""); }
    }

    /// @param folder pattern of the folder that sounds lie in, see [NamePattern]; empty is the chosen folder itself
    /// @param soundsPerFolder at most, and of a kit that loose sounds become; what is more goes to the next one; 0 is no limit
    /// @param maxFolders at most; 0 is no limit
    /// @param mirror whether folders of the source are rebuilt unless the user says otherwise
    /// @param soundsOnly whether nothing may lie there but sounds, and instruments where it takes them
    /// @param instrumentsPerBank at most, of a device that loads one bank at a time; what is more goes to another bank beside it; 0 for any other device
    /// @param oneFolder whether it looks into no folders: all lies side by side
    /// @param instrumentsOnly whether it loads no sound but those that an instrument plays
    public record Layout(String folder, int soundsPerFolder, int maxFolders, boolean mirror, boolean soundsOnly, int instrumentsPerBank, boolean oneFolder,
            boolean instrumentsOnly) {
        public static final Layout FLAT = new Layout("", 0, 0, false, false, 0, false, false);

        public Layout {
            folder = folder == null ? "" : folder;
            require(soundsPerFolder >= 0 && maxFolders >= 0 && instrumentsPerBank >= 0, "layout: numbers must not be negative");
            if (!folder.isEmpty()) requirePattern(folder, "layout.folder");
            require(!oneFolder || folder.isEmpty() && !mirror, "layout.oneFolder: where there are no folders, none are made or rebuilt");
        }
    }

    /// What of a sound's own metadata the destination can use.
    public record Keeps(boolean loops, boolean mapping, boolean cues, boolean broadcast, boolean texts) {
        public static final Keeps ALL = new Keeps(true, true, true, true, true);
    }

    public DestinationSheet {
        require(id != null && id.matches("[a-z0-9][a-z0-9-]*"), "id: letters a to z, digits and hyphens are expected, found '" + id + "'");
        require(name != null && !name.isBlank(), "name: is missing");
        require(accepts != null, "accepts: is missing");
        about = about == null ? "" : about;
        defaults = defaults == null ? Defaults.NONE : defaults;
        names = names == null ? Names.FREE : names;
        layout = layout == null ? Layout.FLAT : layout;
        keeps = keeps == null ? Keeps.ALL : keeps;
        limits = limits == null ? DeviceLimits.NONE : limits;
        card = card == null ? CardRules.NONE : card;
        require(document == null || document.equals(SESSION), "document: '" + document + "' is not '" + SESSION + "'");
        require(!layout.instrumentsOnly() || !accepts.instruments().isEmpty(),
                "layout.instrumentsOnly: accepts.instruments lists no format of them");
        require(limits.isOfSounds() || !accepts.instruments().isEmpty(),
                "limits: but for totalBytes and sampleOverheadBytes they are of instruments, and accepts.instruments lists no format of them");
    }

    /// Whether one bank is loaded at a time, so that each has the memory for itself.
    public boolean loadsBankByBank() { return layout.instrumentsPerBank() > 0; }

    /// Containers of sounds, and formats of instruments, that may be chosen.
    public List<String> containers() {
        List<String> all = new ArrayList<>();
        if (!layout.instrumentsOnly())
            all.addAll(accepts.containers.isEmpty() ? SoundFormats.WRITTEN.stream().map(SoundFormat::id).toList() : accepts.containers);
        all.addAll(accepts.instruments);
        return all;
    }

    /// Whether there is one memory, and sounds alone share it.
    public boolean sharesMemory() { return limits.totalBytes() > 0 && accepts.instruments().isEmpty(); }

    /// Whether its folder is a recording session with a document.
    @JsonIgnore public boolean isSession() { return SESSION.equals(document); }

    /// The same for one rate and one depth.
    public DestinationSheet at(int rateHz, Depth depth) {
        Accepts one = new Accepts(accepts.containers, accepts.instruments, List.of(rateHz), List.of(depth.id()), accepts.channels, accepts.maxSeconds,
                accepts.loops, List.of());
        return new DestinationSheet(id, name + String.format(Locale.ROOT, ", %,d Hz, %s", rateHz, depth.label()), about, one,
                new Defaults(Optional.empty(), Optional.empty(), defaults.container, defaults.channels), names,
                layout,
                keeps, limits, card, document);
    }

    @JsonProperty("$schema") String schema() { return "destination-sheet.schema.json"; }

    private static <T> List<T> orEmpty(List<T> list) { return list == null ? List.of() : List.copyOf(list); }

    /// Of a sound that something plays: below, speech is no speech any more; above, there is no converter.
    public static final int LOWEST_RATE_HZ = 1000, HIGHEST_RATE_HZ = 1_000_000;

    private static void requireRate(int rateHz, String key) {
        require(rateHz >= LOWEST_RATE_HZ && rateHz <= HIGHEST_RATE_HZ, key + ": " + rateHz + " is no rate from 1000 to 1000000 Hz");
    }

    private static void requirePattern(String pattern, String key) {
        try {
            NamePattern.parse(pattern);
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException(key + ": " + e.getMessage(), e);
        }
    }

    private static void require(boolean holds, String message) {
        if (!holds) throw new IllegalArgumentException(message);
    }
}
