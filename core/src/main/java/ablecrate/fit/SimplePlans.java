package ablecrate.fit;

import ablecrate.instrument.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/// What people do by hand where nothing better is there; a fit is held against it.
final class SimplePlans {
    private SimplePlans() {}

    /// So many of a row, at even distances, each up to half way to the next.
    static KeyRuns.Choice evenly(Row row, int count) {
        int n = row.stacks().size();
        List<Integer> stay = IntStream.range(0, count).map(i -> count == 1 ? n / 2 : (int) Math.round((double) i * (n - 1) / (count - 1))).boxed().toList();
        return kept(row, stay);
    }

    /// The first of a row and each nth from there on, likewise.
    static KeyRuns.Choice everyNth(Row row, int n) { return kept(row, IntStream.range(0, row.stacks().size()).filter(i -> i % n == 0).boxed().toList()); }

    private static KeyRuns.Choice kept(Row row, List<Integer> stay) {
        List<KeyRuns.Kept> kept = new ArrayList<>();
        for (int i = 0; i < stay.size(); i++) {
            int low = i == 0 ? 0 : kept.getLast().keys().high() + 1, high = i + 1 == stay.size()
                    ? 127
                    : (row.stacks().get(stay.get(i)).keys().high() + row.stacks().get(stay.get(i + 1)).keys().low()) / 2;
            kept.add(new KeyRuns.Kept(stay.get(i), 0, new Span(low, high)));
        }
        return new KeyRuns.Choice(kept, 0, 0);
    }

    /// The first layers, the last of them over all velocities above.
    static List<List<Stack>> firstLayers(List<List<Stack>> layers, int most) {
        return layers.stream().map(layer -> LayerChoice.columns(layer).stream()
                .flatMap(column -> some(column, IntStream.range(0, Math.min(most, column.size())).boxed().toList()).stream()).toList()).toList();
    }

    /// Layers at even distances.
    static List<List<Stack>> evenLayers(List<List<Stack>> layers, int most) {
        return layers.stream().map(layer -> LayerChoice.columns(layer).stream().flatMap(column -> {
            int n = column.size();
            return (n <= most
                    ? column
                    : some(column, IntStream.range(0, most).map(i -> most == 1 ? n / 2 : (int) Math.round((double) i * (n - 1) / (most - 1))).boxed().toList()))
                    .stream();
        }).toList()).toList();
    }

    private static List<Stack> some(List<Stack> column, List<Integer> stay) {
        List<Stack> out = new ArrayList<>();
        int low = column.getFirst().velocities().low(), last = column.getLast().velocities().high();
        for (int i = 0; i < stay.size(); i++) {
            Stack stack = column.get(stay.get(i));
            int high = i + 1 == stay.size() ? last : (stack.velocities().high() + column.get(stay.get(i + 1)).velocities().low()) / 2;
            out.add(stack.at(stack.keys(), new Span(low, high)));
            low = high + 1;
        }
        return out;
    }
}
