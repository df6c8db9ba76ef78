package ablecrate.codec.alac;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.ChannelOrder;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.PacketDecoder;
import ablecrate.codec.PacketTable;
import java.io.IOException;
import java.nio.file.Path;

/// A stream of ALAC packets.
public record AlacAudio(AlacConfig config, PacketTable packets) implements CodedAudio {
    @Override public boolean isSameFromAnywhere() { return true; }

    @Override public BlockDecoder open(Path path) throws IOException {
        AlacDecoder decoder = new AlacDecoder(config);
        double[][] coded = new double[config.channels()][config.frameLength()];
        return new PacketDecoder(path, packets, config.channels(), config.frameLength(), 0) {
            @Override protected int decode(byte[] packet, double[][] planes) {
                int frames;
                try {
                    frames = decoder.decode(packet, coded);
                } catch (IOException e) {
                    return 0;
                }
                for (int channel = 0; channel < planes.length; channel++)
                    System.arraycopy(coded[ChannelOrder.MPEG.coded(channel, planes.length)], 0, planes[channel], 0, frames);
                return frames;
            }

            @Override protected void reset() {}
        };
    }
}
