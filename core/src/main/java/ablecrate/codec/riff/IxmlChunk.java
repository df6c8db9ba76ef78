package ablecrate.codec.riff;

import ablecrate.codec.Bytes;
import ablecrate.codec.OutputShape;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// `iXML`: notes of the production (project, scene, take, tracks) as XML, in WAV and its kin. All of it goes along; only what it says of rate, depth and
/// positions in frames is put right, in place, so that all else stays as it was to the byte.
///
/// Source: *iXML Specification* (ixml.info), `SPEED` and `BEXT`; from memory.
final class IxmlChunk {
    private static final List<String> RATES = List.of("FILE_SAMPLE_RATE", "TIMESTAMP_SAMPLE_RATE");
    /// Positions of 64 bits in two halves: names of the upper and the lower one.
    private static final List<List<String>> POSITIONS = List.of(
            List.of("TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI", "TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO"),
            List.of("BWF_TIME_REFERENCE_HIGH", "BWF_TIME_REFERENCE_LOW"));

    private IxmlChunk() {}

    /// @param timeReference of the result, in its frames since midnight, where broadcast data tell it
    static Bytes adapted(Bytes source, OutputShape shape, Optional<Long> timeReference) {
        // Byte by byte: the names are ASCII in every encoding that is used.
        String xml = new String(source.toArray(), StandardCharsets.ISO_8859_1);
        Optional<Long> rate = number(xml, RATES.getLast()).or(() -> number(xml, RATES.getFirst())).filter(r -> r > 0);
        String out = xml;
        for (List<String> names : POSITIONS) {
            if (number(xml, names.getLast()).isEmpty()) continue;
            long before = position(xml, names);
            long after = timeReference.orElseGet(() -> rate.map(r -> Math.round((double) before * shape.rateHz() / r)).orElse(before));
            out = with(with(out, names.getFirst(), after >>> 32), names.getLast(), after & 0xFFFF_FFFFL);
        }
        for (String name : RATES)
            out = with(out, name, shape.rateHz());
        return Bytes.of(with(out, "AUDIO_BIT_DEPTH", shape.depth().bits()).getBytes(StandardCharsets.ISO_8859_1));
    }

    /// @param frames by which the sound starts later, at the rate of its file
    static Bytes later(Bytes source, long frames) {
        String xml = new String(source.toArray(), StandardCharsets.ISO_8859_1);
        double ratio = number(xml, RATES.getFirst()).filter(r -> r > 0).flatMap(file -> number(xml, RATES.getLast()).map(stamp -> (double) stamp / file))
                .orElse(1.0);
        String out = xml;
        for (List<String> names : POSITIONS) {
            if (number(xml, names.getLast()).isEmpty()) continue;
            long later = position(xml, names) + Math.round(frames * ratio);
            out = with(with(out, names.getFirst(), later >>> 32), names.getLast(), later & 0xFFFF_FFFFL);
        }
        return Bytes.of(out.getBytes(StandardCharsets.ISO_8859_1));
    }

    private static long position(String xml, List<String> names) {
        return number(xml, names.getFirst()).orElse(0L) << 32 | number(xml, names.getLast()).orElse(0L) & 0xFFFF_FFFFL;
    }

    private static Pattern element(String name) { return Pattern.compile("(<" + name + ">\\s*)(\\d{1,12})(\\s*</" + name + ">)"); }

    private static Optional<Long> number(String xml, String name) {
        Matcher found = element(name).matcher(xml);
        return found.find() ? Optional.of(Long.parseLong(found.group(2))) : Optional.empty();
    }

    private static String with(String xml, String name, long value) { return element(name).matcher(xml).replaceAll("$1" + value + "$3"); }
}
