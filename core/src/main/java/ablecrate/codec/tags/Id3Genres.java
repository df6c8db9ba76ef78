package ablecrate.codec.tags;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Names of the genres that ID3v1 numbers, and that ID3v2 may still tell by number: `(17)`, `(4)Eurodisco`, `17`.
///
/// Source: M. Nilsson, *ID3 tag version 2.3.0* (1999), section 4.2.1 (TCON) and appendix A.3 (from memory).
final class Id3Genres {
    private static final List<String> NAMES = List.of("Blues", "Classic Rock", "Country", "Dance", "Disco", "Funk", "Grunge", "Hip-Hop", "Jazz", "Metal",
            "New Age", "Oldies", "Other", "Pop", "R&B", "Rap", "Reggae", "Rock", "Techno", "Industrial", "Alternative", "Ska", "Death Metal", "Pranks",
            "Soundtrack", "Euro-Techno", "Ambient", "Trip-Hop", "Vocal", "Jazz+Funk", "Fusion", "Trance", "Classical", "Instrumental", "Acid", "House", "Game",
            "Sound Clip", "Gospel", "Noise", "AlternRock", "Bass", "Soul", "Punk", "Space", "Meditative", "Instrumental Pop", "Instrumental Rock", "Ethnic",
            "Gothic", "Darkwave", "Techno-Industrial", "Electronic", "Pop-Folk", "Eurodance", "Dream", "Southern Rock", "Comedy", "Cult", "Gangsta", "Top 40",
            "Christian Rap", "Pop/Funk", "Jungle", "Native American", "Cabaret", "New Wave", "Psychadelic", "Rave", "Showtunes", "Trailer", "Lo-Fi", "Tribal",
            "Acid Punk", "Acid Jazz", "Polka", "Retro", "Musical", "Rock & Roll", "Hard Rock");
    private static final Pattern NUMBERED = Pattern.compile("\\((\\d{1,3})\\)(.*)|(\\d{1,3})");

    private Id3Genres() {}

    /// @return empty where the number has no name
    static String named(int number) { return number < NAMES.size() ? NAMES.get(number) : ""; }

    /// What the user reads: the refinement behind a number, or the number's name, or the text as it stands.
    static String read(String text) {
        Matcher m = NUMBERED.matcher(text);
        if (!m.matches()) return text;
        String refinement = m.group(2) == null ? "" : m.group(2).strip(), name = named(Integer.parseInt(m.group(1) == null ? m.group(3) : m.group(1)));
        return !refinement.isEmpty() && !refinement.startsWith("(") ? refinement : name.isEmpty() ? text : name;
    }
}
