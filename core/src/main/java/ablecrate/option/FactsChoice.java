package ablecrate.option;

import ablecrate.destination.DestinationSheet.Keeps;

/// Which facts the user wants written into sound files.
/// @param written kinds of facts; what is not among them is left out
/// @param leavesFiles whether files beside a map keep the facts that they have, instead of getting those of the instrument
/// @param keepsUnknown whether chunks that nothing is known of stay in files whose audio changes, though they may hold positions that are wrong then
public record FactsChoice(Keeps written, boolean leavesFiles, boolean keepsUnknown) {
    public static final FactsChoice ALL = new FactsChoice(Keeps.ALL, false, false);
    /// Files that need no change of their audio stay bit for bit.
    public static final FactsChoice AS_THEY_ARE = new FactsChoice(Keeps.ALL, true, false);
    public static final FactsChoice WITH_UNKNOWN = new FactsChoice(Keeps.ALL, false, true);
}
