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
    private byte[] packed = {};

    private StreamChecksum(Bytes stated, SampleEncoding encoding, int channels) {
        this.stated = stated;
        // The samples themselves, not left-justified.
        packer = new PcmPacker(encoding);
        frameBytes = channels * encoding.containerBytes();
        try {
            digest = MessageDigest.getInstance("MD5");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has MD5", e);
        }
    }

    /// Empty where the file states none, or its bits do not fill whole bytes, which no fixture has shown yet.
    static Optional<StreamChecksum> of(SoundFile file) {
        if (!(file.audio() instanceof AudioPlace.Coded(_, var stream)) || stream.md5().isEmpty() || file.encoding().validBits() % 8 != 0)
            return Optional.empty();
        SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.SIGNED, file.encoding().containerBytes(), file.encoding().validBits(),
                ByteOrder.LITTLE_ENDIAN);
        return Optional.of(new StreamChecksum(stream.md5().get(), encoding, file.channels()));
    }

    void add(double[][] block, int frames) {
        if (packed.length < frames * frameBytes) packed = new byte[frames * frameBytes];
        packer.pack(block, frames, packed);
        digest.update(packed, 0, frames * frameBytes);
    }

    boolean isRight() { return Bytes.of(digest.digest()).equals(stated); }
}
