package ablecrate.codec.aac;

import ablecrate.codec.BitReader;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/// Decodes packets of AAC-LC. One per stream; not for two threads.
///
/// A packet is a row of elements: 3 bits of kind, 4 of number, contents.
///
/// | kind | element |
/// |-----:|---------|
/// | 0, 3 | one channel; one of low frequencies |
/// | 1 | two channels |
/// | 2 | what several channels share: not known here |
/// | 4 | data: 1 bit if aligned, 8 (+8) bits of length |
/// | 5 | a layout of channels: what it says is that of the elements, in their order |
/// | 6 | filling, or an extension: 4 (+8) bits of length instead of a number; its first 4 bits are 13 or 14 for the replication of spectral bands |
/// | 7 | the end |
///
/// Source: ISO/IEC 14496-3:2009, sections 4.4.2 and 4.5.2; from memory, held against libfaad2 and libavcodec.
final class AacDecoder {
    private static final int SINGLE = 0, PAIR = 1, LOW_FREQUENCIES = 3, DATA = 4, LAYOUT = 5, FILL = 6, END = 7;
    private static final int REPLICATION = 13, REPLICATION_WITH_CRC = 14, LONG_FILL = 15, LONG_DATA = 255;
    /// Full scale of the standard's samples.
    private static final double GAIN = 1.0 / 32_768;

    private final Bands bands;
    private final List<Channel> channels = new ArrayList<>();

    private static final class Channel {
        final ChannelStream stream = new ChannelStream();
        final FilterBank bank = new FilterBank();
    }

    AacDecoder(AacConfig config) { bands = Bands.of(config.rateHz()); }

    /// What a packet turned out to hold.
    /// @param replicates whether spectral bands are to be replicated, which is not done here
    record Held(int channels, boolean replicates) {}

    /// @param planes `[channel][1024]` in the order of the stream, 1.0 is 0 dBFS; those beyond what the packet holds stay as they are, and what it holds beyond them is left out
    /// @throws IOException if it is damaged, or of a kind that is not known; the planes then hold nothing of use
    Held decode(byte[] packet, double[][] planes) throws IOException {
        BitReader in = new BitReader(packet);
        int count = 0, seed = Arrays.hashCode(packet);
        boolean replicates = false;
        for (int kind; (kind = in.bits(3)) != END;) {
            if (in.isPastEnd()) throw new IOException("an AAC packet ends too soon");
            switch (kind) {
                case SINGLE, LOW_FREQUENCIES -> {
                    in.skip(4);
                    ChannelStream stream = channel(count).stream;
                    stream.read(in, null, bands);
                    stream.fillNoise(seed + count);
                    count++;
                }
                case PAIR -> {
                    in.skip(4);
                    new ChannelPair(channel(count).stream, channel(count + 1).stream).read(in, bands, seed + count);
                    count += 2;
                }
                case DATA -> data(in);
                case LAYOUT -> layout(in);
                case FILL -> replicates |= fill(in);
                default -> throw new IOException("an AAC packet holds an element of kind " + kind + ", which is not known here");
            }
        }
        if (in.isPastEnd()) throw new IOException("an AAC packet ends too soon");
        for (int i = 0; i < Math.min(count, planes.length); i++) {
            ChannelStream stream = channels.get(i).stream;
            stream.shaping.apply(stream.spectrum, stream.info, bands.shaped(stream.info.isShort()));
            channels.get(i).bank.add(stream.spectrum, stream.info.sequence(), stream.info.shape(), GAIN, planes[i]);
        }
        return new Held(count, replicates);
    }

    private Channel channel(int index) throws IOException {
        if (index >= 64) throw new IOException("an AAC packet holds more than 64 channels");
        while (channels.size() <= index)
            channels.add(new Channel());
        return channels.get(index);
    }

    private static void data(BitReader in) {
        in.skip(4);
        boolean isAligned = in.flag();
        int bytes = in.bits(8);
        if (bytes == LONG_DATA) bytes += in.bits(8);
        if (isAligned) in.skip(-in.position() & 7);
        in.skip(8L * bytes);
    }

    private static boolean fill(BitReader in) {
        int bytes = in.bits(4);
        if (bytes == LONG_FILL) bytes += in.bits(8) - 1;
        int kind = bytes > 0 ? in.peek(4) : 0;
        in.skip(8L * bytes);
        return kind == REPLICATION || kind == REPLICATION_WITH_CRC;
    }

    /// 4 bits of number, 2 of type, 4 of rate, counts of its parts, three flags of mixes, its parts, a comment.
    private static void layout(BitReader in) {
        in.skip(4 + 2 + 4);
        int sourceChain = in.bits(4), side = in.bits(4), back = in.bits(4), low = in.bits(2), data = in.bits(3), coupling = in.bits(4);
        if (in.flag()) in.skip(4);
        if (in.flag()) in.skip(4);
        if (in.flag()) in.skip(3);
        in.skip(5L * (sourceChain + side + back) + 4L * (low + data) + 5L * coupling);
        in.skip(-in.position() & 7);
        in.skip(8L * in.bits(8));
    }

    /// Begins anew, as what comes does not follow what was.
    void reset() {
        for (Channel channel : channels)
            channel.bank.reset();
    }
}
