package ablecrate.plan;

import java.util.List;

/// What the user chose for instruments.
/// @param gaps keys between the roots of sounds that have no ranges of their own
/// @param startKey the first key of a kit
/// @param oneBank whether all instruments go into one bank
/// @param playingDefaults whether zones without a release get one that suits the instrument's kind
/// @param only names of the instruments of banks that are wanted; empty for all
public record InstrumentOptions(MapBy mapBy, KeyGaps gaps, int startKey, boolean oneBank, boolean playingDefaults, List<String> only) {
    public static final InstrumentOptions DEFAULT = new InstrumentOptions(MapBy.AUTO, KeyGaps.HALF, 36, false, true, List.of());

    public InstrumentOptions {
        only = List.copyOf(only);
        if (startKey < 0 || startKey > 127) throw new IllegalArgumentException("start key " + startKey);
    }

    public InstrumentOptions withMapBy(MapBy m) { return new InstrumentOptions(m, gaps, startKey, oneBank, playingDefaults, only); }

    public InstrumentOptions withStartKey(int k) { return new InstrumentOptions(mapBy, gaps, k, oneBank, playingDefaults, only); }

    public InstrumentOptions withOneBank(boolean o) { return new InstrumentOptions(mapBy, gaps, startKey, o, playingDefaults, only); }

    public InstrumentOptions withPlayingDefaults(boolean p) { return new InstrumentOptions(mapBy, gaps, startKey, oneBank, p, only); }

    public InstrumentOptions withOnly(List<String> o) { return new InstrumentOptions(mapBy, gaps, startKey, oneBank, playingDefaults, o); }

    public InstrumentOptions withGaps(KeyGaps g) { return new InstrumentOptions(mapBy, g, startKey, oneBank, playingDefaults, only); }
}
