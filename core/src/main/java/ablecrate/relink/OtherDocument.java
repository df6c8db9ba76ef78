package ablecrate.relink;

import ablecrate.pack.Originals;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.StreamSupport;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipException;

/// The document of another program in which files are named: text of any kind, also compressed with gzip. Nothing of its format is known: names and paths are
/// found as bytes, in any of the ways to write them ([Spelling]), and all other bytes stay.
public final class OtherDocument {
    private static final int MOST_BYTES = 64 << 20;
    /// What ends a name in a text; a blank may be a part of one.
    private static final String BEFORE = "\"'>=,;:([|\t\r\n", AFTER = "\"'<,;:)]|\t\r\n&#?\\";
    private static final List<String> BEFORE_WORDS = List.of("&quot;", "&apos;", "&gt;", "file://", "file://localhost", "./", ".\\");

    /// A place where a file is named.
    /// @param line counted from 1
    /// @param before,after as they stand there; the same where it was left
    /// @param why it was left; empty where it was replaced
    public record Place(int line, String before, String after, Optional<String> why) {}

    /// It cannot be searched.
    public static final class RefusedException extends Exception {
        private static final long serialVersionUID = 1;

        RefusedException(String message) { super(message); }
    }

    private record Hit(int start, int end, String after, Optional<String> why) {}

    private final Path file;
    private final boolean isGzip;
    /// Each byte a character.
    private final String text;

    private OtherDocument(Path file, boolean isGzip, String text) {
        this.file = file.toAbsolutePath().normalize();
        this.isGzip = isGzip;
        this.text = text;
    }

    /// @throws RefusedException if it is no text, or too large; the message says which
    public static OtherDocument read(Path file) throws IOException, RefusedException {
        if (Files.size(file) > MOST_BYTES) throw new RefusedException("larger than any document of this kind");
        byte[] bytes = Files.readAllBytes(file);
        boolean isGzip = bytes.length > 2 && bytes[0] == 0x1F && bytes[1] == (byte) 0x8B;
        if (isGzip) bytes = unpacked(bytes);
        for (byte b : bytes)
            if (b == 0) throw new RefusedException("a binary document; names in it may have lengths and sums beside them, so it is left as it is");
        return new OtherDocument(file, isGzip, new String(bytes, StandardCharsets.ISO_8859_1));
    }

