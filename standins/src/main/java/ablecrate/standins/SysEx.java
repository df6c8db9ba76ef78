package ablecrate.standins;

import java.io.ByteArrayOutputStream;
import java.util.Optional;

/// Makes messages of the bytes of a MIDI cable: system exclusive ones, F0 to F7. One that does not end is forgotten with the next that begins.
final class SysEx {
    private static final int MOST = 1 << 12;

    private final ByteArrayOutputStream message = new ByteArrayOutputStream();

    Optional<byte[]> take(byte next) {
        int value = next & 0xFF;
        // Clocks and the like may stand anywhere.
        if (value >= 0xF8) return Optional.empty();
        if (value >= 0x80 && value != 0xF7) message.reset();
        if (value == 0xF0 || message.size() > 0 && message.size() < MOST) message.write(next);
        if (value != 0xF7 || message.size() == 0) return Optional.empty();
        byte[] whole = message.toByteArray();
        message.reset();
        return Optional.of(whole);
    }
}
