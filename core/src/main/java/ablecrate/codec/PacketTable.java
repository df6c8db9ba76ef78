package ablecrate.codec;

import java.util.Arrays;

/// Where the packets of a compressed stream lie in their file. Immutable; equal by content.
///
/// Twelve bytes a packet: 8 MB for ten hours.
public final class PacketTable {
    private final long[] places;
    private final int[] sizes;
    private final int hash;

    private PacketTable(long[] places, int[] sizes) {
        this.places = places;
        this.sizes = sizes;
        hash = 31 * Arrays.hashCode(places) + Arrays.hashCode(sizes);
    }

    /// @param places,sizes one each a packet; not copied
    public static PacketTable of(long[] places, int[] sizes) { return new PacketTable(places, sizes); }

    /// Packets one behind the other.
    public static PacketTable contiguous(long from, int[] sizes) {
        long[] places = new long[sizes.length];
        for (int i = 0; i < sizes.length; i++) {
            places[i] = from;
            from += sizes[i];
        }
        return new PacketTable(places, sizes);
    }

    /// The first packets alone.
    public PacketTable first(int count) {
        return count == sizes.length ? this : new PacketTable(Arrays.copyOf(places, count), Arrays.copyOf(sizes, count));
    }

    /// These packets, then others.
    public PacketTable and(PacketTable others) {
        long[] allPlaces = Arrays.copyOf(places, packets() + others.packets());
        int[] allSizes = Arrays.copyOf(sizes, allPlaces.length);
        System.arraycopy(others.places, 0, allPlaces, packets(), others.packets());
        System.arraycopy(others.sizes, 0, allSizes, packets(), others.packets());
        return new PacketTable(allPlaces, allSizes);
    }

    public int packets() { return sizes.length; }

    public long at(int packet) { return places[packet]; }

    public int bytes(int packet) { return sizes[packet]; }

    @Override public boolean equals(Object other) {
        return other instanceof PacketTable t && hash == t.hash && Arrays.equals(places, t.places) && Arrays.equals(sizes, t.sizes);
    }

    @Override public int hashCode() { return hash; }
}
