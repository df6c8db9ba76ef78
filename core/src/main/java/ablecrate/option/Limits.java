package ablecrate.option;

import java.util.Optional;

/// How high peaks may go, and what is done about those that would.
/// @param ceilingDbtp true peak that no sound may go beyond; absent for none
/// @param mostLimitingDb how far a limiter may lower peaks so that a sound becomes as loud as asked
/// @param overs what is done about samples beyond full scale where there is no ceiling
public record Limits(Optional<Double> ceilingDbtp, CeilingBy by, double mostLimitingDb, Overs overs) {
    public static final double USUAL_LIMITING_DB = 6;
    private static final double LOWEST = -100, MOST = 40;
    public static final Limits NONE = new Limits(Optional.empty(), CeilingBy.LIMITER, USUAL_LIMITING_DB, Overs.LIMIT);

    public Limits {
        ceilingDbtp.ifPresent(c -> Bounds.require(c >= LOWEST && c <= 0, "a ceiling lies between -100 and 0 dBTP, not at", c));
        Bounds.require(mostLimitingDb >= 0 && mostLimitingDb <= MOST, "limiting is an amount from 0 to 40 dB, not", mostLimitingDb);
    }

    public Limits withCeiling(Optional<Double> dbtp) { return new Limits(dbtp, by, mostLimitingDb, overs); }

    public Limits withBy(CeilingBy other) { return new Limits(ceilingDbtp, other, mostLimitingDb, overs); }

    public Limits withMostLimiting(double db) { return new Limits(ceilingDbtp, by, db, overs); }

    public Limits withOvers(Overs other) { return new Limits(ceilingDbtp, by, mostLimitingDb, other); }
}
