package ablecrate.planner.sound;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.WrittenFormat;
import ablecrate.destination.DestinationSheet;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFormat;
import ablecrate.instrument.LoopMode;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/// What a sound goes into: a file of a format, or a bank's pool.
/// @param id of the format
/// @param keeps what the destination can use
/// @param written what the user wants of that
/// @param loops that format and destination take
/// @param tuning how finely a tuning reaches the player
/// @param hasMap whether a map beside the sound says how it is played
/// @param isFile whether the sound becomes a file of its own
public record SoundTarget(String id, String name, Capabilities capabilities, DestinationSheet.Keeps keeps, DestinationSheet.Keeps written,
        Capabilities.Loops loops, Capabilities.FineTune tuning, boolean hasMap, boolean isFile) {
    public static SoundTarget file(WrittenFormat format, DestinationSheet.Keeps keeps, DestinationSheet.Keeps written) {
        boolean isTold = keeps.mapping() && written.mapping() && format.capabilities().rootKey();
        return new SoundTarget(format.id(), format.name(), format.capabilities(), keeps, written, format.capabilities().loops(),
                isTold ? format.capabilities().fineTune() : Capabilities.FineTune.NONE,
                false, true);
    }

    /// A file beside a map that tells loops and tunings in its place.
    public static SoundTarget mapped(WrittenFormat format, InstrumentFormat map, DestinationSheet.Keeps written) {
        SoundTarget file = new SoundTarget(format.id(), format.name(), format.capabilities(), DestinationSheet.Keeps.ALL, written,
                format.capabilities().loops(),
                Capabilities.FineTune.WHOLE_CENTS, true, true);
        Capabilities.Loops loops = file.loops;
        return file.with(new Capabilities.Loops(loops.sustain(), loops.release(), file.both(map.capabilities().loopModes()), loops.playCount(),
                loops.usedByPlace(), loops.frames()));
    }

    /// @param isExact whether the sound keeps its rate: then it stays to the bit, whatever the format asks of loops
    public static SoundTarget pooled(BankFormat bank, boolean isExact) {
        Capabilities sounds = bank.capabilities().sounds().orElseThrow();
        Capabilities.Loops loops = isExact ? sounds.loops().with(Capabilities.Loops.Frames.ANY) : sounds.loops();
        return new SoundTarget(bank.id(), bank.name(), sounds, DestinationSheet.Keeps.ALL, DestinationSheet.Keeps.ALL, loops, sounds.fineTune(), true,
                false);
    }

    /// The same at a destination that takes some loops only.
    public SoundTarget within(DestinationSheet.Loops taken) {
        return with(new Capabilities.Loops(taken.most() == 0 ? loops.sustain() : Math.min(taken.most(), loops.sustain()), loops.release(),
                both(taken.modeSet()), loops.playCount(), loops.usedByPlace(), loops.frames().and(taken.frames())));
    }

    private Set<LoopMode> both(Set<LoopMode> modes) { return loops.modes().stream().filter(modes::contains).collect(Collectors.toSet()); }

    private SoundTarget with(Capabilities.Loops others) { return new SoundTarget(id, name, capabilities, keeps, written, others, tuning, hasMap, isFile); }

    /// Whether the destination makes anything of loops.
    public boolean carriesLoops() { return keeps.loops() && written.loops() && loops.sustain() > 0; }

    boolean isLossy() { return capabilities.compressing().isLossy(); }

    /// The rate that is taken for this one: the nearest that loses nothing, else the highest.
    public int rateHz(int wanted) {
        List<Integer> rates = capabilities.compressing().ratesHz().stream().sorted().toList();
        return rates.isEmpty() || rates.contains(wanted) ? wanted : rates.stream().filter(r -> r >= wanted).findFirst().orElse(rates.getLast());
    }

    /// The depth that is taken for this one.
    /// @param accepted by the destination; empty for any. Where the format has none of them, what it has is taken
    public Depth depth(Depth wanted, List<Depth> accepted) {
        if (capabilities.depths().contains(wanted)) return wanted;
        List<Depth> both = capabilities.depths().stream().filter(d -> accepted.isEmpty() || accepted.contains(d)).sorted().toList(),
                open = both.isEmpty() ? capabilities.depths().stream().sorted().toList() : both;
        return open.stream().filter(d -> d.resolutionBits() >= wanted.resolutionBits()).findFirst().orElse(open.getLast());
    }
}
