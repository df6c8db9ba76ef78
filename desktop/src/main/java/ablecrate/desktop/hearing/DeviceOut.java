package ablecrate.desktop.hearing;

import ablecrate.audio.PcmPacker;
import ablecrate.audio.SampleEncoding;
import java.nio.ByteOrder;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.SourceDataLine;

/// The system's sound device, at 16 bit.
final class DeviceOut implements AudioOut {
    private static final double BUFFER_SECONDS = 0.08;

    private final SourceDataLine line;
    private final PcmPacker packer = new PcmPacker(new SampleEncoding(SampleEncoding.Kind.SIGNED, 2, 16, ByteOrder.LITTLE_ENDIAN));

    /// @throws LineUnavailableException if there is no device, or it does not take this rate
    DeviceOut(int rateHz, int channels) throws LineUnavailableException {
        AudioFormat format = new AudioFormat(rateHz, 16, channels, true, false);
        try {
            line = AudioSystem.getSourceDataLine(format);
            line.open(format, (int) (rateHz * BUFFER_SECONDS) * format.getFrameSize());
        } catch (IllegalArgumentException noSuchLine) {
            throw new LineUnavailableException(noSuchLine.getMessage());
        }
        line.start();
    }

    @Override public int rateHz() { return (int) line.getFormat().getSampleRate(); }

    @Override public int channels() { return line.getFormat().getChannels(); }

    @Override public void write(double[][] planes, int frames) {
        byte[] packed = new byte[frames * line.getFormat().getFrameSize()];
        packer.pack(planes, frames, packed);
        line.write(packed, 0, packed.length);
    }

    @Override public void drain() { line.drain(); }

    @Override public long heardFrames() { return line.getLongFramePosition(); }

    @Override public void close() {
        line.stop();
        line.close();
    }
}
