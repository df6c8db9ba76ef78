package ablecrate.fit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;

/// Spends what one price for all leaves of a memory: the next larger choice for a row at a time, of those that have room the one that takes most harm away for its bytes.
final class SpareMemory {
    private static final int MOST_STEPS = 400;
    /// By which a price falls until a row is chosen larger, and how often.
    private static final double FALL = 0.7;
    private static final int MOST_FALLS = 60;

    private final List<MemoryFitter> fitters;
    private final double[][] prices;
    private final List<MemoryFitter.Made> made;

    /// @param harm that goes
    private record Step(int fitter, int row, double price, double harm, double bytes) {
        double worth() { return harm / bytes; }
    }

    /// @param price of each fitter
    SpareMemory(List<MemoryFitter> fitters, double[] price) {
        this.fitters = fitters;
        prices = new double[fitters.size()][];
        made = new ArrayList<>();
        for (int i = 0; i < prices.length; i++) {
            prices[i] = new double[fitters.get(i).rows()];
            Arrays.fill(prices[i], price[i]);
            made.add(fitters.get(i).at(prices[i]));
        }
    }

    /// @param hasRoom whether all of them together, each within its own limits, have room
    List<MemoryFitter.Made> spent(Predicate<List<MemoryFitter.Made>> hasRoom, BooleanSupplier stopped) {
        PriorityQueue<Step> steps = new PriorityQueue<>(Comparator.comparingDouble(Step::worth).reversed());
        for (int i = 0; i < fitters.size(); i++)
            for (int row = 0; row < prices[i].length; row++)
                next(i, row).ifPresent(steps::add);
        for (int tries = 0; tries < MOST_STEPS && !steps.isEmpty() && !stopped.getAsBoolean(); tries++) {
            Step step = steps.remove();
            double before = prices[step.fitter][step.row];
            MemoryFitter.Made without = made.get(step.fitter);
            prices[step.fitter][step.row] = step.price;
            made.set(step.fitter, fitters.get(step.fitter).at(prices[step.fitter]));
            if (hasRoom.test(made)) {
                next(step.fitter, step.row).ifPresent(steps::add);
                continue;
            }
            // What has no room now will have none later.
            prices[step.fitter][step.row] = before;
            made.set(step.fitter, without);
        }
        return List.copyOf(made);
    }

    private Optional<Step> next(int fitter, int row) {
        KeyRuns.Choice now = fitters.get(fitter).choice(row, prices[fitter][row]);
        double price = prices[fitter][row];
        for (int i = 0; i < MOST_FALLS; i++) {
            price *= FALL;
            KeyRuns.Choice larger = fitters.get(fitter).choice(row, price);
            if (larger.bytes() > now.bytes())
                return Optional.of(new Step(fitter, row, price, (now.harm() - larger.harm()) / fitters.get(fitter).weight(), larger.bytes() - now.bytes()))
                        .filter(s -> s.harm > 0);
        }
        return Optional.empty();
    }
}
