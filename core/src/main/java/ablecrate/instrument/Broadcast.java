package ablecrate.instrument;

import java.util.Optional;

/// What a broadcast wave says of itself.
///
/// Source: EBU Tech 3285, *Specification of the Broadcast Wave Format*, version 2 (2011).
/// @param timeReferenceFrames frames since midnight, at the rate of the file
/// @param umidHex the 64 bytes of the unique material identifier; empty if all are zero
/// @param loudness only in version 2 and when stated
public record Broadcast(String description, String originator, String originatorReference, String originationDate,
        String originationTime, long timeReferenceFrames, int version, String umidHex, Optional<StatedLoudness> loudness,
        String codingHistory) {

    /// Loudness as the file states it; not measured by us.
    public record StatedLoudness(double integratedLufs, double rangeLu, double maxTruePeakDbtp, double maxMomentaryLufs,
            double maxShortTermLufs) {}

    /// One that says nothing but when it starts.
    public static Broadcast starting(long frames) { return new Broadcast("", "", "", "", "", frames, 1, "", Optional.empty(), ""); }

    public Broadcast withTimeReference(long frames) {
        return new Broadcast(description, originator, originatorReference, originationDate, originationTime, frames, version,
                umidHex, loudness, codingHistory);
    }

    public Broadcast withLoudness(Optional<StatedLoudness> other) {
        return new Broadcast(description, originator, originatorReference, originationDate, originationTime, timeReferenceFrames, version, umidHex, other,
                codingHistory);
    }
}
