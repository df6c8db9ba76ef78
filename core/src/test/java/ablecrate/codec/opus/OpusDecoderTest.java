package ablecrate.codec.opus;

import static org.assertj.core.api.Assertions.assertThat;

import io.github.jaredmdobson.concentus.OpusApplication;
import io.github.jaredmdobson.concentus.OpusEncoder;
import io.github.jaredmdobson.concentus.OpusMSDecoder;
import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class OpusDecoderTest {
    private static final int RATE = 48_000;

    /// Another implementation codes each stream, and decodes several of them in one packet; ours takes the streams apart itself. The other one works in
    /// integers.
    @ParameterizedTest @CsvSource({"1, 1, 960", "2, 0, 480", "3, 2, 960", "4, 4, 960", "5, 3, 480"}) void streamsOfOnePacketGoToTheirChannels(int streams,
            int coupled, int frames) throws Exception {
        int channels = streams + coupled;
        short[] mapping = new short[channels];
        for (int c = 0; c < channels; c++)
            mapping[c] = (short) c;
        OpusMSDecoder other = OpusMSDecoder.create(RATE, channels, streams, coupled, mapping);
        OpusDecoder ours = new OpusDecoder(streams, coupled);
        List<OpusEncoder> encoders = new ArrayList<>();
        for (int s = 0; s < streams; s++) {
            encoders.add(new OpusEncoder(RATE, s < coupled ? 2 : 1, OpusApplication.OPUS_APPLICATION_AUDIO));
            encoders.getLast().setBitrate(96_000);
        }
        short[] out = new short[frames * channels];
        double error = 0, signal = 0;
        for (int n = 0; n < 12; n++) {
            ByteArrayOutputStream joined = new ByteArrayOutputStream();
            for (int s = 0; s < streams; s++)
                join(encoders.get(s), s, s < coupled ? 2 : 1, n * frames, frames, s == streams - 1, joined);
            byte[] packet = joined.toByteArray();
            assertThat(other.decodeMultistream(packet, 0, packet.length, out, 0, frames, 0)).isEqualTo(frames);
            float[][] planes = ours.decode(packet);
            assertThat(planes).hasDimensions(channels, frames);
            for (int i = 0; i < frames; i++)
                for (int c = 0; c < channels; c++) {
                    double theirs = out[i * channels + c] / 32_768.0;
                    error += Math.pow(planes[c][i] - theirs, 2);
                    signal += theirs * theirs;
                }
        }
        assertThat(signal).isPositive();
        assertThat(10 * Math.log10(error / signal)).as("error against signal, dB").isLessThan(-65);
    }

    /// One frame of sines, a pitch of its own for each channel; all but the last stream say how long they are.
    private static void join(OpusEncoder encoder, int stream, int channels, int from, int frames, boolean isLast, ByteArrayOutputStream out) throws Exception {
        short[] in = new short[frames * channels];
        for (int i = 0; i < frames; i++)
            for (int c = 0; c < channels; c++)
                in[i * channels + c] = (short) (9000 * Math.sin(2 * Math.PI * (220 + 110 * (2 * stream + c)) * (from + i) / RATE));
        byte[] packet = new byte[1500];
        int bytes = encoder.encode(in, 0, frames, packet, 0, packet.length), length = bytes - 1;
        assertThat(packet[0] & 3).as("one frame").isZero();
        out.write(packet[0]);
        if (!isLast && length < 252)
            out.write(length);
        else
            if (!isLast) {
                out.write(252 + (length & 3));
                out.write(length - 252 >> 2);
            }
        out.write(packet, 1, length);
    }

    /// RFC 6716, section 3.2 and appendix B: the four ways of saying how many frames a packet has, worked by hand.
    @ParameterizedTest @ValueSource(strings = {"FC 02 AA BB | FC AA BB", "FD 01 AA BB | FD AA BB", "FE 01 02 AA BB CC | FE 01 AA BB CC",
        "FF 03 01 AA BB CC | FF 03 AA BB CC", "FF 82 01 02 AA BB CC | FF 82 01 AA BB CC",
        "FF 41 02 01 AA 00 00 | FF 41 02 AA 00 00"}) void aPacketThatDelimitsItselfIsTakenOut(
                String coded) {
        byte[] delimited = bytes(coded.split("\\|")[0]), plain = bytes(coded.split("\\|")[1]), behind = {(byte) 0xFC, 1, 2, 3};
        byte[] both = Arrays.copyOf(delimited, delimited.length + behind.length);
        System.arraycopy(behind, 0, both, delimited.length, behind.length);
        OpusPackets packets = new OpusPackets(both);
        assertThat(packets.delimited()).isEqualTo(plain);
        assertThat(packets.rest()).isEqualTo(behind);
    }

    @ParameterizedTest @ValueSource(strings = {"", "FC", "FC FC", "FC 05 AA", "FF", "FF 00 01", "FF 3F 01 AA", "FE FF FF 01",
        "FF 43 FF FF"}) void aPacketThatLiesAboutItselfGivesNothing(
                String coded) {
        assertThat(new OpusPackets(bytes(coded)).delimited()).isEmpty();
    }

    private static byte[] bytes(String hex) {
        String plain = hex.replace(" ", "");
        return java.util.HexFormat.of().parseHex(plain);
    }
}
