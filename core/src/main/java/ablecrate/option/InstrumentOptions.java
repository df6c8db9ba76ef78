package ablecrate.option;

import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.format.names.NameReading;
import java.util.List;

/// What the user chose for instruments.
/// @param names what is said about names, for sets of which nothing is said by itself
/// @param gaps keys between the roots of sounds that have no ranges of their own
/// @param playing how they are to be played
/// @param fitting what is done where a device holds less
/// @param only names of the instruments of banks that are wanted; empty for all
public record InstrumentOptions(MapBy mapBy, NameReading names, KeyGaps gaps, KitLayout kit, Banks banks, Playing playing, Fitting fitting,
        List<String> only) {
    public static final InstrumentOptions DEFAULT = new InstrumentOptions(MapBy.AUTO, NameReading.FOUND, KeyGaps.HALF, KitLayout.DEFAULT, Banks.AS_SOURCE,
            Playing.USUAL,
            Fitting.DEFAULT, List.of());

    public InstrumentOptions {
        only = List.copyOf(only);
    }

    /// What a device holds of them. Where it loads one bank at a time and each of them is a bank, none has less for the sake of the others.
    public DeviceLimits limits(DestinationSheet sheet) {
        DeviceLimits limits = fitting.within(sheet);
        return banks == Banks.EACH && sheet.loadsBankByBank() ? limits.ofEach() : limits;
    }

    public InstrumentOptions withMapBy(MapBy m) { return new InstrumentOptions(m, names, gaps, kit, banks, playing, fitting, only); }

    public InstrumentOptions withNames(NameReading n) { return new InstrumentOptions(mapBy, n, gaps, kit, banks, playing, fitting, only); }

    public InstrumentOptions withGaps(KeyGaps g) { return new InstrumentOptions(mapBy, names, g, kit, banks, playing, fitting, only); }

    public InstrumentOptions withKit(KitLayout k) { return new InstrumentOptions(mapBy, names, gaps, k, banks, playing, fitting, only); }

    public InstrumentOptions withBanks(Banks b) { return new InstrumentOptions(mapBy, names, gaps, kit, b, playing, fitting, only); }

    public InstrumentOptions withPlaying(Playing p) { return new InstrumentOptions(mapBy, names, gaps, kit, banks, p, fitting, only); }

    public InstrumentOptions withOnly(List<String> o) { return new InstrumentOptions(mapBy, names, gaps, kit, banks, playing, fitting, o); }

    public InstrumentOptions withFitting(Fitting f) { return new InstrumentOptions(mapBy, names, gaps, kit, banks, playing, f, only); }
}
