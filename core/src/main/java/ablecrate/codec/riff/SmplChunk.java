package ablecrate.codec.riff;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The `smpl` chunk: 36 bytes, little-endian, then the loops, then bytes of the sampler's maker.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | u32 | manufacturer | MIDI manufacturer; kept |
/// | 4 | u32 | product | kept |
/// | 8 | u32 | samplePeriodNs | 10⁹ / rate |
/// | 12 | u32 | unityNote | root key |
/// | 16 | u32 | pitchFraction | how far the sample sounds **above** that key, in 1/2³² semitone |
/// | 20 | u32 | smpteFormat | kept |
/// | 24 | u32 | smpteOffset | kept |
/// | 28 | u32 | loopCount | |
/// | 32 | u32 | samplerBytes | size of what follows the loops |
///
/// One loop, 24 bytes, repeated `loopCount` times:
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | u32 | cueId | ties the loop to the label of a cue point |
/// | 4 | u32 | mode | 0 forward, 1 alternating, 2 backward |
/// | 8 | u32 | start | first frame played |
/// | 12 | u32 | end | last frame played: **inclusive** on disk |
/// | 16 | u32 | fraction | fine tuning of the loop, 1/2³² frame |
/// | 20 | u32 | playCount | 0 = endless |
///
/// Source: Microsoft, *New Multimedia Data Types and Data Techniques*, rev. 3.0 (1994), `smpl` chunk.
///
/// Quirks of real files: a loop count that the chunk cannot hold; loops past the end or backwards; a second loop that
/// lies behind the first is the release loop (common practice, the chunk has no word for it).
record SmplChunk(long manufacturer, long product, long samplePeriodNs, long unityNote, long pitchFraction, long smpteFormat,
        long smpteOffset, List<Loop> loops, Bytes samplerData) {
    private static final double FRACTIONS_PER_CENT = 0x1p32 / 100;

    static final SmplChunk EMPTY = new SmplChunk(0, 0, 0, 60, 0, 0, 0, List.of(), Bytes.NONE);

    /// @param frames of the sound; loops that lie beyond are left out and told
    static SmplChunk read(ChunkReader in, long frames, List<Problem> problems) throws FormatException {
        long manufacturer = in.u32("manufacturer"), product = in.u32("product"), period = in.u32("samplePeriodNs");
        long note = in.u32("unityNote"), fraction = in.u32("pitchFraction");
        long smpteFormat = in.u32("smpteFormat"), smpteOffset = in.u32("smpteOffset");
        long loopCount = in.u32("loopCount");
        in.u32("samplerBytes");
        long held = Math.min(loopCount, in.remaining() / 24);
        if (held < loopCount) problems.add(Problem.mend("the chunk claims " + loopCount + " loops and holds " + held, in.place()));
        List<Loop> loops = new ArrayList<>();
        for (long i = 0; i < held; i++) {
            String place = in.place();
            long cueId = in.u32("cueId"), mode = in.u32("mode"), start = in.u32("start"), last = in.u32("end");
            long loopFraction = in.u32("fraction"), playCount = in.u32("playCount");
            if (start > last)
                problems.add(Problem.lost("loop " + (i + 1) + " runs backwards, from frame " + start + " to " + last + "; it is left out", place));
            else
                if (last >= frames)
                    problems.add(Problem.lost("loop " + (i + 1) + " ends at frame " + last + ", past the last frame " + (frames - 1)
                            + "; it is left out", place));
                else {
                    if (mode > 2) problems.add(Problem.mend("loop " + (i + 1) + " has the unknown mode " + mode + "; taken as forward", place));
                    // Only here and in toBytes() is the end inclusive; everywhere else ranges are half-open.
                    loops.add(new Loop(new FrameRange(start, last + 1), mode > 2 ? LoopMode.FORWARD : LoopMode.values()[(int) mode],
                            Loop.Use.SUSTAIN, playCount, loopFraction, cueId));
                }
        }
        return new SmplChunk(manufacturer, product, period, note, fraction, smpteFormat, smpteOffset, Loop.usedByPlace(loops),
                in.bytes(in.remaining(), "samplerData"));
    }

    /// What other formats have no place for.
    List<String> own() {
        List<String> own = new ArrayList<>();
        if (samplerData.size() > 0) own.add(samplerData.size() + " bytes of a sampler's own data");
        if (smpteFormat != 0 || smpteOffset != 0) own.add("an SMPTE offset");
        return own;
    }

    Optional<Integer> rootKey() {
        if (unityNote > 127) return Optional.empty();
        // More than half a semitone above a key is less than half below the next; 127 has no next.
        return Optional.of(sharpCents() > 50 && unityNote < 127 ? (int) unityNote + 1 : (int) unityNote);
    }

    /// The chunk says how the sample sounds, we say what the player does: the sign turns.
    double fineTuneCents() {
        double sharp = sharpCents();
        return sharp == 0 ? 0 : sharp > 50 && unityNote < 127 ? 100 - sharp : -sharp;
    }

    private double sharpCents() { return pitchFraction / FRACTIONS_PER_CENT; }

    /// This chunk saying other things; what is said already stays to the bit.
    SmplChunk with(Mapping mapping, List<Loop> newLoops, int rateHz) {
        long note = unityNote, fraction = pitchFraction;
        if (!mapping.rootKey().equals(rootKey()) || Math.abs(mapping.fineTuneCents() - fineTuneCents()) > 1e-7) {
            double sounds = mapping.rootKey().orElse(60) - mapping.fineTuneCents() / 100;
            note = Math.clamp((long) Math.floor(sounds), 0, 127);
            fraction = Math.clamp(Math.round((sounds - note) * 0x1p32), 0, 0xFFFF_FFFFL);
        }
        long exactPeriod = Math.round(1e9 / rateHz);
        long period = Math.abs(samplePeriodNs - exactPeriod) <= 1 ? samplePeriodNs : exactPeriod;
        return new SmplChunk(manufacturer, product, period, note, fraction, smpteFormat, smpteOffset, List.copyOf(newLoops), samplerData);
    }

    byte[] toBytes() {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u32(manufacturer).u32(product).u32(samplePeriodNs).u32(unityNote)
                .u32(pitchFraction).u32(smpteFormat).u32(smpteOffset).u32(loops.size()).u32(samplerData.size());
        for (Loop loop : loops)
            out.u32(loop.cueId()).u32(loop.mode().ordinal()).u32(loop.frames().start()).u32(loop.frames().end() - 1)
                    .u32(loop.tuningFraction()).u32(loop.playCount());
        return out.bytes(samplerData).toArray();
    }
}
