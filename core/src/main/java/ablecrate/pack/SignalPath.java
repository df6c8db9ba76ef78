package ablecrate.pack;

import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.RateConverter;
import ablecrate.plan.ChannelMix;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;

/// The way of the audio from source to output: channels → rate; depth is the writer's. Also what one hears as the result.
public final class SignalPath {
    private SignalPath() {}

    public static FrameSource open(SoundFile file, PlannedOutput output) throws IOException {
        FrameSource source = SoundFormats.of(file).open(file);
        boolean isSame = output.mix().equals(ChannelMix.keep(file.channels()));
        // Channels first: fewer of them to convert, and both steps are linear.
        FrameSource mixed = isSame ? source : new ChannelMixer(source, output.mix().toArray());
        return RateConverter.to(output.shape().rateHz(), mixed);
    }
}
