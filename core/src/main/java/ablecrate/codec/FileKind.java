package ablecrate.codec;

import ablecrate.codec.chunk.FileBytes;
import ablecrate.audio.Figures;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;

/// What a file is, told by its content; the name is only compared with it.
public sealed interface FileKind {
    /// A sound in a format that is read.
    record Sound(SoundFormat format) implements FileKind {
        /// Blocks of as many channels as a header may claim would take more memory than there is.
        public static final int MOST_CHANNELS = 256;

        /// Reads the file's headers.
        /// @throws FormatException also where the sound has more channels than are handled
        public SoundFile read(Path path) throws IOException, FormatException {
            SoundFile file = format.read(path);
            if (file.channels() <= MOST_CHANNELS) return file;
            throw FormatException.unsupported(Figures.grouped(file.channels()) + " channels; up to " + MOST_CHANNELS + " are handled", "",
                    "Split it into files of fewer.");
        }
    }

    /// Anything else, by name, with the reason it cannot be packed.
    /// @param id for programs: `playlist`, `midi`, `text`, `empty`, `compressed`…
    record Other(String id, String name, String reason) implements FileKind {}

    int HEAD_BYTES = 4096;

    static FileKind of(Path path) throws IOException {
        try (FileBytes file = new FileBytes(path)) {
            byte[] head = file.read(0, HEAD_BYTES);
            Optional<SoundFormat> format = SoundFormats.ALL.stream().filter(f -> f.recognises(head)).findFirst();
            return format.isPresent() ? new Sound(format.get()) : other(head, path.getFileName().toString());
        }
    }

    /// Signatures are those of the formats' own documents: RFC 9639 (FLAC), RFC 3533 (Ogg), RFC 7845 (Opus),
    /// ISO/IEC 14496-12 (`ftyp`), ISO/IEC 11172-3 (MPEG audio sync), MIDI 1.0 (`MThd`, sample dump), and so on.
    private static Other other(byte[] head, String fileName) {
        String text = new String(head, StandardCharsets.ISO_8859_1);
        if (head.length == 0) return new Other("empty", "Empty file", "there is nothing in it");
        if (text.startsWith("MThd")) return new Other("midi", "Standard MIDI File", "it holds notes, no sound");
        if (text.startsWith("RIFF") && text.startsWith("RMID", 8)) return new Other("midi", "MIDI file in RIFF", "it holds notes, no sound");
        if (text.startsWith("RIFF") || text.startsWith("FORM"))
            return new Other("other", text.substring(0, 4) + " file of type '" + (text.length() >= 12 ? text.substring(8, 12) : "?") + "'",
                    "it is no sound that Able Crate knows");
        if (text.startsWith("PK\u0003\u0004")) return new Other("archive", "ZIP archive", "unpack it and gather what is inside");
        if (text.startsWith("\u001f\u008b") || text.startsWith("7z\u00bc\u00af") || text.startsWith("Rar!"))
            return new Other("archive", "Archive", "unpack it and gather what is inside");
        if (text.startsWith("%PDF")) return new Other("document", "PDF document", "it holds no sound");
        if (text.startsWith("\u0089PNG") || text.startsWith("\u00ff\u00d8\u00ff") || text.startsWith("GIF8"))
            return new Other("picture", "Picture", "it holds no sound");
        if (!isText(head)) return new Other("unknown", "Unknown file", "nothing in it says what it is");
        return textKind(text, fileName.toLowerCase(Locale.ROOT));
    }

    private static Other textKind(String text, String lowerName) {
        String start = text.stripLeading();
        if (start.isEmpty()) return new Other("text", "Text file", "it holds no sound");
        boolean namedAsPlaylist = lowerName.endsWith(".m3u") || lowerName.endsWith(".m3u8");
        if (start.startsWith("#EXTM3U") || start.startsWith("[playlist]") || namedAsPlaylist || start.contains("<playlist") || start.startsWith("<asx"))
            return new Other("playlist", "Playlist", "it only points at sounds; gather the sounds themselves");
        if (start.startsWith("{") || start.startsWith("[")) return new Other("text", "JSON file", "it holds no sound");
        if (start.startsWith("<?xml") || start.startsWith("<")) return new Other("text", "XML or HTML file", "it holds no sound");
        return new Other("text", "Text file", "it holds no sound");
    }

    private static boolean isText(byte[] head) {
        for (byte b : head)
            if (b >= 0 && b < 0x20 && b != '\n' && b != '\r' && b != '\t' && b != '\f' || b == 0x7F) return false;
        return true;
    }
}
