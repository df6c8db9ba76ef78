package ablecrate.option;

import java.util.Optional;

/// Where results go and what they are called.
/// @param namePattern instead of the destination's
/// @param existing what is done where a file of that name is there
/// @param verifies whether every file that is there is compared with its checksum, not only those whose size or time changed
/// @param mirror whether the folders of the source are rebuilt; absent is as the destination prefers
public record Placing(Optional<String> namePattern, ExistingFiles existing, boolean verifies, Optional<Boolean> mirror, Kits kits, Joining joining) {
    public static final Placing USUAL = new Placing(Optional.empty(), ExistingFiles.SKIP, false, Optional.empty(), Kits.USUAL, Joining.NONE);

    public Placing withNamePattern(Optional<String> p) { return new Placing(p, existing, verifies, mirror, kits, joining); }

    public Placing withExisting(ExistingFiles e) { return new Placing(namePattern, e, verifies, mirror, kits, joining); }

    public Placing withVerifying(boolean v) { return new Placing(namePattern, existing, v, mirror, kits, joining); }

    public Placing withMirror(Optional<Boolean> m) { return new Placing(namePattern, existing, verifies, m, kits, joining); }

    public Placing withKits(Kits k) { return new Placing(namePattern, existing, verifies, mirror, k, joining); }

    public Placing withJoining(Joining j) { return new Placing(namePattern, existing, verifies, mirror, kits, j); }
}
