package ablecrate.codec.mp4;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.Gapless;
import ablecrate.codec.Losses;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.aac.AacAudio;
import ablecrate.codec.alac.AlacAudio;
import ablecrate.codec.alac.AlacConfig;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// Reads one MPEG-4 file: which of its tracks sounds, how it is coded, where it starts, what it says of itself.
final class Mp4Reader {
    private static final int ENTRY_BYTES = 28, LIKELY_DELAY = 1024, AAC = 0x40;
    private static final int ES_DESCRIPTOR = 3, DECODER_CONFIG = 4, SPECIFIC_INFO = 5;
    private static final Map<String, TextField> TEXTS = Map.of("\u00a9nam", TextField.NAME, "\u00a9ART", TextField.ARTIST, "\u00a9alb", TextField.PRODUCT,
            "\u00a9day", TextField.DATE, "\u00a9cmt", TextField.COMMENT, "\u00a9gen", TextField.GENRE, "\u00a9too", TextField.SOFTWARE, "cprt",
            TextField.COPYRIGHT);

    private final Path path;
    private final List<Problem> problems = new ArrayList<>();
    private final Map<TextField, String> texts = new EnumMap<>(TextField.class);
    private Optional<Gapless> comment = Optional.empty();

    Mp4Reader(Path path) { this.path = path; }

    SoundFile read() throws IOException, FormatException {
        try (FileBytes file = new FileBytes(path)) {
            List<Boxes.Box> top = Boxes.in(file, 0, file.size());
            Boxes.Box moov = top.stream().filter(b -> b.id().equals("moov")).findFirst().orElseThrow(() -> new FormatException(
                    "the file has no 'moov' box, which says where its sound lies", "",
                    "It is incomplete, as of a recording that was not ended; get it again."));
            Boxes.find(file, moov, "udta", "meta").ifPresent(m -> texts(file, m));
            long movieTimescale = movieTimescale(file, moov);
            List<Boxes.Box> sounding = new ArrayList<>();
            boolean hasPictures = false;
            for (Boxes.Box trak : Boxes.in(file, moov)) {
                if (!trak.id().equals("trak")) continue;
                String kind = kind(file, trak);
                if (kind.equals("soun")) sounding.add(trak);
                hasPictures |= kind.equals("vide");
            }
            if (sounding.isEmpty())
                throw FormatException.unsupported(hasPictures ? "a video without sound" : "an MPEG-4 file without a track of sound", "",
                        "There is nothing to pack.");
            if (hasPictures) problems.add(Problem.note("a video; its sound is taken", ""));
            if (sounding.size() > 1) problems.add(Problem.lost(sounding.size() - 1 + " more tracks of sound; the first is taken", ""));
            return sound(file, sounding.getFirst(), movieTimescale, Fragments.of(file, top, moov, sounding.getFirst()));
        }
    }

    private static long movieTimescale(FileBytes file, Boxes.Box moov) throws IOException, FormatException {
        Optional<Boxes.Box> mvhd = Boxes.find(file, moov, "mvhd");
        if (mvhd.isEmpty()) return 0;
        ChunkReader in = Boxes.reader(file, mvhd.get());
        in.array(in.u32("version and flags") >>> 24 == 1 ? 16 : 8, "times");
        return in.u32("timescale");
    }

    private static String kind(FileBytes file, Boxes.Box trak) throws IOException {
        Optional<Boxes.Box> hdlr = Boxes.find(file, trak, "mdia", "hdlr");
        return hdlr.isEmpty() ? "" : new String(file.read(hdlr.get().at() + 8, 4), StandardCharsets.ISO_8859_1);
    }

