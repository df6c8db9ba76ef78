package ablecrate.codec.flac;

import ablecrate.codec.OutputShape;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundSink;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.riff.RiffMetadata;
import ablecrate.codec.tags.VorbisComments;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import net.sourceforge.javaflacencoder.EncodingConfiguration;
import net.sourceforge.javaflacencoder.FLACEncoder;
import net.sourceforge.javaflacencoder.FLACOutputStream;
import net.sourceforge.javaflacencoder.StreamConfiguration;

/// Writes FLAC; the coding is the library's, the blocks before the audio are ours. `STREAMINFO` is known only at the end, so the library's stream
/// waits in the spool.
final class FlacSink implements SoundSink {
    private static final int BLOCK = 4096, COMMENT = 4, APPLICATION = 2, PICTURE = 6, LAST = 0x80, INFO_AT = 8;
    /// The library's predictors fail on a last block of a few samples.
    private static final int SHORTEST_PREDICTED = 16;
    private static final int LONGEST_BLOCK = (1 << 24) - 1;

    private final OutputShape shape;
    private final SoundMetadata metadata;
    private final List<RawChunk> carried;
    private final OutputStream out;
    private final Path spool;
    private final FileChannel file;
    private final FLACEncoder encoder = new FLACEncoder();
    private final double scale;
    private int[] samples = {};
    private long clipped;

    FlacSink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        this.shape = shape;
        this.metadata = metadata;
        this.carried = carried;
        this.out = out;
        this.spool = spool;
        scale = Math.scalb(1.0, shape.depth().bits() - 1);
        file = FileChannel.open(spool, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE, StandardOpenOption.READ);
        encoder.setStreamConfiguration(new StreamConfiguration(shape.channels(), BLOCK, BLOCK, shape.rateHz(), shape.depth().bits()));
        encoder.setOutputStream(new Spool(file));
        encoder.openFLACStream();
    }

    @Override public void write(double[][] planes, int frames) throws IOException {
        int channels = planes.length;
        if (samples.length < frames * channels) samples = new int[frames * channels];
        for (int channel = 0; channel < channels; channel++)
            for (int i = 0; i < frames; i++) {
                double scaled = Math.rint(planes[channel][i] * scale), held = Math.clamp(scaled, -scale, scale - 1);
                if (held != scaled) clipped++;
                samples[i * channels + channel] = (int) held;
            }
        encoder.addSamples(samples, frames);
        int whole = encoder.fullBlockSamplesAvailableToEncode();
        if (whole > 0) encoder.encodeSamples(whole, false);
    }

    @Override public long clippedSamples() { return clipped; }

    @Override public void finish() throws IOException {
        int rest = encoder.samplesAvailableToEncode();
        if (rest < SHORTEST_PREDICTED) {
            EncodingConfiguration plain = new EncodingConfiguration();
            plain.setSubframeType(EncodingConfiguration.SubframeType.VERBATIM);
            encoder.setEncodingConfiguration(plain);
        }
        encoder.encodeSamples(rest, true);
        ByteBuffer head = ByteBuffer.allocate(4);
        long at = 4;
        // The library writes its blocks, then the frames.
        for (boolean isLast = false; !isLast;) {
            head.clear();
            if (file.read(head, at) < 4) throw new IOException("the encoder left no whole stream");
            isLast = head.get(0) < 0;
            at += 4 + (head.getInt(0) & 0xFF_FFFF);
        }
        ByteBuffer info = ByteBuffer.allocate(StreamInfo.BYTES);
        file.read(info, INFO_AT);
        out.write(header(info.array()));
        file.position(at);
        Channels.newInputStream(file).transferTo(out);
    }

    private byte[] header(byte[] streamInfo) throws IOException {
        ChunkBuilder blocks = new ChunkBuilder(ByteOrder.BIG_ENDIAN).id("fLaC").u8(0).u8(0).u16(StreamInfo.BYTES).bytes(streamInfo);
        Map<TextField, String> others = new EnumMap<>(TextField.class);
        others.putAll(metadata.texts());
        others.keySet().removeAll(VorbisComments.FIELDS);
        for (RawChunk chunk : RiffMetadata.chunks(shape, metadata.withTexts(others),
                carried.stream().filter(c -> RiffMetadata.IDS.contains(c.id())).toList())) {
            byte[] riff = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).id("riff").chunk(chunk.id(), chunk.contents().toArray()).toArray();
            block(blocks, APPLICATION, riff);
        }
        for (RawChunk chunk : carried)
            if (chunk.id().equals("PICTURE")) block(blocks, PICTURE, chunk.contents().toArray());
        byte[] comments = VorbisComments.write(metadata.texts(),
                carried.stream().filter(c -> c.id().equals("VORBIS_COMMENT")).findFirst().map(RawChunk::contents));
        return block(blocks, COMMENT | LAST, comments).toArray();
    }

    private static ChunkBuilder block(ChunkBuilder blocks, int kind, byte[] contents) throws IOException {
        if (contents.length > LONGEST_BLOCK) throw new IOException("a block of " + contents.length + " bytes does not fit into FLAC, 16 MB are the most");
        return blocks.u8(kind).u8(contents.length >> 16).u16(contents.length).bytes(contents);
    }

    @Override public void close() throws IOException {
        file.close();
        Files.deleteIfExists(spool);
    }

    /// The spool as the library wants it.
    private static final class Spool implements FLACOutputStream {
        private final FileChannel file;

        Spool(FileChannel file) { this.file = file; }

        @Override public long seek(long at) throws IOException {
            file.position(at);
            return at;
        }

        @Override public int write(byte[] bytes, int at, int count) throws IOException {
            for (ByteBuffer left = ByteBuffer.wrap(bytes, at, count); left.hasRemaining();)
                file.write(left);
            return count;
        }

        @Override public void write(byte b) throws IOException { write(new byte[]{b}, 0, 1); }

        @Override public long size() {
            try {
                return file.size();
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        }

        @Override public boolean canSeek() { return true; }

        @Override public long getPos() {
            try {
                return file.position();
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        }

        @Override public void close() {}
    }
}
