package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.TurnsLeft;
import ablecrate.instrument.TurnsLeft.Place;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// Which turns of a round robin stay: those that sound most like the ones that go.
final class TurnChoice {
    /// Places on the keys at which turns are compared.
    private static final int MOST_PLACES = 8;

    private final Instrument instrument;
    /// By the length of a round robin: positions of its turns, the first to stay first.
    private final Map<Integer, List<Integer>> order = new TreeMap<>();

    TurnChoice(Instrument instrument, Notes notes) {
        this.instrument = instrument;
        for (Zone zone : instrument.zones()) {
            int length = zone.get(Parameter.TURN).length();
            if (length > 1) order.computeIfAbsent(length, l -> order(distances(l, notes)));
        }
    }

    /// Of the longest round robin; 1 where there is none.
    int longest() { return order.keySet().stream().mapToInt(l -> l).max().orElse(1); }

    /// `[turn][other]` how different they sound, in dB, over some places at which all turns have a sound.
    private double[][] distances(int length, Notes notes) {
        Map<Place, Map<Integer, List<Zone>>> places = new LinkedHashMap<>();
        for (Zone zone : instrument.zones())
            if (zone.get(Parameter.TURN).length() == length)
                places.computeIfAbsent(Place.of(zone), _ -> new HashMap<>())
                        .computeIfAbsent(zone.get(Parameter.TURN).position() - 1, _ -> new ArrayList<>()).add(zone);
        List<Map.Entry<Place, Map<Integer, List<Zone>>>> whole = places.entrySet().stream().filter(e -> e.getValue().size() == length).toList();
        double[][] out = new double[length][length];
        int step = Math.max(1, whole.size() / MOST_PLACES);
        for (int at = step / 2; at < whole.size(); at += step) {
            Place place = whole.get(at).getKey();
            HeardNote[] heard = new HeardNote[length];
            whole.get(at).getValue().forEach((turn, zones) -> {
                Stack stack = new Stack(place.keys(), place.velocities(), zones);
                heard[turn] = notes.heard(stack.alone(), stack.root(), stack.middleVelocity());
            });
            for (int a = 0; a < length; a++)
                for (int b = 0; b < length; b++)
                    if (a != b) out[a][b] += heard[a].harm(heard[b]);
        }
        return out;
    }

    /// Each next turn is the one that leaves the others nearest to one that stays.
    private static List<Integer> order(double[][] distance) {
        double[] nearest = new double[distance.length];
        Arrays.fill(nearest, Double.MAX_VALUE);
        List<Integer> out = new ArrayList<>();
        while (out.size() < distance.length) {
            int best = -1;
            double least = Double.MAX_VALUE;
            for (int stays = 0; stays < distance.length; stays++) {
                if (out.contains(stays)) continue;
                double sum = 0;
                for (int t = 0; t < distance.length; t++)
                    sum += Math.min(nearest[t], distance[t][stays]);
                if (best < 0 || sum < least - 1e-12) {
                    best = stays;
                    least = sum;
                }
            }
            out.add(best);
            for (int t = 0; t < distance.length; t++)
                nearest[t] = Math.min(nearest[t], distance[t][best]);
        }
        return out.stream().map(turn -> turn + 1).toList();
    }

    /// With no more turns than these, in the order in which they were.
    Instrument of(int most) {
        TurnsLeft left = new TurnsLeft(instrument, most, order);
        return instrument.mapZones(zone -> left.of(zone).stream().toList());
    }
}
