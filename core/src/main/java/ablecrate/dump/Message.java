package ablecrate.dump;

import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader;
import ablecrate.codec.sds.DumpPacket;
import java.util.Optional;

/// What comes over the cable while sounds are dumped.
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard; the extensions from memory.
sealed interface Message {
    /// How the other side takes what was sent: F0 7E cc kind pp F7, pp the number of the packet.
    enum Kind {
        /// Got it, go on.
        ACK(0x7F),
        /// Damaged, send it again.
        NAK(0x7E),
        /// Stop.
        CANCEL(0x7D),
        /// Send nothing until told.
        WAIT(0x7C);

        private final int code;

        Kind(int code) { this.code = code; }
    }

    record Handshake(Kind kind, int packet) implements Message {
        byte[] bytes() { return new byte[]{(byte) 0xF0, 0x7E, 0, (byte) kind.code, (byte) (packet & 0x7F), (byte) 0xF7}; }
    }

    record Header(DumpHeader header) implements Message {}

    /// @param bytes the whole message
    record Packet(byte[] bytes) implements Message {
        int number() { return DumpPacket.number(bytes); }
    }

    record Further(DumpExtension extension) implements Message {}

    /// Anything else, and what is damaged.
    record Unknown() implements Message {}

    static Message of(byte[] bytes) {
        if (bytes.length == 6 && (bytes[0] & 0xFF) == 0xF0 && bytes[1] == 0x7E && (bytes[5] & 0xFF) == 0xF7)
            for (Kind kind : Kind.values())
                if (bytes[3] == kind.code) return new Handshake(kind, bytes[4]);
        if (DumpPacket.isPacket(bytes)) return new Packet(bytes);
        Optional<DumpHeader> header = DumpHeader.of(bytes);
        if (header.isPresent()) return new Header(header.get());
        return DumpExtension.of(bytes).<Message>map(Further::new).orElseGet(Unknown::new);
    }

    /// Asks for a sound: F0 7E cc 03 ss ss F7.
    static byte[] request(int sound) { return new byte[]{(byte) 0xF0, 0x7E, 0, 3, low(sound), high(sound), (byte) 0xF7}; }

    /// Asks for the name of a sound: F0 7E cc 05 04 ss ss F7.
    static byte[] nameRequest(int sound) { return new byte[]{(byte) 0xF0, 0x7E, 0, 5, 4, low(sound), high(sound), (byte) 0xF7}; }

    /// Asks for a loop of a sound: F0 7E cc 05 02 ss ss bb bb F7.
    static byte[] loopRequest(int sound, int loop) {
        return new byte[]{(byte) 0xF0, 0x7E, 0, 5, 2, low(sound), high(sound), low(loop), high(loop), (byte) 0xF7};
    }

    private static byte low(int value) { return (byte) (value & 0x7F); }

    private static byte high(int value) { return (byte) (value >> 7 & 0x7F); }
}
