package ablecrate.instrument;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/// Sounds mapped to keys and velocities by zones.
/// @param program where a bank holds it
/// @param playing what is said of how all of it is played
public record Instrument(About about, Optional<Program> program, PlayingSettings playing, List<ZoneGroup> groups) {
    /// Its number in a bank: 0…127 in a bank that controllers 0 and 32 choose; percussion is bank 128 of SoundFont 2 and a flag of DLS.
    /// @param bank what controller 0 says, and 128 times what controller 32 says
    public record Program(int bank, int number, boolean isPercussion) {
        /// Two controllers of seven bits.
        public static final int MOST_BANK = 0x3FFF;
        /// As players list them.
        public static final Comparator<Program> ORDER = Comparator.comparing(Program::isPercussion).thenComparing(Program::bank)
                .thenComparing(Program::number);

        @Override public String toString() { return "bank " + bank + ", number " + number + (isPercussion ? ", percussion" : ""); }
    }

    public Instrument {
        groups = List.copyOf(groups);
    }

    /// One of which nothing is said as a whole.
    public Instrument(About about, Optional<Program> program, List<ZoneGroup> groups) { this(about, program, PlayingSettings.NONE, groups); }

    public String name() { return about.name(); }

    public List<Zone> zones() { return groups.stream().flatMap(g -> g.zones().stream()).toList(); }

    public Instrument withAbout(About other) { return new Instrument(other, program, playing, groups); }

    public Instrument withProgram(Optional<Program> other) { return new Instrument(about, other, playing, groups); }

    public Instrument withPlaying(PlayingSettings other) { return new Instrument(about, program, other, groups); }

    public Instrument withGroups(List<ZoneGroup> others) { return new Instrument(about, program, playing, others); }

    /// Each zone replaced by what becomes of it; none leaves it out.
    public Instrument mapZones(Function<Zone, List<Zone>> change) {
        return withGroups(groups.stream().map(g -> g.withZones(g.zones().stream().flatMap(z -> change.apply(z).stream()).toList())).toList());
    }
}
