package ablecrate.codec.flac;

import ablecrate.audio.PcmPacker;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.Bytes;
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
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/// Writes FLAC. `STREAMINFO` is known only at the end, so the frames wait in the spool.
final class FlacSink implements SoundSink {
    private static final int COMMENT = 4, APPLICATION = 2, PICTURE = 6, LAST = 0x80, LONGEST_BLOCK = (1 << 24) - 1;

    private final OutputShape shape;
    private final SoundMetadata metadata;
    private final List<RawChunk> carried;
    private final OutputStream out;
    private final Path spool;
    private final OutputStream frames;
    private final FlacEncoder encoder;
    private final PcmPacker packer;
    private final MessageDigest md5;
    private final double scale;
    /// `[channel][frame]`
    private final int[][] block;
    private final byte[] packed;
    private int filled, shortest = Integer.MAX_VALUE, longest;
    private long written, clipped;

    FlacSink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        this.shape = shape;
        this.metadata = metadata;
        this.carried = carried;
        this.out = out;
        this.spool = spool;
        int bits = shape.depth().bits();
        scale = Math.scalb(1.0, bits - 1);
        encoder = new FlacEncoder(shape.channels(), shape.rateHz(), bits);
        packer = new PcmPacker(new SampleEncoding(SampleEncoding.Kind.SIGNED, bits / 8, bits, ByteOrder.LITTLE_ENDIAN));
        block = new int[shape.channels()][FlacEncoder.BLOCK];
        packed = new byte[shape.channels() * FlacEncoder.BLOCK * bits / 8];
        try {
            md5 = MessageDigest.getInstance("MD5");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has MD5", e);
        }
        frames = Files.newOutputStream(spool);
    }

    @Override public void write(double[][] planes, int count) throws IOException {
        for (int done = 0; done < count;) {
            int step = Math.min(count - done, FlacEncoder.BLOCK - filled);
            for (int channel = 0; channel < planes.length; channel++)
                clipped += round(planes[channel], done, step, block[channel], filled);
            done += step;
            took(step);
        }
    }

    private int round(double[] from, int at, int count, int[] into, int to) {
        int beyond = 0;
        for (int i = 0; i < count; i++) {
            double scaled = Math.rint(from[at + i] * scale), held = Math.clamp(scaled, -scale, scale - 1);
            if (held != scaled) beyond++;
            into[to + i] = (int) held;
        }
        return beyond;
    }

    @Override public boolean takesSteps() { return true; }

    @Override public void writeSteps(int[][] steps, int count) throws IOException {
        for (int done = 0; done < count;) {
            int step = Math.min(count - done, FlacEncoder.BLOCK - filled);
            for (int channel = 0; channel < steps.length; channel++)
                System.arraycopy(steps[channel], done, block[channel], filled, step);
            done += step;
            took(step);
        }
    }

    private void took(int count) throws IOException {
        filled += count;
        if (filled == FlacEncoder.BLOCK) encode();
    }

    private void encode() throws IOException {
        packer.packSteps(block, filled, packed);
        md5.update(packed, 0, filled * shape.channels() * shape.depth().bytes());
        byte[] frame = encoder.frame(block, filled);
        shortest = Math.min(shortest, frame.length);
        longest = Math.max(longest, frame.length);
        frames.write(frame);
        written += filled;
        filled = 0;
    }

    @Override public long clippedSamples() { return clipped; }

    @Override public void finish() throws IOException {
        if (filled > 0) encode();
        frames.close();
        StreamInfo info = new StreamInfo(FlacEncoder.BLOCK, FlacEncoder.BLOCK, written == 0 ? 0 : shortest, longest, shape.rateHz(), shape.channels(),
                shape.depth().bits(), written, Bytes.of(md5.digest()));
        out.write(header(info.toArray()));
        Files.copy(spool, out);
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
        frames.close();
        Files.deleteIfExists(spool);
    }
}
