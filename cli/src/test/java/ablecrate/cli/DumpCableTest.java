package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader;
import ablecrate.dump.Dump;
import ablecrate.dump.DumpReceiver;
import ablecrate.dump.DumpSender;
import ablecrate.dump.MidiCable;
import ablecrate.dump.Outcome;
import ablecrate.standins.CableFaults;
import ablecrate.standins.RackOnCable;
import ablecrate.standins.RackOnCable.Manner;
import ablecrate.standins.SimulatedCable;
import java.io.ByteArrayOutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Sender and receiver against the stand-in, which was written from its own description and shares no line with them.
class DumpCableTest {
    private static final int LENGTH = 4000;

    @TempDir Path folder;

    /// A dump put together from the standard's description.
    private static byte[] bytes(int number, int length, Random random) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 1, (byte) (number & 127), (byte) (number >> 7), 16, 0x14, 0x31, 1, (byte) (length & 127),
            (byte) (length >> 7 & 127), (byte) (length >> 14), 10, 0, 0, 90, 0, 0, 0, (byte) 0xF7});
        for (int packet = 0; packet * 40 < length; packet++) {
            byte[] data = new byte[127];
            data[0] = (byte) 0xF0;
            data[1] = 0x7E;
            data[3] = 2;
            data[4] = (byte) (packet & 127);
            for (int i = 0; i < 40; i++) {
                int word = random.nextInt(1 << 16);
                data[5 + 3 * i] = (byte) (word >> 9);
                data[6 + 3 * i] = (byte) (word >> 2 & 127);
                data[7 + 3 * i] = (byte) (word << 5 & 127);
            }
            int sum = 0;
            for (int i = 1; i < 125; i++)
                sum ^= data[i];
            data[125] = (byte) sum;
            data[126] = (byte) 0xF7;
            out.writeBytes(data);
        }
        return out.toByteArray();
    }

    private Dump dump(byte[] bytes) throws Exception { return Dump.read(Files.write(folder.resolve("LOWFIELD CLAP.sds"), bytes)); }

    private static MidiCable cable(RackOnCable device, CableFaults faults) { return Cables.simulated(new SimulatedCable(device, faults, 0)); }

    private static DumpSender.Sent send(MidiCable cable, Dump dump, boolean compares) throws Exception {
        return new DumpSender(cable, compares, _ -> {}, () -> false).send(List.of(dump), _ -> {}).getFirst();
    }

    /// Packets are numbered to 127 and from 0 again; these are 300. One second of 16-bit mono at 44.1 kHz takes 45 s at 31,250 bits a second.
    @ParameterizedTest @CsvSource({"0, CONFIRMED", "64, CONFIRMED"}) void aSoundArrivesBitForBit(int busyEvery, Outcome outcome) throws Exception {
        RackOnCable device = new RackOnCable(new Manner(true, true, busyEvery, 0));
        byte[] sound = bytes(300, 12_000, new Random(1));
        DumpSender.Sent sent = send(cable(device, CableFaults.NONE), dump(sound), false);
        assertThat(sent.outcome()).isEqualTo(outcome);
        assertThat(sent.again()).isZero();
        assertThat(device.dumps().get(300)).isEqualTo(sound);
        assertThat(device.nameOf(300)).isEqualTo("LOWFIELD CLAP");
        assertThat(dump(bytes(1, 44_100, new Random(1))).cableTime().toMillis() / 1e3).isBetween(44.0, 46.0);
    }

    /// Without handshake everything is sent, and nobody claims that it arrived; a device that gives back what it holds can be compared all the same.
    @Test void aDeviceThatDoesNotAnswerConfirmsNothing() throws Exception {
        byte[] sound = bytes(5, LENGTH, new Random(2));
        RackOnCable mute = new RackOnCable(new Manner(false, false, 0, 0));
        DumpSender.Sent sent = send(cable(mute, CableFaults.NONE), dump(sound), false);
        assertThat(sent.outcome()).isEqualTo(Outcome.UNCONFIRMED);
        assertThat(mute.dumps().get(5)).isEqualTo(sound);
        assertThat(send(cable(new RackOnCable(new Manner(false, false, 0, 0)), CableFaults.NONE), dump(sound), true).outcome()).isEqualTo(Outcome.COMPARED);
        assertThat(send(cable(new RackOnCable(new Manner(true, true, 0, 1)), CableFaults.NONE), dump(sound), false).outcome()).isEqualTo(Outcome.FAILED);
    }

    @Test void aDeviceThatGoesAwayIsToldWithWhatArrived() throws Exception {
        RackOnCable device = new RackOnCable(new Manner(true, true, 0, 50));
        List<DumpSender.Sent> sent = new ArrayList<>();
        new DumpSender(cable(device, CableFaults.NONE), false, _ -> {}, () -> false).send(
                List.of(dump(bytes(5, LENGTH, new Random(3))), dump(bytes(6, LENGTH, new Random(4)))), sent::add);
        assertThat(sent).extracting(DumpSender.Sent::outcome).containsExactly(Outcome.FAILED, Outcome.FAILED);
        assertThat(sent.getFirst().note()).contains("gone silent");
        assertThat(sent.getLast().note()).startsWith("not sent");
        assertThat(device.dumps()).isEmpty();
    }

    @Test void aFullMemoryIsToldAndTheRestGoesOn() throws Exception {
        RackOnCable device = new RackOnCable(Manner.USUAL);
        List<DumpSender.Sent> sent = new DumpSender(cable(device, CableFaults.NONE), false, _ -> {}, () -> false).send(
                List.of(dump(bytes(1, 2_000_000, new Random(5))), dump(bytes(2, 200_000, new Random(6))), dump(bytes(3, LENGTH, new Random(7)))), _ -> {});
        assertThat(sent).extracting(DumpSender.Sent::outcome).containsExactly(Outcome.CONFIRMED, Outcome.FAILED, Outcome.CONFIRMED);
        assertThat(sent.get(1).note()).contains("does not take it");
        assertThat(device.loaded().refusals()).anySatisfy(r -> assertThat(r.reason()).startsWith("memory full"));
    }

    @Test void stoppingCancelsAndLeavesNothingHalf() throws Exception {
        RackOnCable device = new RackOnCable(Manner.USUAL);
        int[] packets = {0};
        DumpSender.Sent sent = new DumpSender(cable(device, CableFaults.NONE), false, p -> packets[0] = p.packets().done(), () -> packets[0] >= 20)
                .send(List.of(dump(bytes(1, LENGTH, new Random(8)))), _ -> {}).getFirst();
        assertThat(sent.note()).startsWith("stopped; 20 of 100");
        assertThat(device.dumps()).isEmpty();
    }

    /// One byte lost, doubled or damaged in some messages of both directions.
    @Test void ofAThousandDumpsOverABadCableNothingWrongIsTakenForRight() throws Exception {
        Map<Outcome, Integer> outcomes = new EnumMap<>(Outcome.class);
        for (int i = 0; i < 1000; i++) {
            Random random = new Random(i);
            RackOnCable device = new RackOnCable(new Manner(true, i % 2 == 0, i % 3 == 0 ? 10 : 0, 0));
            byte[] sound = bytes(i, 40 * (3 + random.nextInt(30)), random);
            boolean compares = i % 4 == 0;
            CableFaults faults = new CableFaults(0.001 * (1 + random.nextInt(100)), compares ? 3 : 1, random);
            DumpSender.Sent sent = send(cable(device, faults), dump(sound), compares);
            outcomes.merge(sent.outcome(), 1, Integer::sum);
            if (sent.outcome() == Outcome.COMPARED || sent.outcome() == Outcome.CONFIRMED) assertThat(device.dumps().get(i)).as("dump " + i).isEqualTo(sound);
        }
        assertThat(outcomes.getOrDefault(Outcome.COMPARED, 0) + outcomes.getOrDefault(Outcome.CONFIRMED, 0)).as(outcomes.toString()).isGreaterThan(950);
    }

    @Test void soundsAreAskedForWithNameAndLoops() throws Exception {
        byte[] sound = bytes(7, LENGTH, new Random(9));
        RackOnCable device = new RackOnCable(Manner.USUAL);
        MidiCable cable = cable(device, CableFaults.NONE);
        Dump two = dump(sound);
        DumpExtension loop = new DumpExtension.FurtherLoop(7, 1, new DumpHeader.LoopPoints(100, 999, DumpHeader.LoopPoints.ALTERNATING));
        assertThat(send(cable, new Dump(two.name(), two.header(), two.packets(), List.of(loop)), false).note()).isEmpty();
        assertThat(device.furtherLoops(7)).isEqualTo(1);
        DumpReceiver receiver = new DumpReceiver(cable, _ -> {}, () -> false);
        Dump back = receiver.receive(7).dump().orElseThrow();
        Path file = folder.resolve("back.sds");
        back.write(file);
        assertThat(Files.readAllBytes(file)).startsWith(sound);
        assertThat(back.name()).isEqualTo("LOWFIELD CLAP");
        assertThat(Dump.read(file).more()).containsExactly(loop, new DumpExtension.Name(7, "LOWFIELD CLAP"));
        assertThat(receiver.receive(8).note()).contains("does not send sound 8");
    }

    @Test void ofAThousandSoundsAskedForOverABadCableNothingWrongIsTakenForRight() throws Exception {
        int whole = 0;
        for (int i = 0; i < 1000; i++) {
            Random random = new Random(i);
            byte[] sound = bytes(3, 40 * (3 + random.nextInt(30)), random);
            RackOnCable device = new RackOnCable(new Manner(true, i % 2 == 0, 0, 0));
            assertThat(send(cable(device, CableFaults.NONE), dump(sound), false).outcome()).isEqualTo(Outcome.CONFIRMED);
            MidiCable bad = cable(device, new CableFaults(0.001 * (1 + random.nextInt(100)), 1, random));
            Optional<Dump> back = new DumpReceiver(bad, _ -> {}, () -> false).receive(3).dump();
            if (back.isEmpty()) continue;
            whole++;
            ByteArrayOutputStream all = new ByteArrayOutputStream();
            all.writeBytes(back.get().header().bytes());
            back.get().packets().forEach(all::writeBytes);
            assertThat(all.toByteArray()).as("dump " + i).isEqualTo(sound);
        }
        assertThat(whole).isGreaterThan(950);
    }

    /// A device that sends to the end what it once began is asked once for a header, and never again.
    @Test void aDeviceThatDoesNotStopIsReadAllTheSame() throws Exception {
        byte[] sound = bytes(4, LENGTH, new Random(10));
        MidiCable cable = cable(new RackOnCable(new Manner(true, false, 0, 0, false)), CableFaults.NONE);
        assertThat(send(cable, dump(sound), false).outcome()).isEqualTo(Outcome.ACKNOWLEDGED);
        DumpReceiver.Received received = new DumpReceiver(cable, _ -> {}, () -> false).receive(4);
        assertThat(received.outcome()).isEqualTo(Outcome.ACKNOWLEDGED);
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        received.dump().orElseThrow().packets().forEach(all::writeBytes);
        assertThat(all.toByteArray()).isEqualTo(Arrays.copyOfRange(sound, DumpHeader.BYTES, sound.length));
    }

    /// What a device is made to send from its own panel.
    @Test void nothingComesWhereNobodySends() throws Exception {
        MidiCable cable = cable(new RackOnCable(Manner.USUAL), CableFaults.NONE);
        assertThat(new DumpReceiver(cable, _ -> {}, () -> false).next(Duration.ofSeconds(60))).isEmpty();
        assertThat(cable.time()).isEqualTo(Duration.ofSeconds(60));
    }
}
