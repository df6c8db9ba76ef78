package ablecrate.fit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// Which stacks of all rows stay where there may be only so many samples, or zones: those that are missed least.
///
/// Stacks share samples, as filters over one recording do: what plays samples that stay takes no room, and stays with them. So samples are chosen, and stacks follow. The sample that is missed
/// least goes, again and again, or the one that helps most comes; then one goes and others come in its place as long as that helps.
/// Source: M. B. Teitz, P. Bart, *Heuristic methods for estimating the generalized vertex median of a weighted graph*, Operations Research 16, 1968; keys are what is served there, samples serve them.
final class StackChoice {
    /// Exchanges one after the other, as they are foretold and as they are heard.
    private static final int FORETOLD = 200, HEARD = 8;
    /// Of so many, two are exchanged at once.
    private static final int FEW = 16;
    /// Harm of a note that nothing sounds of any more.
    private static final double SILENT = 1e15;
    /// Less is not worth an exchange.
    private static final double LEAST_GAIN = 1e-9;

    /// What is counted, and how much of it there may be.
    /// @param takes what a stack needs of it
    record Limit(Function<Stack, Collection<?>> takes, int most) {}

    /// A stack that may stay.
    /// @param takes numbers of what it needs
    private record Member(int row, int stack, int[] takes) {}

    private final List<Row.Runs> rows;
    private final boolean maySilence;
    private final BooleanSupplier stopped;

    /// By row: which others are heard wherever it is, so that no note is silent without it.
    private final List<List<Integer>> covering;
    private final int most;
    /// By row, and all of them.
    private final List<List<Member>> byRow = new ArrayList<>();
    private final List<Member> members = new ArrayList<>();
    /// By what is taken: who takes it, the rows that they are in, and whether it has to stay.
    private final List<List<Member>> takers = new ArrayList<>();
    private final List<Set<Integer>> rowsOf = new ArrayList<>();
    /// By place among all members: rows that change when it comes.
    private final List<Set<Integer>> touched;
    private final BitSet stays = new BitSet();

    /// @param among of which stacks
    /// @param stays whether nothing of a row may go
        /// @param maySilence whether what sounds together with others may go altogether; release samples may anyway
    /// @param stopped whether nobody wants to know any more: then [Stopped] is thrown
    StackChoice(List<Row.Runs> rows, Predicate<Stack> among, Limit limit, Predicate<Row> stays, boolean maySilence, BooleanSupplier stopped) {

        this.rows = rows;
        this.maySilence = maySilence;
        this.stopped = stopped;
        covering = rows.stream().map(r -> IntStream.range(0, rows.size()).filter(o -> r.row().isCoveredBy(rows.get(o).row())).boxed().toList()).toList();
        most = limit.most;
        Map<Object, Integer> numbers = new HashMap<>();
        for (int r = 0; r < rows.size(); r++) {
            byRow.add(new ArrayList<>());
            List<Stack> stacks = rows.get(r).row().stacks();
            for (int i = 0; i < stacks.size(); i++)
                if (among.test(stacks.get(i)))
                    byRow.get(r).add(
                            new Member(r, i,
                                    limit.takes.apply(stacks.get(i)).stream().mapToInt(t -> numbers.computeIfAbsent(t, _ -> numbers.size())).toArray()));
            members.addAll(byRow.get(r));
        }
        numbers.forEach((_, _) -> takers.add(new ArrayList<>()));
        for (Member member : members)
            for (int t : member.takes)
                takers.get(t).add(member);
        takers.forEach(all -> rowsOf.add(all.stream().map(Member::row).collect(Collectors.toSet())));
        touched = members.stream().map(m -> Arrays.stream(m.takes).mapToObj(rowsOf::get).flatMap(Set::stream).collect(Collectors.toSet())).toList();
        for (int t = 0; t < takers.size(); t++)
            this.stays.set(t, takers.get(t).stream().anyMatch(m -> stays.test(rows.get(m.row).row())));
    }

