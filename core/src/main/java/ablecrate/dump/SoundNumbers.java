package ablecrate.dump;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/// Numbers of sounds as people type them: `1-10, 12`.
public final class SoundNumbers {
    /// Numbers have 14 bits.
    public static final int MOST = (1 << 14) - 1;

    private SoundNumbers() {}

    /// @return empty if it is no list of numbers
    public static Optional<List<Integer>> of(String typed) {
        List<Integer> all = new ArrayList<>();
        for (String part : typed.strip().split("\\s*,\\s*")) {
            if (!part.matches("\\d{1,5}(\\s*-\\s*\\d{1,5})?")) return Optional.empty();
            String[] ends = part.split("\\s*-\\s*");
            int first = Integer.parseInt(ends[0]), last = Integer.parseInt(ends[ends.length - 1]);
            if (last > MOST || last < first) return Optional.empty();
            IntStream.rangeClosed(first, last).forEach(all::add);
        }
        return Optional.of(all);
    }
}
