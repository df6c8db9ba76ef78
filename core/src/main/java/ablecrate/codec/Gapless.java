package ablecrate.codec;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// The comment `iTunSMPB` of MPEG-4 and MP3 files: hexadecimal numbers, of which the second is the delay, the third the padding, the fourth the
/// length of the sound in frames. Common practice; from memory.
public record Gapless(long delayFrames, long paddingFrames, long frames) {
    public static final String NAME = "iTunSMPB";
    private static final Pattern NUMBERS = Pattern.compile(
            "\\s*\\p{XDigit}{8}\\s+(\\p{XDigit}{8})\\s+(\\p{XDigit}{8})\\s+(\\p{XDigit}{1,15}|0\\p{XDigit}{15})\\b.*",
            Pattern.DOTALL);

    public static Optional<Gapless> parse(String text) {
        Matcher m = NUMBERS.matcher(text);
        if (!m.matches()) return Optional.empty();
        return Optional.of(new Gapless(Long.parseLong(m.group(1), 16), Long.parseLong(m.group(2), 16), Long.parseLong(m.group(3), 16)));
    }
}
