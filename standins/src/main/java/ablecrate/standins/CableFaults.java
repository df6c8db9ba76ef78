package ablecrate.standins;

import java.io.ByteArrayOutputStream;
import java.util.Random;

/// What a bad cable does: loses, doubles and damages bytes.
/// @param share of messages, in either direction, that something happens to
/// @param most how many bytes of one
public record CableFaults(double share, int most, Random random) {
    public static final CableFaults NONE = new CableFaults(0, 0, new Random(0));

    byte[] through(byte[] message) {
        if (share == 0 || random.nextDouble() >= share) return message;
        byte[] now = message;
        for (int i = random.nextInt(most); i >= 0 && now.length > 0; i--)
            now = once(now, random.nextInt(now.length));
        return now;
    }

    private byte[] once(byte[] message, int at) {
        int kind = random.nextInt(3);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int i = 0; i < message.length; i++) {
            int value = message[i] & 0xFF;
            if (i != at)
                out.write(value);
            else
                if (kind == 1) {
                    out.write(value);
                    out.write(value);
                } else
                    if (kind == 2) out.write(value ^ 1 << random.nextInt(8));
        }
        return out.toByteArray();
    }
}