    private static byte[] unpacked(byte[] bytes) throws IOException, RefusedException {
        try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(bytes))) {
            byte[] out = in.readNBytes(MOST_BYTES + 1);
            if (out.length > MOST_BYTES) throw new RefusedException("compressed, and larger than any document of this kind once it is unpacked");
            return out;
        } catch (ZipException | java.io.EOFException e) {
            throw new RefusedException("compressed with gzip, but damaged: " + e.getMessage());
        }
    }

    /// Where files are named that were renamed, in the order of the document.
    public List<Place> places(Renames renames) { return hits(renames).stream().map(this::place).toList(); }

    private Place place(Hit hit) {
        int line = 1 + (int) text.substring(0, hit.start()).chars().filter(c -> c == '\n').count();
        return new Place(line, utf8(text.substring(hit.start(), hit.end())), utf8(hit.after()), hit.why());
    }

    private static String utf8(String bytes) { return new String(bytes.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8); }

    /// Puts the new names in; the document as it was goes to a dated folder beside it, from which [Originals] brings it back.
    /// @return what was replaced, and what was left
    public List<Place> relink(Renames renames, Instant now) throws IOException {
        List<Hit> hits = hits(renames);
        if (hits.stream().allMatch(h -> h.why().isPresent())) return hits.stream().map(this::place).toList();
        StringBuilder changed = new StringBuilder();
        int at = 0;
        for (Hit hit : hits) {
            changed.append(text, at, hit.start()).append(hit.after());
            at = hit.end();
        }
        byte[] bytes = changed.append(text.substring(at)).toString().getBytes(StandardCharsets.ISO_8859_1);
        if (isGzip) {
            ByteArrayOutputStream packed = new ByteArrayOutputStream();
            try (GZIPOutputStream out = new GZIPOutputStream(packed)) {
                out.write(bytes);
            }
            bytes = packed.toByteArray();
        }
        Originals.replace(file, bytes, now);
        return hits.stream().map(this::place).toList();
    }

    private List<Hit> hits(Renames renames) {
        Map<Integer, Hit> hits = new TreeMap<>();
        Map<String, List<Map.Entry<Path, Path>>> byName = renames.files().entrySet().stream().filter(e -> !e.getKey().equals(e.getValue()))
                .collect(Collectors.groupingBy(e -> e.getKey().getFileName().toString()));
        byName.forEach((name, files) -> {
            for (String spelt : Arrays.stream(Spelling.values()).map(s -> s.of(Spelling.bytes(name))).distinct().toList())
                for (int at = text.indexOf(spelt); at >= 0; at = text.indexOf(spelt, at + spelt.length())) {
                    Optional<Hit> hit = hit(files, name, at, at + spelt.length());
                    hit.ifPresent(h -> hits.merge(h.start(), h, (a, b) -> a.end() - a.start() >= b.end() - b.start() ? a : b));
                }
        });
        List<Hit> apart = new ArrayList<>();
        for (Hit hit : hits.values())
            if (apart.isEmpty() || hit.start() >= apart.getLast().end()) apart.add(hit);
        return apart;
    }

    /// What a name at this place means.
    private Optional<Hit> hit(List<Map.Entry<Path, Path>> files, String name, int start, int end) {
        if (end < text.length() && AFTER.indexOf(text.charAt(end)) < 0 && text.charAt(end) != ' ') return Optional.empty();
        // The spellings that write the name as it stands here; a name without special characters is the same in all.
        List<Spelling> spellings = Arrays.stream(Spelling.values()).filter(s -> text.startsWith(s.of(Spelling.bytes(name)), start)
                && s.of(Spelling.bytes(name)).length() == end - start).toList();
        List<Hit> whole = new ArrayList<>();
        for (Map.Entry<Path, Path> rename : files)
            for (Spelling spelling : spellings)
                for (String slash : Spelling.SLASHES) {
                    path(rename.getKey(), rename.getValue(), true, spelling, slash, start, end).ifPresent(whole::add);
                    path(rename.getKey(), rename.getValue(), false, spelling, slash, start, end).ifPresent(whole::add);
                }
        Optional<Hit> longest = whole.stream().min(Comparator.comparingInt(Hit::start));
        if (longest.isPresent()) return longest;
        boolean isInFolder = Spelling.SLASHES.stream().anyMatch(s -> text.startsWith(s, start - s.length()));
        if (!isInFolder && !isStart(start))
            return start > 0 && text.charAt(start - 1) == ' '
                    ? Optional
                            .of(new Hit(start, end, text.substring(start, end), Optional.of("a blank stands before it, so it may be the end of another name")))
                    : Optional.empty();
        List<String> news = files.stream().map(f -> f.getValue().getFileName().toString()).distinct().toList();
        boolean staysInFolder = files.stream().allMatch(f -> f.getKey().getParent().equals(f.getValue().getParent()));
        if (news.size() > 1)
            return Optional.of(new Hit(start, end, text.substring(start, end), Optional.of("several files of that name were converted, to different names")));
        if (isInFolder && !staysInFolder)
            return Optional.of(new Hit(start, end, text.substring(start, end), Optional.of("it lies in another folder than the one that was converted")));
        String after = spellings.getFirst().of(Spelling.bytes(news.getFirst()));
        return after.equals(text.substring(start, end)) ? Optional.empty() : Optional.of(new Hit(start, end, after, Optional.empty()));
    }

    private boolean isStart(int at) {
        return at == 0 || BEFORE.indexOf(text.charAt(at - 1)) >= 0 || BEFORE_WORDS.stream().anyMatch(w -> text.startsWith(w, at - w.length()));
    }

    /// The path, absolute or from the document's folder, where it ends at this place.
    private Optional<Hit> path(Path from, Path to, boolean isAbsolute, Spelling spelling, String slash, int start, int end) {
        Path base = file.getParent();
        String before = spelt(isAbsolute ? from : base.relativize(from), isAbsolute, spelling, slash);
        int at = end - before.length();
        if (before.length() <= end - start || at < 0 || !text.startsWith(before, at) || !isStart(at)) return Optional.empty();
        return Optional.of(new Hit(at, end, spelt(isAbsolute ? to : base.relativize(to), isAbsolute, spelling, slash), Optional.empty()));
    }

    private static String spelt(Path path, boolean isAbsolute, Spelling spelling, String slash) {
        String parts = StreamSupport.stream(path.spliterator(), false).map(p -> spelling.of(Spelling.bytes(p.toString()))).collect(Collectors.joining(slash));
        String root = isAbsolute ? path.getRoot().toString() : "";
        return (root.equals("/") ? slash : root.replace("\\", slash)) + parts;
    }
}
