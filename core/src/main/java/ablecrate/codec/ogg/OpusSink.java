package ablecrate.codec.ogg;

import ablecrate.codec.Bytes;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Quality;
import ablecrate.codec.SoundSink;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.tags.VorbisComments;
import ablecrate.instrument.SoundMetadata;
import io.github.jaredmdobson.concentus.OpusApplication;
import io.github.jaredmdobson.concentus.OpusEncoder;
import io.github.jaredmdobson.concentus.OpusException;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Writes Opus in Ogg: packets of 20 ms, a page a second. The coding is the library's, which takes 16 bits.
final class OpusSink implements SoundSink {
    private static final int PACKET = 960, PAGE_PACKETS = 50, LARGEST = 4000, SERIAL = 0x41424C45;

    private final OutputShape shape;
    private final OutputStream out;
    private final OpusEncoder encoder;
    private final int preSkip;
    private final short[] samples;
    private final byte[] coded = new byte[LARGEST];
    private final List<byte[]> packets = new ArrayList<>();
    private int filled, pages;
    private long packetsDone;

    OpusSink(OutputShape shape, SoundMetadata metadata, OutputStream out) throws IOException {
        this.shape = shape;
        this.out = out;
        samples = new short[PACKET * shape.channels()];
        try {
            encoder = new OpusEncoder(OpusCodec.RATE_HZ, shape.channels(), OpusApplication.OPUS_APPLICATION_AUDIO);
        } catch (OpusException e) {
            throw new IllegalStateException(e);
        }
        encoder.setBitrate(kbps(shape.quality(), shape.channels()) * 1000);
        encoder.setUseVBR(shape.quality().constantKbps().isEmpty());
        encoder.setComplexity(10);
        preSkip = encoder.getLookahead();
        page(List.of(new OpusHead(shape.channels(), preSkip, shape.rateHz(), 0, 0, 1, shape.channels() - 1, Bytes.NONE).toArray()), 0, OggPages.FIRST);
        page(List.of(new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).id("OpusTags").bytes(VorbisComments.write(metadata.texts(), Optional.empty())).toArray()), 0, 0);
    }

    static int kbps(Quality quality, int channels) {
        int stereo = switch (quality.word()) {
            case SMALL -> 96;
            case GOOD -> 128;
            case HIGH -> 192;
            case BEST -> 320;
        };
        return Math.clamp(quality.constantKbps().orElse(channels == 1 ? stereo * 5 / 8 : stereo), 6, 255 * channels);
    }

    @Override public void write(double[][] planes, int frames) throws IOException {
        int channels = planes.length;
        for (int i = 0; i < frames; i++) {
            for (int channel = 0; channel < channels; channel++)
                samples[filled * channels + channel] = (short) Math.clamp(Math.rint(planes[channel][i] * 32_768), -32_768, 32_767);
            if (++filled == PACKET) encode();
        }
    }

    private void encode() throws IOException {
        try {
            int bytes = encoder.encode(samples, 0, PACKET, coded, 0, coded.length);
            packets.add(java.util.Arrays.copyOf(coded, bytes));
        } catch (OpusException e) {
            throw new IOException("the Opus encoder gave up: " + e.getMessage(), e);
        }
        filled = 0;
        packetsDone++;
        // The last page is held back: it has to say that it is.
        if (packets.size() > PAGE_PACKETS) {
            page(packets.subList(0, PAGE_PACKETS), (packetsDone - 1) * PACKET, 0);
            packets.subList(0, PAGE_PACKETS).clear();
        }
    }

    @Override public void finish() throws IOException {
        // What the encoder still holds back comes out with silence behind it.
        while (packetsDone * PACKET + filled < shape.frames() + preSkip || filled > 0) {
            java.util.Arrays.fill(samples, filled * shape.channels(), samples.length, (short) 0);
            encode();
        }
        page(packets, shape.frames() + preSkip, OggPages.LAST);
    }

    private void page(List<byte[]> contents, long granule, int flags) throws IOException {
        ByteArrayOutputStream lengths = new ByteArrayOutputStream(), body = new ByteArrayOutputStream();
        int from = 0, pageFlags = flags;
        for (byte[] packet : contents) {
            for (int left = packet.length; left >= 0; left -= 255)
                lengths.write(Math.min(left, 255));
            body.writeBytes(packet);
        }
        byte[] all = lengths.toByteArray(), bytes = body.toByteArray();
        // Comments may be longer than a page.
        for (int segment = 0, at = 0; segment < all.length; segment = from) {
            from = Math.min(all.length, segment + 255);
            int size = 0;
            for (int i = segment; i < from; i++)
                size += all[i] & 0xFF;
            boolean endsHere = from == all.length;
            ByteBuffer page = ByteBuffer.allocate(OggPages.HEADER_BYTES + from - segment + size).order(ByteOrder.LITTLE_ENDIAN);
            page.put(new byte[]{'O', 'g', 'g', 'S', 0, (byte) pageFlags}).putLong(endsHere ? granule : -1).putInt(SERIAL).putInt(pages++).putInt(0)
                    .put((byte) (from - segment)).put(all, segment, from - segment).put(bytes, at, size);
            page.putInt(22, OggPages.crc(page.array(), 0, page.capacity()));
            out.write(page.array());
            at += size;
            pageFlags = flags & ~OggPages.FIRST | OggPages.CONTINUED;
        }
    }
}
