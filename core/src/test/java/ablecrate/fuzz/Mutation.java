package ablecrate.fuzz;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Spoils files where it has consequences: lengths, counts and ids of chunks; words and numbers of texts; stretches cut, doubled, exchanged, or taken
/// from another file. The same seed spoils in the same way.
final class Mutation {
    private static final long[] EDGES = {0, 1, -1, 2, 3, 7, 127, 128, 255, 256, 4097, 32_767, 32_768, 65_535, 65_536, 1 << 24, 0x7FFF_FFF0L, 0x7FFF_FFFFL,
        0x8000_0000L, 0xFFFF_FFF0L, 0xFFFF_FFFFL};
    private static final String[] WORDS = {"0", "-1", "1e308", "-1e308", "NaN", "1e-320", "99999999999999999999", "2147483648", "0.0000001", "null", "\"\"",
        "[]", "{}", "true", "../../../..", "\\\\", "%00", "\u202E", "e\u0301", "\uD83E\uDD89", "$x", "#define $x $x$x", "#include \"x.sfz\"", "<region>",
        "<group>", "sample=", "*silence", "\u0000", "C#-1", "hikey=", "[[[[[[[[", "((((", "\n\n\n"};
    private static final Pattern TOKEN = Pattern.compile("[\\w.+-]+");

    private final Random random;
    private final List<byte[]> others;
    private byte[] bytes;

    private Mutation(byte[] whole, List<byte[]> others, long seed) {
        bytes = whole.clone();
        this.others = others;
        random = new Random(seed);
    }

    /// @param others that stretches may come from
    static byte[] of(byte[] whole, boolean isText, List<byte[]> others, long seed) {
        Mutation mutation = new Mutation(whole, others, seed);
        for (int n = 1 + mutation.random.nextInt(4); n > 0 && mutation.bytes.length > 0; n--)
            mutation.step(isText && mutation.random.nextInt(4) > 0);
        return mutation.bytes;
    }

    private void step(boolean isText) {
        if (isText) {
            token();
            return;
        }
        switch (random.nextInt(10)) {
            case 0, 1 -> flip();
            case 2, 3 -> number(place());
            case 4, 5 -> chunk();
            case 6 -> bytes = Arrays.copyOf(bytes, random.nextInt(bytes.length));
            case 7 -> stretch();
            case 8 -> splice();
            default -> tail();
        }
    }

    /// Headers are where damage has consequences; some files have theirs at the end.
    private int place() {
        int reach = random.nextBoolean() ? Math.min(bytes.length, 600) : bytes.length, start = random.nextInt(3) == 0 ? bytes.length - reach : 0;
        return start + random.nextInt(Math.max(1, reach));
    }

    private void flip() {
        for (int n = 1 + random.nextInt(4); n > 0; n--) {
            int at = place();
            bytes[at] = random.nextBoolean() ? (byte) random.nextInt(256) : (byte) (bytes[at] ^ 1 << random.nextInt(8));
        }
    }

    /// A number of one to eight bytes, in either order.
    private void number(int at) {
        int size = 1 << random.nextInt(4);
        boolean isBig = random.nextBoolean();
        long value = switch (random.nextInt(4)) {
            case 0 -> bytes.length + random.nextInt(33) - 16;
            case 1 -> random.nextLong();
            default -> EDGES[random.nextInt(EDGES.length)];
        };
        for (int i = 0; i < size && at + i < bytes.length; i++)
            bytes[at + i] = (byte) (value >> 8 * (isBig ? size - 1 - i : i));
    }

    /// One of the places that look like the id of a chunk or box: its id, its length, or all of it is changed.
    private void chunk() {
        List<Integer> ids = new ArrayList<>();
        for (int i = 0; i + 8 <= bytes.length && ids.size() < 4096; i++)
            if (isLetter(bytes[i]) && isLetter(bytes[i + 1]) && isLetter(bytes[i + 2]) && (isLetter(bytes[i + 3]) || bytes[i + 3] == ' ')) ids.add(i);
        if (ids.isEmpty()) {
            flip();
            return;
        }
        int at = ids.get(random.nextInt(ids.size())), other = ids.get(random.nextInt(ids.size()));
        switch (random.nextInt(5)) {
            case 0 -> number(at + 4);
            case 1 -> number(Math.max(0, at - 4));
            case 2 -> System.arraycopy(bytes, other, bytes, at, 4);
            case 3 -> insert(at, Arrays.copyOfRange(bytes, other, Math.min(bytes.length, other + 8 + random.nextInt(64))));
            default -> number(Math.min(bytes.length - 1, at + 8 + random.nextInt(40)));
        }
    }

    private static boolean isLetter(byte b) { return b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b == '_' || b >= '0' && b <= '9'; }

    private void stretch() {
        int from = place(), to = Math.min(bytes.length, from + 1 + random.nextInt(random.nextBoolean() ? 16 : 4096));
        byte[] part = Arrays.copyOfRange(bytes, from, to);
        switch (random.nextInt(4)) {
            case 0 -> bytes = join(Arrays.copyOf(bytes, from), Arrays.copyOfRange(bytes, to, bytes.length));
            case 1 -> insert(from, part);
            case 2 -> Arrays.fill(bytes, from, to, (byte) (random.nextBoolean() ? 0 : 0xFF));
            default -> System.arraycopy(part, 0, bytes, random.nextInt(bytes.length - part.length + 1), part.length);
        }
    }

    private void splice() {
        byte[] other = others.get(random.nextInt(others.size()));
        if (other.length == 0) return;
        int from = random.nextInt(other.length), to = Math.min(other.length, from + 1 + random.nextInt(2048));
        if (random.nextBoolean())
            insert(place(), Arrays.copyOfRange(other, from, to));
        else
            bytes = join(Arrays.copyOf(bytes, place()), Arrays.copyOfRange(other, from, other.length));
    }

    private void tail() {
        byte[] more = new byte[1 + random.nextInt(5000)];
        if (random.nextBoolean()) random.nextBytes(more);
        bytes = join(bytes, more);
    }

    private void insert(int at, byte[] part) { bytes = join(Arrays.copyOf(bytes, at), part, Arrays.copyOfRange(bytes, at, bytes.length)); }

    private static byte[] join(byte[]... parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (byte[] part : parts)
            out.writeBytes(part);
        return out.toByteArray();
    }

    /// A word or number is replaced, doubled, repeated many times, or a line taken out.
    private void token() {
        String text = new String(bytes, StandardCharsets.UTF_8);
        List<int[]> places = new ArrayList<>();
        for (Matcher m = TOKEN.matcher(text); places.size() < 20_000 && m.find();)
            places.add(new int[]{m.start(), m.end()});
        if (places.isEmpty()) {
            flip();
            return;
        }
        int[] place = places.get(random.nextInt(places.size())), other = places.get(random.nextInt(places.size()));
        String before = text.substring(0, place[0]), token = text.substring(place[0], place[1]), after = text.substring(place[1]);
        String word = WORDS[random.nextInt(WORDS.length)];
        String changed = switch (random.nextInt(7)) {
            case 0, 1 -> before + word + after;
            case 2 -> before + text.substring(other[0], other[1]) + after;
            case 3 -> before + token + word + after;
            case 4 -> before + (random.nextBoolean() ? word + " " : token + " ").repeat(1 + random.nextInt(3000)) + after;
            case 5 -> before + after.substring(Math.max(0, after.indexOf('\n')));
            default -> before + Long.toString(EDGES[random.nextInt(EDGES.length)]) + after;
        };
        bytes = changed.getBytes(StandardCharsets.UTF_8);
    }
}
