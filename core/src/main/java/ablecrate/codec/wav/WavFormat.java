package ablecrate.codec.wav;

import ablecrate.audio.Depth;
import ablecrate.codec.Bytes;
import ablecrate.codec.Capabilities;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.PcmFormat;
import ablecrate.codec.PcmLayout;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.riff.FmtChunk;
import ablecrate.codec.riff.RiffMetadata;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/// WAV: its capabilities, how it knows itself, how a file is laid out.
///
/// A file we write: form header, (`ds64`), `fmt `, (`fact` for floats), metadata in the order of the source or
/// `bext`, `smpl`, `inst`, `cue `, `LIST adtl`, `LIST INFO`, then `data` last. With the metadata in front, a file that was cut
/// keeps them, and a stream needs no way back.
public final class WavFormat implements PcmFormat {
    private static final long RIFF_LIMIT = 0xFFFF_FFFFL;
    private static final Set<String> FILLER = Set.of("JUNK", "junk", "PAD ", "FLLR", "fact", "PEAK", "levl", "MD5 ", "ds64", "fmt ", "data");
    private static final Set<String> TRAVELLERS = Set.of("id3 ", "ID3 ", "_PMX", "iXML");

    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.allOf(Depth.class), 0xFFFF, Long.MAX_VALUE,
            Capabilities.Loops.any(), Capabilities.FineTune.EXACT, true,
            true, new Capabilities.GainDb(-128, 127), Integer.MAX_VALUE, true, true, true, RiffMetadata.TEXTS);

    /// Beyond it sizes are told in 64 bits (RF64), which many devices do not read.
    @Override public long plainFileBytes() { return 0xFFFF_FFFFL; }

    @Override public String id() { return "wav"; }

    @Override public String name() { return "WAV"; }

    @Override public List<String> extensions() { return List.of("wav", "wave", "bwf", "rf64"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head) {
        if (head.length < 12) return false;
        String form = ascii(head, 0), type = ascii(head, 8);
        return type.equals("WAVE") && (form.equals("RIFF") || form.equals("RF64") || form.equals("BW64"));
    }

    private static String ascii(byte[] head, int at) { return new String(head, at, 4, java.nio.charset.StandardCharsets.ISO_8859_1); }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new WavReader(path).read(); }

    @Override public ChunkRole role(String chunkId) { return ChunkRole.of(chunkId, FILLER, RiffMetadata.IDS, TRAVELLERS); }

    @Override public RawChunk later(RawChunk chunk, long frames) { return RiffMetadata.later(chunk, frames); }

    @Override public PcmLayout layout(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried) {
        long channelMask = carried.stream().filter(c -> c.id().equals("fmt ")).findFirst().map(c -> FmtChunk.channelMask(c.contents())).orElse(0L);
        ChunkBuilder head = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN);
        head.chunk("fmt ", FmtChunk.write(shape, channelMask).toArray());
        if (shape.depth().isFloat()) head.chunk("fact", new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u32(Math.min(shape.frames(), RIFF_LIMIT)).toArray());
        for (RawChunk chunk : RiffMetadata.chunks(shape, metadata, carried.stream().filter(c -> !FILLER.contains(c.id())).toList()))
            head.chunk(chunk.id(), chunk.contents().toArray());

        long dataBytes = shape.frames() * shape.channels() * shape.depth().bytes();
        long pad = dataBytes % 2;
        long riffBytes = 4 + head.size() + 8 + dataBytes + pad;
        ChunkBuilder before = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN);
        if (riffBytes <= RIFF_LIMIT)
            before.id("RIFF").u32(riffBytes).id("WAVE").bytes(head.toArray()).id("data").u32(dataBytes);
        else
            before.id("RF64").u32(RIFF_LIMIT).id("WAVE").id("ds64").u32(28).u64(riffBytes + 36).u64(dataBytes).u64(shape.frames()).u32(0)
                    .bytes(head.toArray()).id("data").u32(RIFF_LIMIT);
        return new PcmLayout(before.toBytes(), FmtChunk.encodingOf(shape.depth()), pad == 1 ? Bytes.of((byte) 0) : Bytes.NONE);
    }
}