    /// What is kept at one time.
    private final class Kept {
        private final BitSet has, silent;
        private final double[] harms;

        /// @param all everything, or only what has to stay
        Kept(boolean all) {
            has = (BitSet) stays.clone();
            if (all) has.set(0, takers.size());
            silent = new BitSet();
            harms = new double[rows.size()];
            renew(IntStream.range(0, harms.length).boxed().collect(Collectors.toSet()));
        }

        private Kept(Kept other) {
            has = (BitSet) other.has.clone();
            silent = (BitSet) other.silent.clone();
            harms = other.harms.clone();
        }

        int count() { return has.cardinality(); }

        double harm() {
            double sum = 0;
            for (double each : harms)
                sum += each;
            return sum;
        }

        boolean isThere(Member member) {
            for (int t : member.takes)
                if (!has.get(t)) return false;
            return true;
        }

        private int[] stacks(int row) {
            List<Member> all = byRow.get(row);
            int[] out = new int[all.size()];
            int count = 0;
            for (Member member : all)
                if (isThere(member)) out[count++] = member.stack;
            return Arrays.copyOf(out, count);
        }

        /// Of a row, where others are silent that are said to be.
        private double harmOf(int row) {
            int[] stacks = stacks(row);
            silent.set(row, stacks.length == 0);
            if (stacks.length > 0) return rows.get(row).runs().harmOf(stacks);
            boolean mayGo = rows.get(row).row().isReleased() || maySilence && covering.get(row).stream().anyMatch(o -> !silent.get(o));
            return mayGo ? rows.get(row).silenced() : SILENT;
        }

        /// Those of some rows anew, and of all that may be silent only while others are not.
        private void renew(Set<Integer> changed) {
            Stopped.check(stopped);
            for (int row : changed)
                harms[row] = harmOf(row);
            for (int row = silent.nextSetBit(0); row >= 0; row = silent.nextSetBit(row + 1))
                harms[row] = harmOf(row);
        }

        /// Without something, and whatever nobody takes any more.
        Kept without(int gone) {
            Kept out = new Kept(this);
            out.has.clear(gone);
            for (Member member : takers.get(gone))
                for (int t : member.takes)
                    if (out.has.get(t) && takers.get(t).stream().noneMatch(out::isThere)) out.has.clear(t);
            out.renew(rowsOf.get(gone));
            return out;
        }

        /// With what a stack needs, and all others that this is enough for.
        Kept with(Member member) {
            Kept out = new Kept(this);
            Set<Integer> changed = new HashSet<>();
            for (int t : member.takes)
                if (!out.has.get(t)) {
                    out.has.set(t);
                    changed.addAll(rowsOf.get(t));
                }
            out.renew(changed);
            return out;
        }

        List<KeyRuns.Choice> choices() { return IntStream.range(0, rows.size()).mapToObj(r -> rows.get(r).runs().of(stacks(r))).toList(); }

        /// Those that are foretold to be the best of all from which one goes and to which others come; where there are few, of all from which two go.
        private Collection<Kept> neighbours(int some) {
            Map<BitSet, Kept> known = new HashMap<>(Map.of(has, this));
            PriorityQueue<Kept> best = new PriorityQueue<>(Comparator.comparingDouble(Kept::harm).reversed());
            exchange(known, best, some);
            if (takers.size() <= FEW) List.copyOf(known.values()).forEach(other -> other.exchange(known, best, some));
            return best;
        }

