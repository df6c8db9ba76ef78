package ablecrate.codec;

import ablecrate.audio.PcmPacker;
import java.io.IOException;
import java.io.OutputStream;

/// Writes samples as they are, between what stands before and after them.
public final class PcmSink implements SoundSink {
    private final PcmLayout layout;
    private final PcmPacker packer;
    private final OutputStream out;
    private final int frameBytes;
    private byte[] packed = {};

    public PcmSink(PcmLayout layout, int channels, OutputStream out) throws IOException {
        this.layout = layout;
        this.out = out;
        packer = new PcmPacker(layout.encoding());
        frameBytes = channels * layout.encoding().containerBytes();
        out.write(layout.before().toArray());
    }

    @Override public void write(double[][] planes, int frames) throws IOException {
        if (packed.length < frames * frameBytes) packed = new byte[frames * frameBytes];
        packer.pack(planes, frames, packed);
        out.write(packed, 0, frames * frameBytes);
    }

    @Override public boolean takesSteps() { return true; }

    @Override public void writeSteps(int[][] steps, int frames) throws IOException {
        if (packed.length < frames * frameBytes) packed = new byte[frames * frameBytes];
        packer.packSteps(steps, frames, packed);
        out.write(packed, 0, frames * frameBytes);
    }

    @Override public void finish() throws IOException { out.write(layout.after().toArray()); }

    @Override public long clippedSamples() { return packer.clippedSamples(); }
}
