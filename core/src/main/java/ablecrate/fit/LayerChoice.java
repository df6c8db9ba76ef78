package ablecrate.fit;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/// Which velocity layers stay: those that sound most like the ones they stand in for, over the velocities that people play.
///
/// Loudness over velocity stays the original's as nearly as a gain and one curve can follow it. Exact, as all runs of layers are looked at.
final class LayerChoice {
    /// `[velocity]` dB by which a note is louder than the loudest velocity's, for each per cent by which level follows velocity: its square, so 40 log10(v/127).
    private static final double[] RISE_DB = IntStream.range(0, 128).mapToDouble(v -> 0.4 * Math.log10(v / 127.0)).toArray();

    private final Notes notes;
    private final FitTask.Format format;
    private final FitRules rules;
    /// Of each layer of stacks, columns that have the same velocities: they are decided together, so that a layer stays one from key to key.
    private final List<List<List<Column>>> alike;

    /// @param layers of stacks
    /// @param format what it can say of levels
    /// @param rules which layers have to stay
    LayerChoice(Notes notes, List<List<Stack>> layers, FitTask.Format format, FitRules rules) {
        this.notes = notes;
        this.format = format;
        this.rules = rules;
        alike = layers.stream().map(this::alike).toList();
    }

    private List<List<Column>> alike(List<Stack> layer) {
        Map<List<Span>, List<Column>> alike = new LinkedHashMap<>();
        columns(layer).forEach(c -> alike.computeIfAbsent(c.stream().map(Stack::velocities).toList(), _ -> new ArrayList<>()).add(new Column(c)));
        return List.copyOf(alike.values());
    }

    /// The layers of stacks with no more than so many velocity layers on a key.
    List<List<Stack>> of(int most) {
        return alike.stream().map(layer -> layer.stream().flatMap(columns -> of(columns, most).stream()).toList()).toList();
    }

    private List<Stack> of(List<Column> columns, int most) {
        int has = columns.getFirst().stacks.size();
        if (has <= most) return columns.stream().flatMap(c -> c.stacks.stream()).toList();
        columns.parallelStream().forEach(Column::hear);
        List<Run> runs = best(columns, has, most);
        return columns.stream().flatMap(c -> runs.stream().map(c::standIn)).toList();
    }

    /// The stacks of each stretch of keys, from soft to loud.
    static List<List<Stack>> columns(List<Stack> layer) {
        Map<Span, List<Stack>> columns = new LinkedHashMap<>();
        layer.forEach(s -> columns.computeIfAbsent(s.keys(), _ -> new ArrayList<>()).add(s));
        columns.values().forEach(c -> c.sort(Comparator.comparingInt(s -> s.velocities().low())));
        return List.copyOf(columns.values());
    }

    /// Layers `from` to `to`, for which one of them stands in.
    private record Run(int from, int to, int layer) {}

    /// @param n layers of each column
    /// @param most that may stay
    private static List<Run> best(List<Column> columns, int n, int most) {
        double[][][] cost = new double[n][n][n];
        for (Column column : columns)
            column.addCosts(cost);

        double[][] best = new double[most + 1][n + 1];
        Run[][] last = new Run[most + 1][n + 1];
        for (double[] row : best)
            Arrays.fill(row, Double.MAX_VALUE);
        best[0][0] = 0;
        for (int count = 1; count <= most; count++)
            for (int to = 1; to <= n; to++)
                for (int from = 1; from <= to; from++) {
                    if (best[count - 1][from - 1] == Double.MAX_VALUE) continue;
                    for (int layer = from; layer <= to; layer++) {
                        double whole = best[count - 1][from - 1] + cost[from - 1][to - 1][layer - 1];
                        if (whole >= best[count][to]) continue;
                        best[count][to] = whole;
                        last[count][to] = new Run(from - 1, to - 1, layer - 1);
                    }
                }
        List<Run> out = new ArrayList<>();
        for (int count = most, to = n; count > 0 && to > 0; count--) {
            out.addFirst(last[count][to]);
            to = last[count][to].from;
        }
        return out;
    }

