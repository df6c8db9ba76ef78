package ablecrate.dump;

import ablecrate.codec.FormatException;
import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader;
import ablecrate.codec.sds.DumpPacket;
import ablecrate.disk.SafeFile;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/// A sound as messages.
/// @param name for people
/// @param packets as many as the header says, in order
/// @param more further loops and the name, if any are known
public record Dump(String name, DumpHeader header, List<byte[]> packets, List<DumpExtension> more) {
    private static final long MOST_FILE_BYTES = 1 << 24;

    public Dump {
        packets = List.copyOf(packets);
        more = List.copyOf(more);
        if (packets.size() != header.packets()) throw new IllegalArgumentException(packets.size() + " packets of " + header.packets());
    }

    /// @throws FormatException if it is no dump, or not a whole one: nothing damaged is sent
    public static Dump read(Path file) throws IOException, FormatException {
        String again = "Get it again, or pack it again.";
        if (Files.size(file) > MOST_FILE_BYTES) throw new FormatException("longer than a dump can be", "", again);
        byte[] all = Files.readAllBytes(file);
        DumpHeader header = DumpHeader.of(Arrays.copyOf(all, Math.min(all.length, DumpHeader.BYTES)))
                .orElseThrow(() -> new FormatException("no dump header", "", again));
        List<byte[]> packets = new ArrayList<>();
        int at = DumpHeader.BYTES;
        for (; packets.size() < header.packets(); at += DumpPacket.BYTES) {
            byte[] packet = Arrays.copyOfRange(all, Math.min(at, all.length), Math.min(all.length, at + DumpPacket.BYTES));
            if (!DumpPacket.isPacket(packet) || !DumpPacket.isWhole(packet))
                throw new FormatException("packet " + packets.size() + " of " + header.packets() + " is missing or damaged", "byte " + at, again);
            packets.add(packet);
        }
        String name = file.getFileName().toString().replaceFirst("\\.[^.]+$", "");
        return new Dump(name, header, packets, DumpExtension.all(Arrays.copyOfRange(all, at, all.length)));
    }

    public int number() { return header.number(); }

    /// With another number, in what is said of it as well.
    public Dump numbered(int number) { return new Dump(name, header.numbered(number), packets, more.stream().map(m -> m.numbered(number)).toList()); }

    /// What the cable takes for it one way, without handshake.
    public Duration cableTime() { return MidiCable.timeOf(DumpHeader.BYTES + (long) packets.size() * DumpPacket.BYTES); }

    /// As a file.
    public void write(Path file) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        all.writeBytes(header.bytes());
        packets.forEach(all::writeBytes);
        more.forEach(m -> all.writeBytes(m.bytes()));
        SafeFile.write(file, all.toByteArray());
    }
}
