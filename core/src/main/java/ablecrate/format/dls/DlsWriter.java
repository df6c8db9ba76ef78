package ablecrate.format.dls;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.PcmPacker;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.format.BankFormat;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Writes a collection of level 2: `colh`, the instruments, the pool of waves last, in one direction.
///
/// A wave is mono: a stereo sound becomes two, whose regions are linked as left and right of one phase group.
final class DlsWriter {
    private static final int BLOCK = 8192;
    private static final long DRUMS = 0x8000_0000L;
    static final int PHASE_MASTER = 1, MULTICHANNEL = 2, LEFT = 1, RIGHT = 2;

    private final OutputStream out;
    private final List<BankFormat.BankSound> sounds;
    private final BankFormat.Feed feed;
    private final List<Integer> firstWave = new ArrayList<>();
    private int waves, phaseGroup;

    DlsWriter(OutputStream out, List<BankFormat.BankSound> sounds, BankFormat.Feed feed) {
        this.out = out;
        this.sounds = sounds;
        this.feed = feed;
        for (BankFormat.BankSound sound : sounds) {
            firstWave.add(waves);
            waves += sound.shape().channels();
        }
    }

    private static ChunkBuilder little() { return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN); }

    private static byte[] list(String kind, ChunkBuilder contents) { return little().id(kind).bytes(contents.toArray()).toArray(); }

    void write(About about, List<Instrument> instruments) throws IOException {
        ChunkBuilder lins = little();
        for (int i = 0; i < instruments.size(); i++)
            lins.chunk("LIST", list("ins ", instrument(instruments.get(i), i)));
        ChunkBuilder pool = little().u32(8).u32(waves);
        long at = 0;
        for (BankFormat.BankSound sound : sounds)
            for (int channel = 0; channel < sound.shape().channels(); channel++) {
                pool.u32(at);
                at += waveBytes(sound, channel);
            }
        byte[] head = little().chunk("vers", little().u16(2).u16(0).u16(0).u16(0).toArray()).chunk("colh", little().u32(instruments.size()).toArray())
                .chunk("LIST", list("lins", lins)).chunk("ptbl", pool.toArray()).toArray();
        byte[] info = list("INFO", info(about));
        out.write(little().id("RIFF").u32(4 + head.length + 12 + at + 8 + info.length).id("DLS ").bytes(head).id("LIST").u32(4 + at).id("wvpl").toArray());
        for (int i = 0; i < sounds.size(); i++)
            for (int channel = 0; channel < sounds.get(i).shape().channels(); channel++)
                wave(i, channel);
        out.write(little().chunk("LIST", info).toArray());
    }

    private ChunkBuilder instrument(Instrument instrument, int place) {
        ChunkBuilder regions = little();
        int count = 0;
        for (Zone zone : instrument.zones()) {
            int channels = sounds.get(zone.sample()).shape().channels();
            if (channels == 2) phaseGroup++;
            for (int channel = 0; channel < channels; channel++, count++)
                regions.chunk("LIST", list("rgn2", region(zone, channels, channel)));
        }
        Instrument.Program program = instrument.program().orElse(new Instrument.Program(place / 128, place % 128, false));
        // The bank is told as the two controllers that choose it: MSB in bits 8…14, LSB in bits 0…6.
        long bank = (long) (program.bank() & 0x7F) << 8 | program.bank() >> 7;
        return little().chunk("insh", little().u32(count).u32(program.isPercussion() ? DRUMS | bank : bank).u32(program.number()).toArray())
                .chunk("LIST", list("lrgn", regions))
                .chunk("LIST", list("INFO", info(instrument.about())));
    }

    private ChunkBuilder region(Zone zone, int channels, int channel) {
        Span keys = zone.get(Parameter.KEYS), velocities = zone.get(Parameter.VELOCITIES);
        ChunkBuilder blocks = little();
        List<DlsConnections.Block> all = DlsConnections.of(zone);
        for (DlsConnections.Block b : all)
            blocks.u16(b.source()).u16(b.control()).u16(b.destination()).u16(b.transform()).u32(b.scale());
        ChunkBuilder region = little()
                .chunk("rgnh",
                        little().u16(keys.low()).u16(keys.high()).u16(velocities.low()).u16(velocities.high()).u16(0).u16(zone.get(Parameter.EXCLUSIVE_GROUP))
                                .u16(0)
                                .toArray())
                .chunk("wsmp", sample(zone.get(Parameter.ROOT_KEY), zone.get(Parameter.TUNING), zone.get(Parameter.GAIN),
                        zone.get(Parameter.LOOPS).stream().map(Loop::frames).findFirst(), zone.get(Parameter.LOOP_UNTIL_RELEASE)))
                .chunk("wlnk", little().u16(channels == 2 ? MULTICHANNEL | (channel == 0 ? PHASE_MASTER : 0) : 0).u16(channels == 2 ? phaseGroup & 0xFFFF : 0)
                        .u32(channels == 2 && channel == 1 ? RIGHT : LEFT).u32(firstWave.get(zone.sample()) + channel).toArray());
        if (!all.isEmpty()) region.chunk("LIST", list("lar2", little().chunk("art2", little().u32(8).u32(all.size()).bytes(blocks.toArray()).toArray())));
        return region;
    }

    private static byte[] sample(int root, double tuning, double gainDb, Optional<FrameRange> loop, boolean untilRelease) {
        ChunkBuilder out = little().u32(20).u16(root).u16((int) Math.rint(tuning) - DlsConnections.semitoneCents(tuning) & 0xFFFF)
                .u32((int) Math.rint(gainDb * DlsFormat.GAIN_STEPS)).u32(0)
                .u32(loop.isPresent() ? 1 : 0);
        loop.ifPresent(l -> out.u32(16).u32(untilRelease ? 1 : 0).u32(l.start()).u32(l.length()));
        return out.toArray();
    }

    private static byte[] waveHead(BankFormat.BankSound sound, int channel) {
        int bytes = sound.shape().depth().bytes();
        String side = sound.shape().channels() == 1 ? "" : channel == 0 ? " L" : " R";
        return little()
                .chunk("fmt ",
                        little().u16(1).u16(1).u32(sound.shape().rateHz()).u32((long) sound.shape().rateHz() * bytes).u16(bytes).u16(8 * bytes).toArray())
                .chunk("wsmp",
                        sample(sound.metadata().mapping().rootKey().orElse(60), 0, 0, sound.metadata().loops().stream().map(Loop::frames).findFirst(), false))
                .chunk("LIST", list("INFO", little().chunk("INAM", text(sound.name() + side)))).toArray();
    }

    private static long dataBytes(BankFormat.BankSound sound) { return sound.shape().frames() * (sound.shape().depth().bytes()); }

    private static long waveBytes(BankFormat.BankSound sound, int channel) {
        long data = dataBytes(sound);
        return 8 + 4 + waveHead(sound, channel).length + 8 + data + data % 2;
    }

    private void wave(int place, int channel) throws IOException {
        BankFormat.BankSound sound = sounds.get(place);
        long data = dataBytes(sound);
        out.write(little().id("LIST").u32(waveBytes(sound, channel) - 8).id("wave").bytes(waveHead(sound, channel)).id("data").u32(data).toArray());
        int bits = sound.shape().depth().bits();
        PcmPacker packer = new PcmPacker(
                new SampleEncoding(bits == 8 ? SampleEncoding.Kind.UNSIGNED : SampleEncoding.Kind.SIGNED, bits / 8, bits, ByteOrder.LITTLE_ENDIAN));
        byte[] packed = new byte[BLOCK * bits / 8];
        try (FrameSource source = feed.open(place)) {
            double[][] block = new double[source.channels()][BLOCK];
            for (int got; (got = source.read(block, 0, BLOCK)) > 0;) {
                packer.pack(new double[][]{block[channel]}, got, packed);
                out.write(packed, 0, got * bits / 8);
            }
        }
        if (data % 2 == 1) out.write(0);
    }

    private static ChunkBuilder info(About about) {
        ChunkBuilder info = little();
        DlsFormat.INFO.forEach((id, field) -> {
            if (!field.of(about).isEmpty()) info.chunk(id, text(field.of(about)));
        });
        return info;
    }

    private static byte[] text(String text) { return little().text(text, text.getBytes(StandardCharsets.UTF_8).length + 1).toArray(); }
}