    /// One stretch of keys.
    private final class Column {
        private final List<Stack> stacks;
        /// `[layer]` of level by velocity, in per cent; and the level at the loudest velocity, in dB.
        private final double[] tracking;
        private double[] loudestDb;
        /// `[b][layer]`: how different it sounds that the layer stands in for b.
        private double[][] colours;

        Column(List<Stack> stacks) {
            this.stacks = stacks;
            tracking = stacks.stream().mapToDouble(s -> format.hasCurve() ? s.tracking() : Parameter.VELOCITY_TRACKING.usual()).toArray();
        }

        void hear() {
            if (colours != null) return;
            HeardNote[] heard = stacks.stream().map(s -> notes.held(s.alone(), s.root(), s.middleVelocity())).toArray(HeardNote[]::new);
            loudestDb = IntStream.range(0, heard.length).mapToDouble(i -> heard[i].levelDb() - tracking[i] * RISE_DB[stacks.get(i).middleVelocity()]).toArray();
            colours = new double[heard.length][heard.length];
            for (int b = 0; b < heard.length; b++)
                for (int layer = 0; layer < heard.length; layer++)
                    if (b != layer) colours[b][layer] = rules.keepsLayer(stacks.get(b).velocities()) ? KeyRuns.NEVER : heard[b].alignedHarm(heard[layer]);
        }

        void addCosts(double[][][] cost) {
            for (int from = 0; from < stacks.size(); from++)
                for (int to = from; to < stacks.size(); to++)
                    for (int layer = from; layer <= to; layer++) {
                        Curve curve = curve(from, to, layer);
                        for (int b = from; b <= to; b++)
                            cost[from][to][layer] += Math.hypot(colours[b][layer], curve.error(b)) * Weights.of(stacks.get(b).velocities());
                    }
        }

        /// Level of a layer at a velocity, in dB.
        private double levelDb(int layer, int velocity) { return loudestDb[layer] + tracking[layer] * RISE_DB[velocity]; }

        private Curve curve(int from, int to, int layer) {
            double rest = loudestDb[layer], w = 0, x = 0, y = 0, xx = 0, xy = 0;
            for (int b = from; b <= to; b++)
                for (int v = stacks.get(b).velocities().low(); v <= stacks.get(b).velocities().high(); v++) {
                    double weight = Weights.of(v), at = RISE_DB[v], level = levelDb(b, v) - rest;
                    w += weight;
                    x += weight * at;
                    y += weight * level;
                    xx += weight * at * at;
                    xy += weight * at * level;
                }
            double spread = w * xx - x * x,
                    slope = !format.hasCurve() || from == to || spread < 1e-9 ? tracking[layer] : Math.clamp((w * xy - x * y) / spread, 0, 100);
            return new Curve(this, layer, from == to ? 0 : Math.min((y - slope * x) / w, notes.roomDb(stacks.get(layer), format.mostGainDb())), slope, rest);
        }

        /// The layer over the velocities of all of the run.
        Stack standIn(Run run) {
            Stack stack = stacks.get(run.layer);
            if (run.from == run.to) return stack;
            Curve curve = curve(run.from, run.to, run.layer);
            Stack wide = stack.at(stack.keys(), new Span(stacks.get(run.from).velocities().low(), stacks.get(run.to).velocities().high()));
            return (format.hasCurve() ? wide.tracking(curve.percent) : wide).louder(curve.gainDb);
        }
    }

    /// How the level of a layer follows velocity once it stands in for others.
    /// @param rest level at the loudest velocity, without gain
    private record Curve(Column column, int layer, double gainDb, double percent, double rest) {
        /// By how many dB it misses the level of layer b, on the mean.
        double error(int b) {
            Span velocities = column.stacks.get(b).velocities();
            double sum = 0;
            for (int v = velocities.low(); v <= velocities.high(); v++)
                sum += Math.abs(rest + gainDb + percent * RISE_DB[v] - column.levelDb(b, v)) * Weights.of(v);
            return sum / Weights.of(velocities);
        }
    }
}
