package ablecrate.pack;

import java.util.Optional;

/// How far a run is.
/// @param current an item that is being worked on
/// @param secondsLeft absent until enough was done to tell
public record PackProgress(int itemsDone, int itemsTotal, double fraction, String current, Optional<Double> secondsLeft) {}
