package ablecrate.codec.aac;

import ablecrate.codec.BitReader;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/// One of the Huffman codes of AAC. Immutable, safe for threads.
///
/// Book 1 and 2 stand for four values each from −1 to 1, 3 and 4 for four amounts up to 2, 5 and 6 for two values from −4 to 4, 7 to 11 for two
/// amounts up to 7, 12 or 16; signs follow amounts that are not 0.
///
/// Source: ISO/IEC 14496-3:2009, section 4.6.3 and tables 4.A.1 to 4.A.12, which `codebooks.txt` holds.
final class Codebook {
    /// What the books 1 to 11 stand for; an amount of 16 in the last one may be more.
    private static final int[] LARGEST = {0, 1, 1, 2, 2, 4, 4, 7, 7, 12, 12, 16};
    /// Words up to this length are found at once, those that are longer bit by bit.
    private static final int QUICK_BITS = 9;
    private static final List<Codebook> ALL = read();

    /// Differences of scale factors, 60 for none.
    static final Codebook SCALE_FACTORS = ALL.getFirst();

    /// `[next bits]`: length << 16 | symbol; 0 for longer words.
    private final int[] quick = new int[1 << QUICK_BITS];
    /// `[length]`: the first word that is longer, as if it were of this length; where the words of this length begin among the symbols, less the first of them.
    private final int[] end, offset;
    private final int[] symbols;
    /// `[symbol][place]`; empty for scale factors.
    private final byte[][] values;

    /// @param number 1…11
    static Codebook of(int number) { return ALL.get(number); }

    private Codebook(int number, List<int[]> lines) {
        int longest = lines.getLast()[0], code = 0, place = 0;
        end = new int[longest + 1];
        offset = new int[longest + 1];
        symbols = new int[lines.stream().mapToInt(l -> l.length - 1).sum()];
        int line = 0;
        for (int length = 1; length <= longest; length++) {
            code <<= 1;
            offset[length] = place - code;
            if (lines.get(line)[0] == length) {
                int[] words = lines.get(line++);
                for (int i = 1; i < words.length; i++, code++) {
                    symbols[place++] = words[i];
                    for (int rest = 0; length <= QUICK_BITS && rest < 1 << QUICK_BITS - length; rest++)
                        quick[(code << QUICK_BITS - length) + rest] = length << 16 | words[i];
                }
            }
            end[length] = code;
        }
        values = number == 0 ? new byte[0][] : values(number, symbols.length);
    }

    private static byte[][] values(int number, int symbols) {
        int largest = LARGEST[number], base = isSigned(number) ? 2 * largest + 1 : largest + 1, lowest = isSigned(number) ? -largest : 0;
        byte[][] values = new byte[symbols][number <= 4 ? 4 : 2];
        for (int symbol = 0; symbol < symbols; symbol++)
            for (int place = values[symbol].length - 1, rest = symbol; place >= 0; place--, rest /= base)
                values[symbol][place] = (byte) (rest % base + lowest);
        return values;
    }

    static boolean isSigned(int number) { return number <= 2 || number == 5 || number == 6; }

    int symbol(BitReader in) {
        int found = quick[in.peek(QUICK_BITS)];
        if (found != 0) {
            in.skip(found >> 16);
            return found & 0xFFFF;
        }
        // The codes are complete: what is longer than the short ones ends at the longest at last.
        int length = QUICK_BITS + 1;
        while (in.peek(length) >= end[length])
            length++;
        return symbols[offset[length] + in.bits(length)];
    }

    /// Four or two values, not to be changed.
    byte[] values(BitReader in) { return values[symbol(in)]; }

    private static List<Codebook> read() {
        List<Codebook> books = new ArrayList<>();
        List<int[]> lines = new ArrayList<>();
        try (InputStream raw = Codebook.class.getResourceAsStream("codebooks.txt");
                BufferedReader in = new BufferedReader(new InputStreamReader(raw, StandardCharsets.US_ASCII))) {
            for (String line; (line = in.readLine()) != null;) {
                if (line.startsWith("book") && !lines.isEmpty()) {
                    books.add(new Codebook(books.size(), lines));
                    lines = new ArrayList<>();
                }
                if (Character.isDigit(line.charAt(0))) {
                    String[] numbers = line.split(":? ");
                    int[] parsed = new int[numbers.length];
                    for (int i = 0; i < numbers.length; i++)
                        parsed[i] = Integer.parseInt(numbers[i]);
                    lines.add(parsed);
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        books.add(new Codebook(books.size(), lines));
        return books;
    }
}
