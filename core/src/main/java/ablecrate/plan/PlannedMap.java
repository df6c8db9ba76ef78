package ablecrate.plan;

import ablecrate.fit.FitClaim;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// One file of instruments that packing would write.
/// @param path below the chosen folder, `/` between folders
/// @param formatId of the instrument format
/// @param about of the file as a whole
/// @param instruments zones refer to the item's outputs by their place
/// @param fitted what was said of instruments that were made to fit, by their place
/// @param verbatim the file that is copied bit for bit; empty where it is written anew
public record PlannedMap(String path, String formatId, About about, List<Instrument> instruments, Map<Integer, FitClaim> fitted,
        Optional<Path> verbatim) {
    public PlannedMap {
        instruments = List.copyOf(instruments);
        fitted = Map.copyOf(fitted);
    }

    /// One of which nothing had to be made to fit.
    public PlannedMap(String path, String formatId, About about, List<Instrument> instruments, Optional<Path> verbatim) {
        this(path, formatId, about, instruments, Map.of(), verbatim);
    }

    public PlannedMap at(String otherPath) { return new PlannedMap(otherPath, formatId, about, instruments, fitted, verbatim); }

    public InstrumentFormat format() { return InstrumentFormats.byId(formatId).orElseThrow(); }

    /// Whether the sounds are inside of it.
    public boolean holdsSounds() { return format() instanceof BankFormat; }
}
