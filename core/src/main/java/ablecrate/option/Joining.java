package ablecrate.option;

import java.util.List;

/// Whether sounds become one, one after another.
/// @param name of the one; empty where each stays by itself
/// @param gapMs of silence between two
/// @param contents which lists of what is in it lie beside it
/// @param first patterns of files that come before all others, in this order, see [NameGlob]
public record Joining(String name, double gapMs, Order order, Contents contents, List<String> first) {
    public static final Joining NONE = new Joining("", 0, Order.FOLDER, Contents.NONE, List.of());
    private static final double LONGEST_GAP_MS = 60_000;

    /// Which comes first.
    public enum Order {
        FOLDER("folder by folder"), NAME("by name"), LENGTH("the shortest first");

        private final String label;

        Order(String label) { this.label = label; }

        public String id() { return name().toLowerCase(java.util.Locale.ROOT); }

        /// For people.
        public String label() { return label; }
    }

    /// A list of what a joined sound is made of.
    public enum Contents {
        NONE("none"), CSV("CSV table"), CUE("cue sheet"), BOTH("both");

        private final String label;

        Contents(String label) { this.label = label; }

        public String id() { return name().toLowerCase(java.util.Locale.ROOT); }

        /// For people.
        public String label() { return label; }

        public boolean hasTable() { return this == CSV || this == BOTH; }

        public boolean hasCueSheet() { return this == CUE || this == BOTH; }
    }

    public Joining {
        first = List.copyOf(first);
        if (name.contains("/") || name.contains("\\")) throw new IllegalArgumentException("'" + name + "' is a path; say a name");
        Bounds.require(gapMs >= 0 && gapMs <= LONGEST_GAP_MS, "a gap lasts from 0 to 60000 ms, not", gapMs);
    }

    public boolean isWanted() { return !name.isBlank(); }

    public Joining withName(String n) { return new Joining(n, gapMs, order, contents, first); }

    public Joining withGap(double ms) { return new Joining(name, ms, order, contents, first); }

    public Joining withOrder(Order o) { return new Joining(name, gapMs, o, contents, first); }

    public Joining withContents(Contents c) { return new Joining(name, gapMs, order, c, first); }

    public Joining withFirst(List<String> f) { return new Joining(name, gapMs, order, contents, f); }
}
