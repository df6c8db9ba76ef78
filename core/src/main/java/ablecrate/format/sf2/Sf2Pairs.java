package ablecrate.format.sf2;

import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Pattern;

/// Left and right samples of an instrument, which play alike, joined to stereo zones.
final class Sf2Pairs {
    /// Where tunings of two sides differ by less, nobody minds.
    private static final int SAME_CENTS = 1;
    private static final Set<Parameter<?>> MAY_DIFFER = Set.of(Parameter.PAN, Parameter.LOOPS, Parameter.TUNING, Parameter.END);
    private static final Pattern SIDE = Pattern.compile("[ _(-]*(left|right|l|r)\\)?$");

    /// A zone and the header of its sample, before stereo pairs are joined.
    record Side(Zone zone, int header) {}

    private final List<Sf2Tables.Header> headers;
    private final List<Side> sides;
    private final Sf2Samples samples;
    private final Set<String> told;

    /// @param told what was mended goes here, once
    Sf2Pairs(List<Sf2Tables.Header> headers, List<Side> sides, Sf2Samples samples, Set<String> told) {
        this.headers = headers;
        this.sides = sides;
        this.samples = samples;
        this.told = told;
    }

    /// Left and right of a pair become one zone with a stereo sound, where both sides play alike.
    List<Zone> zones() {
        List<Zone> out = new ArrayList<>();
        boolean[] done = new boolean[sides.size()];
        for (int i = 0; i < sides.size(); i++) {
            if (done[i]) continue;
            Side side = sides.get(i);
            int type = headers.get(side.header()).type() & 0x7FFF;
            OptionalInt other = type == Sf2Tables.LEFT || type == Sf2Tables.RIGHT ? partner(done, i) : OptionalInt.empty();
            if (other.isPresent()) {
                done[other.getAsInt()] = true;
                Side left = type == Sf2Tables.LEFT ? side : sides.get(other.getAsInt()), right = type == Sf2Tables.LEFT ? sides.get(other.getAsInt()) : side;
                out.add(stereo(left, right));
            } else
                out.add(side.zone().withSample(samples.number(List.of(side.header()), List.of())));
        }
        return out;
    }

    private OptionalInt partner(boolean[] done, int i) {
        Side side = sides.get(i);
        Sf2Tables.Header mine = headers.get(side.header());
        int wanted = (mine.type() & 0x7FFF) == Sf2Tables.LEFT ? Sf2Tables.RIGHT : Sf2Tables.LEFT;
        OptionalInt byName = OptionalInt.empty();
        for (int j = i + 1; j < sides.size(); j++) {
            Sf2Tables.Header theirs = headers.get(sides.get(j).header());
            if (done[j] || (theirs.type() & 0x7FFF) != wanted || theirs.rateHz() != mine.rateHz()
                    || !areApart(side, sides.get(j), wanted == Sf2Tables.RIGHT) || !playsAlike(side.zone(), sides.get(j).zone()))
                continue;
            boolean mineLinks = mine.link() == sides.get(j).header(), theirsLinks = theirs.link() == side.header();
            if (mineLinks && theirsLinks) return OptionalInt.of(j);
            if (mineLinks || theirsLinks || baseName(mine).equals(baseName(theirs))) byName = byName.isPresent() ? byName : OptionalInt.of(j);
        }
        if (byName.isPresent())
            told.add("'" + mine.name() + "' and '" + headers.get(sides.get(byName.getAsInt()).header()).name()
                    + "' do not name each other as left and right; joined all the same");
        return byName;
    }

    /// Whether the pans are those of a stereo sound, of which one side may be moved towards the other. Others are two sounds, each at its own place.
    private static boolean areApart(Side side, Side other, boolean isLeft) {
        double left = (isLeft ? side : other).zone().get(Parameter.PAN), right = (isLeft ? other : side).zone().get(Parameter.PAN);
        return left <= -100 || right >= 100;
    }

    private static boolean playsAlike(Zone a, Zone b) {
        return Parameter.ALL.stream().allMatch(p -> MAY_DIFFER.contains(p) || a.get(p).equals(b.get(p)))
                && a.get(Parameter.LOOPS).isEmpty() == b.get(Parameter.LOOPS).isEmpty()
                && Math.abs(a.get(Parameter.TUNING) - b.get(Parameter.TUNING)) < SAME_CENTS;
    }

    private static String baseName(Sf2Tables.Header header) { return SIDE.matcher(header.name().toLowerCase(Locale.ROOT)).replaceFirst(""); }

    private Zone stereo(Side left, Side right) {
        Sf2Tables.Header l = headers.get(left.header()), r = headers.get(right.header());
        String pair = "'" + l.name() + "' and '" + r.name() + "'";
        List<Loop> a = left.zone().get(Parameter.LOOPS), b = right.zone().get(Parameter.LOOPS);
        if (!a.equals(b))
            told.add(String.format(Locale.ROOT, "left and right loop of %s differ: %,d…%,d and %,d…%,d; one is used for both", pair,
                    a.getFirst().frames().start(), a.getFirst().frames().end(), b.getFirst().frames().start(), b.getFirst().frames().end()));
        long lengths = (l.end() - l.start()) - (r.end() - r.start());
        if (lengths != 0)
            told.add(String.format(Locale.ROOT, "left and right of %s differ by %,d frames; the shorter side ends in silence", pair, Math.abs(lengths)));
        // Hard left and right are the stereo sound as it is; what they have moved together is its pan.
        double pan = Math.clamp((left.zone().get(Parameter.PAN) + right.zone().get(Parameter.PAN)) / 2, -100, 100);
        Zone zone = left.zone().without(Parameter.PAN);
        return (pan == 0 ? zone : zone.with(Parameter.PAN, pan))
                .withSample(samples.number(List.of(left.header(), right.header()), a.equals(b) ? List.of() : b));
    }
}
