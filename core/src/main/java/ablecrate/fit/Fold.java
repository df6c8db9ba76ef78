package ablecrate.fit;

import ablecrate.dsp.Decibels;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;

/// A stereo sample whose sides become one, (L+R)/2. In the middle it plays softer than both sides did, as a mono sound is shared out to both at equal power
/// (common practice); its zones make up for that.
/// @param softerDb by which it is softer, in the mean
/// @param headroomDb of the one side
record Fold(double softerDb, double headroomDb) {
    static Fold of(LoadedSound stereo) {
        double both = 0, middle = 0, peak = 0;
        for (int i = 0; i < stereo.frames(); i++) {
            double left = stereo.planes()[0][i], right = stereo.planes()[1][i], one = (left + right) / 2;
            both += left * left + right * right;
            middle += one * one;
            peak = Math.max(peak, Math.abs(one));
        }
        // Where the sides cancel nothing makes up for it.
        boolean isHeard = middle > 0.01 * both && both > 0;
        return new Fold(isHeard ? Math.max(0, 10 * Math.log10(both / middle)) : 0, peak == 0 ? 0 : Math.max(0, -Decibels.ofFactor(peak)));
    }

    /// A zone that plays the one side as loud as it played both.
    /// @param mostGainDb that a zone can say; its sound can be made louder as far as it has headroom
    Zone asLoud(Zone zone, double mostGainDb) {
        double gain = zone.get(Parameter.GAIN), more = Math.min(softerDb, mostGainDb + headroomDb - gain);
        return more < 0.05 ? zone : zone.with(Parameter.GAIN, Parameter.GAIN.nearest(Math.rint((gain + more) * 100) / 100));
    }
}