    private SoundFile sound(FileBytes file, Boxes.Box trak, long movieTimescale, Optional<Fragments> fragments) throws IOException, FormatException {
        Track track = Track.read(file, trak, movieTimescale, fragments);
        if (track.packets().packets() == 0) throw new FormatException("no packet of audio is there", "", "The file is incomplete; get it again.");
        Boxes.Box stsd = Boxes.need(file, trak, "mdia", "minf", "stbl", "stsd");
        List<Boxes.Box> entries = Boxes.in(file, stsd.at() + 8, stsd.end());
        if (entries.isEmpty()) throw new FormatException("the file does not say how its sound is coded", "'stsd' box", "It is damaged; get it again.");
        Boxes.Box entry = entries.getFirst();
        // Files of the older form say by a version how long the entry is; in those of the standard it is 0.
        int version = file.read(entry.at() + 9, 1).length == 1 ? file.read(entry.at() + 9, 1)[0] : 0;
        long childrenAt = entry.at() + ENTRY_BYTES + (version == 1 ? 16 : version == 2 ? 36 : 0);
        List<Boxes.Box> children = new ArrayList<>(Boxes.in(file, childrenAt, entry.end()));
        for (Boxes.Box child : List.copyOf(children))
            if (child.id().equals("wave")) children.addAll(Boxes.in(file, child));
        return switch (entry.id()) {
            case "alac" -> alac(file, track, child(children, "alac"));
            case "mp4a" -> aac(file, track, child(children, "esds"));
            case "enca", "drms" -> throw FormatException.unsupported("the sound is locked to the shop's own programs", "'" + entry.id() + "' entry",
                    "Get it from the shop without a lock.");
            default ->
                throw FormatException.unsupported("the sound is coded as '" + entry.id().strip() + "', which is not read", "'stsd' box", "Bring it as WAV.");
        };
    }

    private static Boxes.Box child(List<Boxes.Box> children, String id) throws FormatException {
        return children.stream().filter(c -> c.id().equals(id)).findFirst()
                .orElseThrow(
                        () -> new FormatException("the file has no '" + id + "' box, which says how its sound is coded", "", "It is damaged; get it again."));
    }

