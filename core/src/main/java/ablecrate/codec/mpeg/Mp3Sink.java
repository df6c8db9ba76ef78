package ablecrate.codec.mpeg;

import ablecrate.codec.OutputShape;
import ablecrate.codec.Quality;
import ablecrate.codec.SoundSink;
import ablecrate.codec.tags.Id3;
import ablecrate.instrument.SoundMetadata;
import de.sciss.jump3r.mp3.BitStream;
import de.sciss.jump3r.mp3.GainAnalysis;
import de.sciss.jump3r.mp3.ID3Tag;
import de.sciss.jump3r.mp3.Lame;
import de.sciss.jump3r.mp3.LameGlobalFlags;
import de.sciss.jump3r.mp3.MPEGMode;
import de.sciss.jump3r.mp3.Presets;
import de.sciss.jump3r.mp3.Quantize;
import de.sciss.jump3r.mp3.QuantizePVT;
import de.sciss.jump3r.mp3.Reservoir;
import de.sciss.jump3r.mp3.Takehiro;
import de.sciss.jump3r.mp3.VBRTag;
import de.sciss.jump3r.mp3.VbrMode;
import de.sciss.jump3r.mp3.Version;
import de.sciss.jump3r.mpg.Common;
import de.sciss.jump3r.mpg.Interface;
import de.sciss.jump3r.mpg.MPGLib;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;

/// Writes MP3; the coding is the library's. Its first frame says length and delay, which are known only at the end, so the stream waits in the spool.
final class Mp3Sink implements SoundSink {
    private static final int PIECE = 1152, TAG_FRAME = 2880;
    private static final double FULL_SCALE = 0x1p31;

    private final OutputStream out, spooled;
    private final Path spool;
    private final SoundMetadata metadata;
    private final Lame lame = new Lame();
    private final VBRTag tag = new VBRTag();
    private final LameGlobalFlags flags;
    private final int[] left = new int[PIECE], right = new int[PIECE];
    private final byte[] coded = new byte[PIECE * 5 / 4 + 7200];

    Mp3Sink(OutputShape shape, SoundMetadata metadata, OutputStream out, Path spool) throws IOException {
        this.out = out;
        this.spool = spool;
        this.metadata = metadata;
        wire();
        flags = lame.lame_init();
        flags.num_channels = shape.channels();
        flags.in_samplerate = flags.out_samplerate = shape.rateHz();
        flags.mode = shape.channels() == 1 ? MPEGMode.MONO : MPEGMode.JOINT_STEREO;
        flags.bWriteVbrTag = true;
        flags.write_id3tag_automatic = false;
        flags.quality = 2;
        if (shape.quality().constantKbps().isPresent())
            flags.brate = kbps(shape.quality(), shape.rateHz());
        else {
            flags.VBR = VbrMode.vbr_mtrh;
            flags.VBR_q = step(shape.quality());
        }
        if (lame.lame_init_params(flags) < 0) throw new IOException("the MP3 encoder takes no " + shape);
        spooled = new BufferedOutputStream(Files.newOutputStream(spool));
    }

    /// The library's parts do not find each other by themselves.
    private void wire() {
        GainAnalysis gain = new GainAnalysis();
        BitStream bits = new BitStream();
        Presets presets = new Presets();
        QuantizePVT tables = new QuantizePVT();
        Quantize quantize = new Quantize();
        Version version = new Version();
        ID3Tag texts = new ID3Tag();
        Reservoir reservoir = new Reservoir();
        Takehiro counting = new Takehiro();
        MPGLib decoder = new MPGLib();
        Interface access = new Interface();
        Common common = new Common();
        lame.setModules(gain, bits, presets, tables, quantize, tag, version, texts, decoder);
        bits.setModules(gain, decoder, version, tag);
        texts.setModules(bits, version);
        presets.setModules(lame);
        quantize.setModules(bits, reservoir, tables, counting);
        tables.setModules(counting, reservoir, lame.enc.psy);
        reservoir.setModules(bits);
        counting.setModules(tables);
        tag.setModules(lame, bits, version);
        decoder.setModules(access, common);
        access.setModules(tag, common);
    }

    /// The encoder's own scale of variable rates: 0 is the best, 9 the smallest.
    static int step(Quality quality) {
        return switch (quality.word()) {
            case SMALL -> 6;
            case GOOD -> 4;
            case HIGH -> 2;
            case BEST -> 0;
        };
    }

    /// The rate of the table that is next to the wanted one.
    static int kbps(Quality quality, int rateHz) { return MpegHeader.nearestKbps(quality.constantKbps().orElseThrow(), rateHz); }

    @Override public void write(double[][] planes, int frames) throws IOException {
        for (int done = 0; done < frames; done += PIECE) {
            int count = Math.min(PIECE, frames - done);
            take(planes[0], done, count, left);
            take(planes[planes.length - 1], done, count, right);
            int bytes = lame.lame_encode_buffer_int(flags, left, right, count, coded, 0, coded.length);
            if (bytes < 0) throw new IOException("the MP3 encoder gave up (" + bytes + ")");
            spooled.write(coded, 0, bytes);
        }
    }

    private static void take(double[] plane, int from, int count, int[] into) {
        for (int i = 0; i < count; i++)
            into[i] = (int) Math.rint(plane[from + i] * FULL_SCALE);
    }

    @Override public void finish() throws IOException {
        int bytes = lame.lame_encode_flush(flags, coded, 0, coded.length);
        if (bytes < 0) throw new IOException("the MP3 encoder gave up (" + bytes + ")");
        spooled.write(coded, 0, bytes);
        spooled.close();
        byte[] head = new byte[TAG_FRAME];
        int headBytes = tag.getLameTagFrame(flags, head);
        out.write(Id3.write(metadata.texts()));
        out.write(Arrays.copyOf(head, headBytes));
        try (InputStream stream = Files.newInputStream(spool)) {
            // In its place the stream has an empty frame of the same size.
            stream.skipNBytes(headBytes);
            stream.transferTo(out);
        }
    }

    @Override public void close() throws IOException {
        spooled.close();
        Files.deleteIfExists(spool);
    }
}
