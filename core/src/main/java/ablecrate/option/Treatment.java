package ablecrate.option;

import java.util.Optional;
import java.util.OptionalDouble;

/// What the user wants done to levels, ends and loops of sounds; of all of them, or of those that were chosen.
/// @param asOne which sounds are treated as one, so that the differences between them stay
/// @param edges where sounds start and end
/// @param loopCrossfadeMs 0 for none
/// @param finds what is looked for by listening
public record Treatment(Optional<LevelTarget> level, AsOne asOne, Limits limits, Fade fadeIn, Fade fadeOut, Edges edges,
        boolean removesOffset, double loopCrossfadeMs, Finds finds) {
    public static final Treatment NONE = new Treatment(Optional.empty(), AsOne.STEMS, Limits.NONE, Fade.NONE_IN, Fade.NONE_OUT, Edges.NONE, false, 0,
            Finds.NONE);
    /// What a ceiling is set to if nothing else is said: room for converters and for what a lossy format adds (common practice: −0.5 to −1 dBTP).
    public static final double USUAL_CEILING = -1;
    private static final double LONGEST_CROSSFADE_MS = 10_000;

    public Treatment {
        requireCrossfade(loopCrossfadeMs);
    }

    static void requireCrossfade(double ms) { Bounds.require(ms >= 0 && ms <= LONGEST_CROSSFADE_MS, "a crossfade lasts from 0 to 10000 ms, not", ms); }

    public Optional<Double> ceilingDbtp() { return limits.ceilingDbtp(); }

    public CeilingBy ceilingBy() { return limits.by(); }

    public Treatment withLevel(Optional<LevelTarget> l) {
        return new Treatment(l, asOne, limits, fadeIn, fadeOut, edges, removesOffset, loopCrossfadeMs, finds);
    }

    /// With a level; a loudness brings a ceiling where there is none, as louder sounds would clip without.
    public Treatment aimedAt(Optional<LevelTarget> l) {
        boolean isLoudness = l.filter(t -> t.measure().unit().equals("LUFS")).isPresent();
        return withLevel(l).withCeiling(ceilingDbtp().or(() -> isLoudness ? Optional.of(USUAL_CEILING) : Optional.empty()));
    }

    public Treatment withAsOne(AsOne a) { return new Treatment(level, a, limits, fadeIn, fadeOut, edges, removesOffset, loopCrossfadeMs, finds); }

    public Treatment withTogether(boolean t) { return withAsOne(asOne.withFolders(t)); }

    /// Whether the sounds of a folder, or of a group the user made, get one gain.
    public boolean together() { return asOne.folders(); }

    /// As it is for sounds that belong together: one gain, also where peaks would be lowered sound by sound.
    public Treatment ofStems() {
        return withTogether(true).withLimits(limits.withOvers(limits.overs() == Overs.LOWER ? Overs.LOWER_TOGETHER : limits.overs()));
    }

    public Treatment withLimits(Limits l) { return new Treatment(level, asOne, l, fadeIn, fadeOut, edges, removesOffset, loopCrossfadeMs, finds); }

    public Treatment withCeiling(Optional<Double> dbtp) { return withLimits(limits.withCeiling(dbtp)); }

    public Treatment withCeilingBy(CeilingBy by) { return withLimits(limits.withBy(by)); }

    public Treatment withFadeIn(Fade f) { return new Treatment(level, asOne, limits, f, fadeOut, edges, removesOffset, loopCrossfadeMs, finds); }

    public Treatment withFadeOut(Fade f) { return new Treatment(level, asOne, limits, fadeIn, f, edges, removesOffset, loopCrossfadeMs, finds); }

    public Treatment withEdges(Edges e) { return new Treatment(level, asOne, limits, fadeIn, fadeOut, e, removesOffset, loopCrossfadeMs, finds); }

    /// Below which the ends of a sound are silence and go; absent for no trimming.
    public Optional<Double> trimDbfs() { return edges.trimDbfs(); }

    public Treatment withTrim(Optional<Double> dbfs) { return withEdges(edges.withTrim(dbfs)); }

    public Treatment withOffsetRemoved(boolean r) { return new Treatment(level, asOne, limits, fadeIn, fadeOut, edges, r, loopCrossfadeMs, finds); }

    public Treatment withLoopCrossfade(double ms) { return new Treatment(level, asOne, limits, fadeIn, fadeOut, edges, removesOffset, ms, finds); }

    public Treatment withFinds(Finds f) { return new Treatment(level, asOne, limits, fadeIn, fadeOut, edges, removesOffset, loopCrossfadeMs, f); }

    public boolean setsLevels() { return level.isPresent() || ceilingDbtp().isPresent(); }

    public OptionalDouble silenceDbfs() { return trimDbfs().isPresent() ? OptionalDouble.of(trimDbfs().get()) : OptionalDouble.empty(); }
}
