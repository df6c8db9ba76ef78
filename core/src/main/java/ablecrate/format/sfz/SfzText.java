package ablecrate.format.sfz;

import ablecrate.format.PathsBeside;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// The text of an SFZ file as headers with opcodes: comments gone, `#include` followed, `#define` put in.
///
/// A value runs to the next opcode, header or line end, so it may hold spaces. Includes are followed inside the folder of the main file and the
/// two above it, where shared settings lie (common practice); others are told and left out, as are circles.
final class SfzText {
    /// Against files that include each other into the millions.
    private static final int MAX_DEPTH = 16, MAX_FILES = 500, MAX_BYTES = 16 << 20, MAX_HEADERS = 200_000, FOLDERS_ABOVE = 2;
    /// Of all texts that definitions were put into, and of a single one.
    private static final int MAX_EXPANDED = 64 << 20, MAX_VALUE = 1 << 16;
    private static final Pattern TOKEN = Pattern
            .compile("<([A-Za-z_]+)>|(?<![\\w$.])([A-Za-z_$][\\w$.]*)=|#include\\s+\"([^\"\n]*)\"|#define\\s+(\\$\\w+)[ \\t]+(\\S+)|\n");

    /// A header with the opcodes up to the next.
    /// @param line where it stands, for messages
    record Block(String header, Map<String, String> opcodes, String line) {}

    private final Path main, top;
    private final Map<String, String> defined = new TreeMap<>(Comparator.comparingInt(String::length).reversed().thenComparing(Comparator.naturalOrder()));
    private final List<Block> blocks = new ArrayList<>();
    private final List<Problem> problems = new ArrayList<>();
    private int files, expanded;

    SfzText(Path main) {
        this.main = main.toAbsolutePath().normalize();
        Path folder = this.main.getParent();
        for (int i = 0; i < FOLDERS_ABOVE && folder.getParent() != null; i++)
            folder = folder.getParent();
        top = folder;
    }

    List<Block> blocks() { return blocks; }

    List<Problem> problems() { return problems; }

    void read() throws IOException, FormatException { read(main, new ArrayDeque<>()); }

    private void read(Path file, Deque<Path> open) throws IOException, FormatException {
        if (Files.size(file) > MAX_BYTES)
            throw new FormatException("the text is " + (Files.size(file) >> 20) + " MB long", file.getFileName().toString(), "It is no SFZ file.");
        files++;
        open.push(file);
        String text = withoutComments(ChunkReader.text(Files.readAllBytes(file)).replace("\r\n", "\n").replace('\r', '\n'));
        Matcher token = TOKEN.matcher(text);
        int line = 1;
        for (int at = 0; token.find(at) && blocks.size() < MAX_HEADERS;) {
            at = token.end();
            String place = file.getFileName() + ", line " + line;
            if (token.group(1) != null)
                blocks.add(new Block(token.group(1).toLowerCase(Locale.ROOT), new LinkedHashMap<>(), place));
            else
                if (token.group(2) != null) {
                    int to = endOfValue(text, at);
                    opcode(replaced(token.group(2)), replaced(text.substring(at, to)).strip(), place);
                    at = to;
                } else
                    if (token.group(3) != null)
                        include(replaced(token.group(3)), open, place);
                    else
                        if (token.group(4) != null)
                            defined.put(token.group(4), replaced(token.group(5)));
                        else
                            line++;
        }
        open.pop();
    }

    /// Where a value ends that begins at `at`: before the blanks in front of the next opcode, a header or the line's end. Each character is looked at twice at
    /// most.
    private static int endOfValue(String text, int at) {
        int end = at;
        for (int i = at; i < text.length();) {
            char c = text.charAt(i);
            if (c == '\n' || c == '<' && isHeader(text, i)) break;
            if (!Character.isWhitespace(c)) {
                end = ++i;
                continue;
            }
            while (i < text.length() && text.charAt(i) != '\n' && Character.isWhitespace(text.charAt(i)))
                i++;
            int name = i;
            if (i < text.length() && (Character.isLetter(text.charAt(i)) || "_$".indexOf(text.charAt(i)) >= 0))
                while (name < text.length() && (Character.isLetterOrDigit(text.charAt(name)) || "_$.".indexOf(text.charAt(name)) >= 0))
                    name++;
            if (name > i && name < text.length() && text.charAt(name) == '=') break;
            if (name > i) end = i = name;
        }
        return end;
    }

    private static boolean isHeader(String text, int at) {
        int to = at + 1;
        while (to < text.length() && to - at < 64 && (Character.isLetter(text.charAt(to)) || text.charAt(to) == '_'))
            to++;
        return to > at + 1 && to < text.length() && text.charAt(to) == '>';
    }

    private void opcode(String name, String value, String place) {
        if (blocks.isEmpty()) {
            problems.add(Problem.note("'" + name + "' stands before any header and is left out", place));
            return;
        }
        blocks.getLast().opcodes().put(SfzOpcodes.canonical(name.toLowerCase(Locale.ROOT)), value);
    }

    private void include(String name, Deque<Path> open, String place) throws FormatException {
        Optional<Path> file = PathsBeside.resolve(main.getParent(), name).filter(p -> p.startsWith(top));
        if (file.isPresent() && Files.exists(file.get()) && !Files.isRegularFile(file.get()))
            problems.add(Problem.lost("the include '" + name + "' is no file and is left out", place));
        else
            if (file.isEmpty())
                problems.add(Problem.lost("the include '" + name + "' leads out of the instrument's folders and is left out", place));
            else
                if (open.contains(file.get()))
                    problems.add(Problem.note("the include '" + name + "' goes round in a circle and is left out", place));
                else
                    if (open.size() >= MAX_DEPTH || files >= MAX_FILES)
                        problems.add(Problem.lost("more than " + MAX_FILES + " includes, or deeper than " + MAX_DEPTH + "; '" + name + "' is left out", place));
                    else
                        try {
                            read(file.get(), open);
                        } catch (IOException e) {
                            problems.add(Problem.lost("the include '" + name + "' cannot be read; put it back beside the instrument", place));
                        }
    }

    /// @throws FormatException where definitions of definitions grow without end
    private String replaced(String text) throws FormatException {
        if (text.indexOf('$') < 0) return text;
        String out = text;
        for (Map.Entry<String, String> definition : defined.entrySet()) {
            out = out.replace(definition.getKey(), definition.getValue());
            if (out.length() > MAX_VALUE || (expanded += out.length()) > MAX_EXPANDED)
                throw new FormatException("definitions grow to more than " + (out.length() > MAX_VALUE ? MAX_VALUE : MAX_EXPANDED) + " characters", "#define",
                        "It is no SFZ file that anyone could play.");
        }
        return out;
    }

    /// Comments become blanks, so that lines keep their numbers.
    private static String withoutComments(String text) {
        StringBuilder out = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            boolean isLine = text.startsWith("//", i), isBlock = text.startsWith("/*", i);
            if (!isLine && !isBlock) {
                out.append(text.charAt(i));
                continue;
            }
            int end = text.indexOf(isLine ? "\n" : "*/", i + 2);
            int to = end < 0 ? text.length() : isLine ? end : end + 2;
            text.substring(i, to).chars().filter(c -> c == '\n').forEach(_ -> out.append('\n'));
            i = to - 1;
        }
        return out.toString();
    }
}
