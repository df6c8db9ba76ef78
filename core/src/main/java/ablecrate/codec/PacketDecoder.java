package ablecrate.codec;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.chunk.FileBytes;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;

/// Decodes packets that a table lists, each of the same number of frames but the last. A packet that is damaged is silent.
public abstract class PacketDecoder implements BlockDecoder {
    private final FileBytes file;
    private final PacketTable table;
    private final int packetFrames, preRoll;
    private final double[][] block;
    private int next;
    private boolean isLost;

    /// @param packetFrames of each packet
    /// @param preRoll packets that have to be decoded before one that comes out right
    protected PacketDecoder(Path path, PacketTable table, int channels, int packetFrames, int preRoll) throws IOException {
        this.table = table;
        this.packetFrames = packetFrames;
        this.preRoll = preRoll;
        block = new double[channels][packetFrames];
        file = new FileBytes(path);
    }

    /// @param planes get the frames
    /// @return how many; 0 for a packet that cannot be decoded
    protected abstract int decode(byte[] packet, double[][] planes);

    /// Begins anew, as what comes does not follow what was.
    protected abstract void reset();

    @Override public double[][] block() { return block; }

    @Override public int next() throws IOException {
        if (next >= table.packets()) return 0;
        int count = decode(file.read(table.at(next), table.bytes(next)), block);
        next++;
        isLost = count == 0;
        if (count > 0 && (count == packetFrames || next == table.packets())) return count;
        for (double[] plane : block)
            Arrays.fill(plane, count, packetFrames, 0);
        return packetFrames;
    }

    @Override public boolean isLost() { return isLost; }

    @Override public long seek(long frame) throws IOException {
        reset();
        next = Math.clamp(frame / packetFrames - preRoll, 0, table.packets());
        return (long) next * packetFrames;
    }

    @Override public void close() throws IOException { file.close(); }
}
