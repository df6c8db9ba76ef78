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
import ablecrate.work.OrderedWork;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;

/// Writes FLAC. `STREAMINFO` is known only at the end, so the frames wait in the spool.
final class FlacSink implements SoundSink {
    /// Blocks that are coded in one go: enough that handing them on is a small part of it.
    private static final int RUN = 8;
    private static final int COMMENT = 4, APPLICATION = 2, PICTURE = 6, LAST = 0x80, LONGEST_BLOCK = (1 << 24) - 1;

    private final OutputShape shape;
    private final SoundMetadata metadata;
    private final List<RawChunk> carried;
    private final OutputStream out;
    private final Path spool;
    private final OutputStream frames;
    /// Those that nobody codes with just now.
    private final Queue<FlacEncoder> encoders = new ConcurrentLinkedQueue<>();
    private final OrderedWork<List<byte[]>> runs = new OrderedWork<>();
    private final PcmPacker packer;
    private final MessageDigest md5;
    private final double scale;
    private final byte[] packed;
    private List<Block> run = new ArrayList<>();
    private Block block;
    private int shortest = Integer.MAX_VALUE, longest;
    private long written, clipped;

    FlacSink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        this.shape = shape;
        this.metadata = metadata;
        this.carried = carried;
        this.out = out;
        this.spool = spool;
        int bits = shape.depth().bits();
        scale = Math.scalb(1.0, bits - 1);
        packer = new PcmPacker(new SampleEncoding(SampleEncoding.Kind.SIGNED, bits / 8, bits, ByteOrder.LITTLE_ENDIAN));
        block = new Block(0, shape.channels());
        packed = new byte[shape.channels() * FlacEncoder.BLOCK * bits / 8];
        try {
            md5 = MessageDigest.getInstance("MD5");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has MD5", e);
        }
        frames = Files.newOutputStream(spool);
    }

    private static final class Block {
        /// In the stream.
        final long number;
        /// `[channel][frame]`
        final int[][] steps;
        int filled;

        Block(long number, int channels) {
            this.number = number;
            steps = new int[channels][FlacEncoder.BLOCK];
        }
    }

    @Override public void write(double[][] planes, int count) throws IOException {
        for (int done = 0; done < count;) {
            int step = Math.min(count - done, FlacEncoder.BLOCK - block.filled);
            for (int channel = 0; channel < planes.length; channel++)
                clipped += round(planes[channel], done, step, block.steps[channel], block.filled);
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
            int step = Math.min(count - done, FlacEncoder.BLOCK - block.filled);
            for (int channel = 0; channel < steps.length; channel++)
                System.arraycopy(steps[channel], done, block.steps[channel], block.filled, step);
            done += step;
            took(step);
        }
    }

    private void took(int count) throws IOException {
        block.filled += count;
        if (block.filled == FlacEncoder.BLOCK) endBlock();
        if (run.size() == RUN) endRun();
        if (runs.isFull()) write(runs.take());
    }

    private void endBlock() {
        packer.packSteps(block.steps, block.filled, packed);
        md5.update(packed, 0, block.filled * shape.channels() * shape.depth().bytes());
        written += block.filled;
        run.add(block);
        block = new Block(block.number + 1, shape.channels());
    }

    private void endRun() {
        List<Block> ended = run;
        runs.give(() -> code(ended));
        run = new ArrayList<>();
    }

    private List<byte[]> code(List<Block> blocks) {
        FlacEncoder idle = encoders.poll(), encoder = idle == null ? new FlacEncoder(shape.channels(), shape.rateHz(), shape.depth().bits()) : idle;
        List<byte[]> coded = blocks.stream().map(b -> encoder.frame(b.number, b.steps, b.filled)).toList();
        encoders.add(encoder);
        return coded;
    }

    private void write(List<byte[]> coded) throws IOException {
        for (byte[] frame : coded) {
            shortest = Math.min(shortest, frame.length);
            longest = Math.max(longest, frame.length);
            frames.write(frame);
        }
    }

    @Override public long clippedSamples() { return clipped; }

    @Override public void finish() throws IOException {
        if (block.filled > 0) endBlock();
        endRun();
        while (!runs.isEmpty())
            write(runs.take());
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
        try (runs) {
            frames.close();
        }
        Files.deleteIfExists(spool);
    }
}
