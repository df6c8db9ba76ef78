package ablecrate.sidecar;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// What a long sound is made of as a cue sheet: a text with a track for each, its start in minutes, seconds and steps of 1/75 s. It holds 99 tracks.
///
/// Source: common practice; written from memory.
public record CueSheet(Contents contents) implements Sidecar {
    public static final int MOST_TRACKS = 99;
    private static final int STEPS_A_SECOND = 75, SECONDS_A_MINUTE = 60;
    private static final Pattern TITLE = Pattern.compile("    TITLE \"(.*)\""), INDEX = Pattern.compile("    INDEX 01 (\\d+):(\\d\\d):(\\d\\d)");

    public CueSheet {
        if (contents.entries().size() > MOST_TRACKS) throw new IllegalArgumentException(contents.entries().size() + " tracks");
    }

    @Override public String id() { return "cue"; }

    @Override public String label() { return "cue sheet"; }

    @Override public String extension() { return "cue"; }

    @Override public int entries() { return contents.entries().size(); }

    @Override public String noun() { return "sound"; }

    @Override public byte[] bytes(List<String> sounds) {
        StringBuilder out = new StringBuilder();
        out.append("TITLE ").append(quoted(contents.title())).append("\r\nFILE ").append(quoted(sounds.getFirst())).append(' ').append(type(sounds.getFirst()))
                .append("\r\n");
        for (int i = 0; i < entries(); i++) {
            Contents.Entry e = contents.entries().get(i);
            long step = Math.round(contents.seconds(e.startFrame()) * STEPS_A_SECOND), second = step / STEPS_A_SECOND;
            out.append(String.format(Locale.ROOT, "  TRACK %02d AUDIO\r\n    TITLE %s\r\n    INDEX 01 %02d:%02d:%02d\r\n", i + 1, quoted(e.name()),
                    second / SECONDS_A_MINUTE, second % SECONDS_A_MINUTE, step % STEPS_A_SECOND));
        }
        return out.toString().getBytes(StandardCharsets.UTF_8);
    }

    /// There is no way to write a quotation mark in quotation marks.
    private static String quoted(String text) { return '"' + text.replace('"', '\'').replaceAll("\\p{Cntrl}", " ") + '"'; }

    private static String type(String file) {
        return switch (file.substring(file.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT)) {
            case "mp3" -> "MP3";
            case "aif", "aiff", "aifc" -> "AIFF";
            default -> "WAVE";
        };
    }

    @Override public Found found(byte[] written) {
        List<String> titles = new ArrayList<>();
        List<Double> starts = new ArrayList<>();
        for (String line : new String(written, StandardCharsets.UTF_8).split("\r\n")) {
            Matcher title = TITLE.matcher(line), index = INDEX.matcher(line);
            if (title.matches()) titles.add('"' + title.group(1) + '"');
            if (index.matches())
                starts.add(Integer.parseInt(index.group(1)) * SECONDS_A_MINUTE + Integer.parseInt(index.group(2))
                        + Integer.parseInt(index.group(3)) / (double) STEPS_A_SECOND);
        }
        if (!titles.equals(contents.entries().stream().map(e -> quoted(e.name())).toList()) || starts.size() != titles.size())
            return new Found(false, titles.size() + " tracks: " + String.join(", ", titles));
        double farthest = 0;
        for (int i = 0; i < starts.size(); i++)
            farthest = Math.max(farthest, Math.abs(starts.get(i) - contents.seconds(contents.entries().get(i).startFrame())));
        return new Found(farthest <= 0.5 / STEPS_A_SECOND + 1e-9,
                String.format(Locale.ROOT, "%d tracks, at most %.1f ms from their frames, as its steps are 1/75 s", starts.size(), farthest * 1e3));
    }
}
