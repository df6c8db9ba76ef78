package ablecrate.library;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// A list of links to sounds: M3U, PLS, XSPF, ASX. It holds no sound itself.
/// @param there sounds on this machine
/// @param missing links to files that are not there
/// @param remote links to somewhere on a network
public record Playlist(List<Path> there, List<String> missing, List<String> remote) {
    private static final int MOST_BYTES = 4 << 20, MOST_LINKS = 10_000;
    private static final Pattern PLS = Pattern.compile("(?i)File\\d+=(.*)"), XML = Pattern.compile("(?is)<location>(.*?)</location>|<ref\\s+href=\"(.*?)\"");

    public Playlist {
        there = List.copyOf(there);
        missing = List.copyOf(missing);
        remote = List.copyOf(remote);
    }

    public static Playlist read(Path file) throws IOException {
        if (Files.size(file) > MOST_BYTES) throw new IOException("a playlist of more than 4 MB");
        byte[] bytes = Files.readAllBytes(file);
        String text = new String(bytes, StandardCharsets.UTF_8);
        if (text.indexOf('\uFFFD') >= 0) text = new String(bytes, java.nio.charset.Charset.forName("windows-1252"));
        List<Path> there = new ArrayList<>();
        List<String> missing = new ArrayList<>(), remote = new ArrayList<>();
        for (String link : links(text)) {
            if (link.matches("(?i)[a-z][a-z0-9+.-]+://.*") && !link.toLowerCase(Locale.ROOT).startsWith("file:")) {
                remote.add(link);
                continue;
            }
            try {
                Path path = file.resolveSibling(local(link)).normalize();
                if (Files.isRegularFile(path))
                    there.add(path.toAbsolutePath());
                else
                    missing.add(link);
            } catch (InvalidPathException e) {
                missing.add(link);
            }
        }
        return new Playlist(there.stream().distinct().toList(), missing, remote);
    }

    private static List<String> links(String text) {
        List<String> links = new ArrayList<>();
        Matcher xml = XML.matcher(text);
        if (text.stripLeading().startsWith("<"))
            while (xml.find() && links.size() < MOST_LINKS)
                links.add((xml.group(1) != null ? xml.group(1) : xml.group(2)).strip().replace("&amp;", "&"));
        else
            for (String line : text.lines().limit(MOST_LINKS).map(String::strip).toList()) {
                Matcher pls = PLS.matcher(line);
                if (pls.matches())
                    links.add(pls.group(1).strip());
                else
                    if (!line.isEmpty() && !line.startsWith("#") && !line.startsWith("[")
                            && !line.matches("(?i)(title|length)\\d+=.*|numberofentries=.*|version=.*"))
                        links.add(line.replace("\uFEFF", ""));
            }
        return links;
    }

    /// Both kinds of slashes part folders; a `file:` link is a path with its spaces coded.
    private static String local(String link) {
        String path = link.replaceFirst("(?i)^file:/*(?=[A-Za-z]:)", "").replaceFirst("(?i)^file://(localhost)?", "");
        if (!path.equals(link)) path = java.net.URLDecoder.decode(path.replace("+", "%2B"), StandardCharsets.UTF_8);
        return path.replace('\\', '/');
    }

    /// What it is, in one sentence.
    public String told() {
        int all = there.size() + missing.size() + remote.size();
        List<String> parts = new ArrayList<>();
        if (!there.isEmpty()) parts.add(there.size() + " on this machine, which can be gathered");
        if (!missing.isEmpty()) parts.add(missing.size() + " to files that are not there");
        if (!remote.isEmpty()) parts.add(remote.size() + " to other machines, from which nothing is fetched");
        return all == 0 ? "it has no links to sounds" : "it only points at sounds: " + all + (all == 1 ? " link, " : " links, ") + String.join(", ", parts);
    }
}
