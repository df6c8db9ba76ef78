package ablecrate.signal;

import ablecrate.audio.PcmPacker;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Bytes;
import ablecrate.codec.SoundFile;
import java.nio.ByteOrder;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Optional;

/// Compares decoded samples with the checksum that their file states.
final class StreamChecksum {
    private final Bytes stated;
    private final MessageDigest digest;
    private final PcmPacker packer;
    private final int frameBytes;
    /// Samples whose bits do not fill whole bytes are numbers of that many bits all the same, not left-justified.
    private final double scale;
    private double[][] scaled = {};
    private byte[] packed = {};

    private StreamChecksum(Bytes stated, SampleEncoding encoding, int channels) {
        this.stated = stated;
        packer = new PcmPacker(new SampleEncoding(SampleEncoding.Kind.SIGNED, encoding.containerBytes(), encoding.containerBits(), ByteOrder.LITTLE_ENDIAN));
        scale = Math.scalb(1.0, encoding.validBits() - encoding.containerBits());
        frameBytes = channels * encoding.containerBytes();
        try {
            digest = MessageDigest.getInstance("MD5");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has MD5", e);
        }
    }

    /// Empty where the file states none.
    static Optional<StreamChecksum> of(SoundFile file) {
        if (!(file.audio() instanceof AudioPlace.Coded(_, var stream)) || stream.md5().isEmpty()) return Optional.empty();
        return Optional.of(new StreamChecksum(stream.md5().get(), file.encoding(), file.channels()));
    }

    void add(double[][] block, int frames) {
        if (packed.length < frames * frameBytes) packed = new byte[frames * frameBytes];
        packer.pack(scale == 1 ? block : scaled(block, frames), frames, packed);
        digest.update(packed, 0, frames * frameBytes);
    }

    private double[][] scaled(double[][] block, int frames) {
        if (scaled.length == 0 || scaled[0].length < frames) scaled = new double[block.length][frames];
        for (int channel = 0; channel < block.length; channel++)
            for (int i = 0; i < frames; i++)
                scaled[channel][i] = block[channel][i] * scale;
        return scaled;
    }

    boolean isRight() { return Bytes.of(digest.digest()).equals(stated); }
}
