package ablecrate.play;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.file.Path;
import java.util.Map;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Receiver;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Soundbank;
import javax.sound.midi.Synthesizer;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;

/// The software synthesizer of the JDK: reads banks with its own readers, knows the articulators of DLS.
final class JdkSynthesizer {
    private JdkSynthesizer() {}

    /// One note of the first program, held for half of the time.
    /// @return left and right, without reverberation, chorus and automatic gain
    static double[][] render(Path file, int key, int velocity, int rateHz, int frames) throws Exception {
        Soundbank bank = MidiSystem.getSoundbank(file.toFile());
        try (Synthesizer synthesizer = MidiSystem.getSynthesizer()) {
            AudioFormat format = new AudioFormat(AudioFormat.Encoding.PCM_FLOAT, rateHz, 32, 2, 8, rateHz, false);
            // The interface that renders without a device is not among those for everyone.
            AudioInputStream stream = (AudioInputStream) synthesizer.getClass().getMethod("openStream", AudioFormat.class, Map.class).invoke(synthesizer,
                    format,
                    Map.of("load default soundbank", false, "reverb", false, "chorus", false, "auto gain control", false, "interpolation", "sinc"));
            synthesizer.loadAllInstruments(bank);
            Receiver receiver = synthesizer.getReceiver();
            receiver.send(new ShortMessage(ShortMessage.PROGRAM_CHANGE, 0, 0, 0), 0);
            receiver.send(new ShortMessage(ShortMessage.NOTE_ON, 0, key, velocity), 0);
            receiver.send(new ShortMessage(ShortMessage.NOTE_OFF, 0, key, 0), frames * 500_000L / rateHz);
            return planes(stream, frames);
        }
    }

    private static double[][] planes(AudioInputStream stream, int frames) throws IOException {
        FloatBuffer samples = ByteBuffer.wrap(stream.readNBytes(frames * 8)).order(ByteOrder.LITTLE_ENDIAN).asFloatBuffer();
        double[][] planes = new double[2][frames];
        for (int i = 0; i < frames; i++)
            for (int channel = 0; channel < 2; channel++)
                planes[channel][i] = samples.get(2 * i + channel);
        return planes;
    }
}
