package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// One of the Huffman codes of layer III: for pairs of amounts up to 15, of which the largest may go on in further bits, or for four amounts up to 1.
/// Immutable, safe for threads.
///
/// Source: ISO/IEC 11172-3:1993, table B.7, which `codebooks.txt` holds.
final class Codebook {
    /// Words up to this length are found at once, longer ones in a second table.
    private static final int QUICK_BITS = 8;
    private static final int TABLES = 34, FIRST_OF_FOUR = 32;
    /// Further bits of the tables 16 to 31, which share two sets of words.
    private static final int[] MORE_BITS = {1, 2, 3, 4, 6, 8, 10, 13, 4, 5, 6, 7, 8, 9, 11, 13};
    private static final Codebook[] ALL = read();

    /// `[next bits]`: length << 8 | symbol. Of longer words, less than 0: where their table begins << 5 | how many bits it goes by.
    private final int[] table;
    private final int moreBits;

    private Codebook(int[] table, int moreBits) {
        this.table = table;
        this.moreBits = moreBits;
    }

    /// @param number 1…31 without 4 and 14, which there are none of
    static boolean exists(int number) { return ALL[number] != null; }

    /// For pairs.
    static Codebook of(int number) { return ALL[number]; }

    /// For four amounts, of which the first is the highest bit.
    /// @param number 0 or 1
    static Codebook ofFour(int number) { return ALL[FIRST_OF_FOUR + number]; }

    /// Bits by which an amount of 15 goes on.
    int moreBits() { return moreBits; }

    /// @return x << 4 | y of a pair
    int symbol(BitReader in) {
        int found = table[in.peek(QUICK_BITS)];
        if (found < 0) {
            in.skip(QUICK_BITS);
            found = table[(-found >> 5) + in.peek(-found & 31)];
        }
        in.skip(found >> 8);
        return found & 0xFF;
    }

    private record Word(String bits, int symbol) {}

    private static Codebook of(List<Word> words, int moreBits) {
        int[] table = new int[1 << QUICK_BITS];
        Map<String, List<Word>> longer = new TreeMap<>();
        for (Word word : words)
            if (word.bits.length() <= QUICK_BITS)
                put(table, 0, QUICK_BITS, word);
            else
                longer.computeIfAbsent(word.bits.substring(0, QUICK_BITS), _ -> new ArrayList<>())
                        .add(new Word(word.bits.substring(QUICK_BITS), word.symbol));
        for (Map.Entry<String, List<Word>> rest : longer.entrySet()) {
            int bits = rest.getValue().stream().mapToInt(w -> w.bits.length()).max().orElseThrow(), at = table.length;
            table = Arrays.copyOf(table, at + (1 << bits));
            table[Integer.parseInt(rest.getKey(), 2)] = -(at << 5 | bits);
            for (Word word : rest.getValue())
                put(table, at, bits, word);
        }
        return new Codebook(table, moreBits);
    }

    private static void put(int[] table, int at, int bits, Word word) {
        int free = bits - word.bits.length(), first = at + (Integer.parseInt(word.bits, 2) << free);
        Arrays.fill(table, first, first + (1 << free), word.bits.length() << 8 | word.symbol);
    }

    private static Codebook[] read() {
        Codebook[] books = new Codebook[TABLES];
        List<Word> words = new ArrayList<>();
        int number = 0, row = 0;
        try (InputStream raw = Codebook.class.getResourceAsStream("codebooks.txt");
                BufferedReader in = new BufferedReader(new InputStreamReader(raw, StandardCharsets.US_ASCII))) {
            for (String line; (line = in.readLine()) != null;) {
                if (line.startsWith("#")) continue;
                if (line.startsWith("table")) {
                    if (number > 0) books[number] = of(words, number < 16 || number >= FIRST_OF_FOUR ? 0 : MORE_BITS[number - 16]);
                    number = Integer.parseInt(line.substring("table ".length()));
                    words.clear();
                    row = 0;
                } else {
                    String[] bits = line.split(" ");
                    for (int y = 0; y < bits.length; y++)
                        words.add(new Word(bits[y], row << 4 | y));
                    row++;
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        books[number] = of(words, 0);
        for (int i = 16; i < FIRST_OF_FOUR; i++)
            books[i] = new Codebook(books[i < 24 ? 16 : 24].table, MORE_BITS[i - 16]);
        return books;
    }
}
