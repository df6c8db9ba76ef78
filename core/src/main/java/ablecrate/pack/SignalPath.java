package ablecrate.pack;

import ablecrate.audio.FrameSource;
import ablecrate.audio.PcmFileSource;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.RateConverters;
import ablecrate.plan.ChannelMix;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.math.BigInteger;

/// The way of the audio from source to output: channels → rate; depth is the writer's. Also what one hears as the result.
/// Made once for a run, as sounds share what their conversions have in common; safe for threads.
public final class SignalPath {
    /// More than the reach of any filter at rates that sounds have.
    private static final long LEAD_FRAMES = 8192;

    private final RateConverters converters = new RateConverters();

    public FrameSource open(SoundFile file, PlannedOutput output) throws IOException { return path(file, output, SoundFormats.of(file).open(file)); }

    /// The result from one of its frames on, for hearing: nothing before it is computed but what the converter's filter needs.
    public FrameSource openAt(SoundFile file, PlannedOutput output, long outputFrame) throws IOException {
        PcmFileSource source = SoundFormats.of(file).open(file);
        long divisor = BigInteger.valueOf(file.rateHz()).gcd(BigInteger.valueOf(output.shape().rateHz())).longValue();
        long inputStep = file.rateHz() / divisor, outputStep = output.shape().rateHz() / divisor;
        // Started at a whole number of steps, output frames fall on the same instants as from the beginning.
        long steps = Math.max(0, outputFrame / outputStep - LEAD_FRAMES / inputStep - 1);
        source.seek(Math.min(file.frames(), steps * inputStep));
        FrameSource path = path(file, output, source);
        double[][] skipped = new double[path.channels()][1024];
        for (long left = outputFrame - steps * outputStep; left > 0;) {
            int got = path.read(skipped, 0, (int) Math.min(left, skipped[0].length));
            if (got == 0) break;
            left -= got;
        }
        return path;
    }

    private FrameSource path(SoundFile file, PlannedOutput output, FrameSource source) {
        boolean isSame = output.mix().equals(ChannelMix.keep(file.channels()));
        // Channels first: fewer of them to convert, and both steps are linear.
        FrameSource mixed = isSame ? source : new ChannelMixer(source, output.mix().toArray());
        return converters.convert(mixed, output.shape().rateHz());
    }
}
