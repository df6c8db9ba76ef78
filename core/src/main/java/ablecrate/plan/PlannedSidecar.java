package ablecrate.plan;

import ablecrate.sidecar.Sidecar;

/// A small file that packing would write beside sounds.
/// @param path below the chosen folder, `/` between folders; until it has its place, what its name has behind that of the sounds
public record PlannedSidecar(String path, Sidecar sidecar) {
    public PlannedSidecar at(String otherPath) { return new PlannedSidecar(otherPath, sidecar); }
}
