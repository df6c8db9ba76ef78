package ablecrate.plan;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.SoundFormat;
import ablecrate.destination.DestinationSheet;
import ablecrate.format.BankFormat;

/// What a sound goes into: a file of a format, or a bank's pool.
/// @param id of the format
/// @param keeps what the destination can use
/// @param tuning how finely a tuning reaches the player
/// @param isFile whether the sound becomes a file of its own
record SoundTarget(String id, String name, Capabilities capabilities, DestinationSheet.Keeps keeps, Capabilities.FineTune tuning, boolean isFile) {
    static SoundTarget file(SoundFormat format, DestinationSheet.Keeps keeps) {
        boolean isTold = keeps.mapping() && format.capabilities().rootKey();
        return new SoundTarget(format.id(), format.name(), format.capabilities(), keeps, isTold ? format.capabilities().fineTune() : Capabilities.FineTune.NONE,
                true);
    }

    /// A file beside a map that tells loops and tunings in its place.
    static SoundTarget mapped(SoundFormat format) {
        return new SoundTarget(format.id(), format.name(), format.capabilities(), DestinationSheet.Keeps.ALL, Capabilities.FineTune.WHOLE_CENTS, true);
    }

    static SoundTarget pooled(BankFormat bank) {
        Capabilities sounds = bank.capabilities().sounds().orElseThrow();
        return new SoundTarget(bank.id(), bank.name(), sounds, DestinationSheet.Keeps.ALL, sounds.fineTune(), false);
    }

    /// Whether the destination makes anything of loops.
    boolean carriesLoops() { return keeps.loops() && capabilities.loops().sustain() > 0; }

    /// The depth that is taken for this one.
    Depth depth(Depth wanted) {
        if (isFile || capabilities.depths().contains(wanted)) return wanted;
        return capabilities.depths().stream().sorted().filter(d -> d.resolutionBits() >= wanted.resolutionBits()).findFirst()
                .orElseGet(() -> capabilities.depths().stream().sorted().reduce((_, last) -> last).orElseThrow());
    }
}
