package ablecrate.option;

import ablecrate.destination.DestinationSheet.Keeps;

/// Which metadata the user wants written into sound files.
/// @param written kinds of metadata; what is not among them is left out
/// @param leavesFiles whether files beside a map keep the metadata that they have, instead of getting those of the instrument
/// @param keepsUnknown whether chunks that nothing is known of stay in files whose audio changes, though they may hold positions that are wrong then
public record MetadataChoice(Keeps written, boolean leavesFiles, boolean keepsUnknown) {
    public static final MetadataChoice ALL = new MetadataChoice(Keeps.ALL, false, false);
    /// Files that need no change of their audio stay bit for bit.
    public static final MetadataChoice AS_THEY_ARE = new MetadataChoice(Keeps.ALL, true, false);
    public static final MetadataChoice WITH_UNKNOWN = new MetadataChoice(Keeps.ALL, false, true);
}
