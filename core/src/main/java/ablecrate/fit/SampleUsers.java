package ablecrate.fit;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;

/// How many rows play each sample: its memory is shared among them.
/// @param all of all instruments
/// @param own of one of them
record SampleUsers(Map<Integer, Integer> all, Map<Integer, Integer> own) {
    static Map<Integer, Integer> count(Collection<Row> rows) {
        Map<Integer, Integer> users = new HashMap<>();
        rows.forEach(row -> row.samples().forEach(sample -> users.merge(sample, 1, Integer::sum)));
        return users;
    }

    int all(int sample) { return all.getOrDefault(sample, 1); }

    /// By how many times more rows a sample is played in all instruments together than in this one; 1 where no other one plays it.
    double factor(int sample) { return Math.max(1, all(sample) / (double) own.getOrDefault(sample, 1)); }
}