        private void exchange(Map<BitSet, Kept> known, PriorityQueue<Kept> best, int some) {
            double[] gains = gains();
            for (int t = has.nextSetBit(0); t >= 0; t = has.nextSetBit(t + 1)) {
                if (stays.get(t)) continue;
                Kept fewer = without(t);
                for (int m = 0; m < gains.length; m++) {
                    Member member = members.get(m);
                    int missing = fewer.missing(member);
                    if (missing == 0 || missing > most - fewer.count()) continue;
                    // What comes to other rows than something goes from helps as much as before.
                    boolean isApart = missing(member) == missing && Collections.disjoint(rowsOf.get(t), touched.get(m));
                    if (isApart && takers.size() > FEW && best.size() == some && fewer.harm() - gains[m] >= best.element().harm()) continue;
                    Kept other = fewer.with(member).filled();
                    if (known.containsKey(other.has)) continue;
                    if (takers.size() <= FEW) known.put(other.has, other);
                    best.add(other);
                    if (best.size() > some) best.remove();
                }
            }
        }

        /// By how much less is missed with each stack that is not there.
        private double[] gains() { return members.stream().mapToDouble(m -> missing(m) == 0 ? 0 : harm() - with(m).harm()).toArray(); }

        /// What it costs that something goes, for each that goes with it.
        private double loss(int gone) {
            Kept fewer = without(gone);
            return (fewer.harm() - harm()) / (count() - fewer.count());
        }

        private int missing(Member member) {
            int missing = 0;
            for (int t : member.takes)
                if (!has.get(t)) missing++;
            return missing;
        }

        /// With what helps most for each that it takes, as long as there is room.
        Kept filled() {
            Kept now = this;
            for (;;) {
                int room = most - now.count();
                Kept best = now;
                double gain = LEAST_GAIN;
                for (Member member : room > 0 ? members : List.<Member>of()) {
                    int missing = now.missing(member);
                    if (missing == 0 || missing > room) continue;
                    Kept more = now.with(member);
                    if ((now.harm() - more.harm()) / missing > gain) {
                        gain = (now.harm() - more.harm()) / missing;
                        best = more;
                    }
                }
                if (best == now) return now;
                now = best;
            }
        }
    }

    /// What stays of each row, nothing of one that is silenced; empty where even the least is too much.
    /// @param rendered harm of such a choice as it is heard; what was foretold best is exchanged as long as that helps
    /// @param exchanges how many are rendered before the next is made, or none is
    Optional<List<KeyRuns.Choice>> chosen(ToDoubleFunction<List<KeyRuns.Choice>> rendered, int exchanges) {
        Kept fewer = new Kept(true);
        // What it costs that one goes, for each that goes with it; the same until something of its rows goes.
        double[] losses = new double[takers.size()];
        Arrays.fill(losses, Double.NaN);
        while (fewer.count() > most) {
            Kept now = fewer;
            int least = now.has.stream().filter(t -> !stays.get(t)).boxed().min(Comparator.comparingDouble(t -> {
                if (Double.isNaN(losses[t])) losses[t] = now.loss(t);
                return losses[t];
            })).orElse(-1);
            if (least < 0) return Optional.empty();
            fewer = now.without(least);
            for (int t = 0; t < losses.length; t++)
                if (!fewer.silent.equals(now.silent) || !Collections.disjoint(rowsOf.get(t), rowsOf.get(least))) losses[t] = Double.NaN;
        }
        if (fewer.harm() >= SILENT) return Optional.empty();
        Kept down = fewer.filled(), up = new Kept(false).filled(), foretold = better(down.harm() < up.harm() ? down : up, Kept::harm, 1, FORETOLD);
        return Optional.of((exchanges == 0 ? foretold : better(foretold, kept -> rendered.applyAsDouble(kept.choices()), exchanges, HEARD)).choices());
    }

    /// The best of some neighbours, of their best and so on, as long as that is better.
    private Kept better(Kept start, ToDoubleFunction<Kept> harm, int some, int passes) {
        Kept now = start;
        double least = harm.applyAsDouble(start);
        for (int pass = 0; pass < passes; pass++) {
            Kept before = now;
            for (Kept other : before.neighbours(some)) {
                double others = harm.applyAsDouble(other);
                if (others >= least - LEAST_GAIN) continue;
                least = others;
                now = other;
            }
            if (now == before) break;
        }
        return now;
    }
}