    private SoundFile alac(FileBytes file, Track track, Boxes.Box box) throws IOException, FormatException {
        ChunkReader in = Boxes.reader(file, box);
        in.u32("version and flags");
        AlacConfig config = AlacConfig.read(in);
        SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.SIGNED, Math.ceilDiv(config.bitDepth(), 8), config.bitDepth(),
                ByteOrder.LITTLE_ENDIAN);
        long all = Math.min(track.frames(), (long) track.claimed() * config.frameLength());
        long frames = frames(track, all, config.frameLength(), config.rateHz(), 0);
        Compression compression = Compression.lossless(bits(track, config.rateHz(), frames));
        return file(file, "ALAC", encoding, config.rateHz(), config.channels(), frames, compression, new AlacAudio(config, track.packets()));
    }

    private SoundFile aac(FileBytes file, Track track, Boxes.Box esds) throws IOException, FormatException {
        Bytes config = specificInfo(Boxes.reader(file, esds));
        AacAudio.Shape shape = AacAudio.probe(config, file, track.packets());
        // Spectral band replication: twice the frames of what the file counts.
        int times = track.packetDuration() > 0 && shape.frames() == 2 * track.packetDuration() ? 2 : 1, rateHz = track.timescale() * times;
        Compression.Start start = start(track, times);
        long delay = start.delayFrames(), all = Math.min(track.frames() * times, (long) track.claimed() * shape.frames());
        long frames = frames(track, all, shape.frames(), rateHz, delay);
        if (track.claimed() == track.packets().packets()) {
            if (track.delay().orElse(0) > 0 && track.shown().isPresent()) frames = Math.min(frames, track.shown().getAsLong() * times);
            else
                if (comment.isPresent()) frames = Math.min(frames, comment.get().frames());
        }
        if (frames <= 0) throw new FormatException("all of the sound is the encoder's delay", "", "The file is incomplete; get it again.");
        SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.FLOAT, 4, 32, ByteOrder.LITTLE_ENDIAN);
        Compression compression = new Compression(true, bits(track, rateHz, frames), start);
        return file(file, times == 2 ? "HE-AAC" : "AAC-LC", encoding, rateHz, shape.channels(), frames, compression,
                new AacAudio(config, shape.channels(), shape.frames(), track.packets()));
    }

    /// An edit list that starts at 0 does not say the delay: there is no AAC without one.
    private Compression.Start start(Track track, int times) {
        long edit = track.delay().orElse(0);
        if (edit > 0) return new Compression.Start.Told(edit * times, "edit list");
        if (comment.isPresent()) return new Compression.Start.Told(comment.get().delayFrames(), "gapless comment");
        return new Compression.Start.Unknown((long) LIKELY_DELAY * times);
    }

    private long frames(Track track, long all, int packetFrames, int rateHz, long delay) {
        if (track.packets().packets() == track.claimed()) return all - delay;
        long there = (long) track.packets().packets() * packetFrames - delay;
        problems.add(Losses.cut(there, all - delay, rateHz));
        return there;
    }

    private static long bits(Track track, int rateHz, long frames) {
        long bytes = 0;
        for (int i = 0; i < track.packets().packets(); i++)
            bytes += track.packets().bytes(i);
        return frames <= 0 ? 0 : Math.round(8.0 * bytes * rateHz / frames);
    }

    private SoundFile file(FileBytes file, String codec, SampleEncoding encoding, int rateHz, int channels, long frames, Compression compression,
            CodedAudio stream) throws IOException {
        byte[] brand = file.read(8, 4);
        String container = brand.length == 4 && new String(brand, StandardCharsets.ISO_8859_1).startsWith("M4A") ? "M4A" : "MP4";
        return new SoundFile(path, file.size(), Mp4Format.ID, container, codec, encoding, rateHz, channels, frames, new AudioPlace.Coded(compression, stream),
                SoundMetadata.NONE.withTexts(texts), List.<ChunkInfo>of(), problems);
    }

    /// Descriptors: a byte of kind, a length in 7-bit bytes, contents. The decoder's own settings lie in the third.
    private static Bytes specificInfo(ChunkReader in) throws FormatException {
        in.u32("version and flags");
        while (in.remaining() > 2) {
            int kind = in.u8("descriptor"), length = 0;
            for (int b = 0x80; (b & 0x80) != 0;) {
                b = in.u8("length");
                length = length << 7 | b & 127;
            }
            switch (kind) {
                case ES_DESCRIPTOR -> {
                    in.u16("stream");
                    int flags = in.u8("flags");
                    if ((flags & 0x80) != 0) in.u16("depends on");
                    if ((flags & 0x40) != 0) in.array(in.u8("length"), "address");
                    if ((flags & 0x20) != 0) in.u16("clock");
                }
                case DECODER_CONFIG -> {
                    int type = in.u8("object type");
                    if (type != AAC && (type < 0x66 || type > 0x68))
                        throw in.unsupported(String.format(Locale.ROOT, "sound of object type 0x%02X, which is not AAC", type), "Bring it as WAV.");
                    in.array(12, "buffer and bit rates");
                }
                case SPECIFIC_INFO -> {
                    return in.bytes(length, "decoder settings");
                }
                default -> in.array(length, "descriptor");
            }
        }
        throw in.bad("no settings for the decoder", "The file is damaged; get it again.");
    }

    /// Texts lie in boxes of their own below `ilst`, each in a `data` box behind 8 bytes; free ones (`----`) have their name beside.
    private void texts(FileBytes file, Boxes.Box meta) {
        try {
            for (Boxes.Box ilst : Boxes.in(file, meta.at() + 4, meta.end())) {
                if (!ilst.id().equals("ilst")) continue;
                for (Boxes.Box item : Boxes.in(file, ilst)) {
                    Optional<Boxes.Box> data = Boxes.find(file, item, "data");
                    if (data.isEmpty() || data.get().bytes() <= 8) continue;
                    byte[] raw = file.read(data.get().at() + 8, (int) Math.min(data.get().bytes() - 8, 1 << 16));
                    String text = new String(raw, StandardCharsets.UTF_8);
                    if (TEXTS.containsKey(item.id()) && !text.isBlank()) texts.put(TEXTS.get(item.id()), text);
                    if (item.id().equals("tmpo") && raw.length >= 2 && (raw[0] | raw[1]) != 0)
                        texts.put(TextField.TEMPO, Integer.toString((raw[0] & 0xFF) << 8 | raw[1] & 0xFF));
                    if (item.id().equals("----")) free(name(file, item), text);
                }
            }
        } catch (IOException e) {
            // The texts are not worth the sound.
        }
    }

    private static String name(FileBytes file, Boxes.Box item) throws IOException {
        Optional<Boxes.Box> name = Boxes.find(file, item, "name");
        return name.isEmpty() ? "" : new String(file.read(name.get().at() + 4, Math.clamp(name.get().bytes() - 4, 0, 256)), StandardCharsets.UTF_8);
    }

    private void free(String name, String text) {
        if (name.equals(Gapless.NAME)) comment = comment.or(() -> Gapless.parse(text));
        if (name.equalsIgnoreCase("initialkey") && !text.isBlank()) texts.put(TextField.MUSICAL_KEY, text);
    }
}
