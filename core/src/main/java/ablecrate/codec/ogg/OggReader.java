package ablecrate.codec.ogg;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Bytes;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.Losses;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.tags.VorbisComments;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import com.jcraft.jorbis.Info;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// Reads the headers of the first stream of sound in an Ogg file, and looks through its pages.
final class OggReader {
    private static final int MARK_SECONDS = 10, VORBIS_HEADERS = 3, OPUS_HEADERS = 2;
    private static final SampleEncoding FLOAT = new SampleEncoding(SampleEncoding.Kind.FLOAT, 4, 32, ByteOrder.LITTLE_ENDIAN);

    private final Path path;
    private final List<Problem> problems = new ArrayList<>();

    OggReader(Path path) { this.path = path; }

    /// What the header packets say.
    private record Stream(String formatId, String name, OggCodec codec, int rateHz, int channels, long delay, Map<TextField, String> texts) {}

    SoundFile read() throws IOException, FormatException {
        int serial = serial();
        try (OggPackets packets = new OggPackets(path, 0, serial)) {
            List<byte[]> first = new ArrayList<>();
            OggPackets.Batch batch = next(packets);
            first.addAll(headers(batch));
            if (first.isEmpty()) throw incomplete();
            boolean isOpus = starts(first.getFirst(), "OpusHead"), isVorbis = starts(first.getFirst(), "\1vorbis");
            if (!isOpus && !isVorbis)
                throw FormatException.unsupported("an Ogg stream of another kind than Vorbis or Opus", "first page", "Bring it as WAV or FLAC.");
            while (first.size() < (isOpus ? OPUS_HEADERS : VORBIS_HEADERS))
                first.addAll(headers(next(packets)));
            Stream stream = isOpus ? opus(first) : vorbis(first);
            return pages(packets, stream, serial);
        }
    }

    private OggPackets.Batch next(OggPackets packets) throws IOException, FormatException { return packets.next().orElseThrow(OggReader::incomplete); }

    /// What the headers say decides how much memory a decoder takes: they are not guessed at.
    private static List<byte[]> headers(OggPackets.Batch batch) throws FormatException {
        if (!batch.isWhole()) throw new FormatException("the headers are damaged, their checksum is wrong", "first pages", "Get the file again.");
        return batch.packets();
    }

    private static FormatException incomplete() { return new FormatException("the file ends within its headers", "", "It is incomplete; get it again."); }

    private int serial() throws IOException, FormatException {
        try (OggPages pages = new OggPages(path, 0)) {
            Optional<Integer> serial = Optional.empty();
            for (Optional<OggPages.Page> page; (page = pages.next()).isPresent() && page.get().has(OggPages.FIRST);) {
                byte[] packet = page.get().pieces().isEmpty() ? new byte[0] : page.get().pieces().getFirst();
                if (serial.isEmpty() || starts(packet, "\1vorbis") || starts(packet, "OpusHead")) serial = Optional.of(page.get().serial());
                if (starts(packet, "\1vorbis") || starts(packet, "OpusHead")) break;
            }
            return serial.orElseThrow(() -> new FormatException("no page of the file is whole", "", "It is damaged; get it again."));
        }
    }

    private static boolean starts(byte[] packet, String name) {
        byte[] wanted = name.getBytes(StandardCharsets.ISO_8859_1);
        return packet.length >= wanted.length && Arrays.equals(packet, 0, wanted.length, wanted, 0, wanted.length);
    }

    private static ChunkReader reader(String name, byte[] packet, int from) {
        return new ChunkReader(name, from, Arrays.copyOfRange(packet, Math.min(from, packet.length), packet.length), ByteOrder.LITTLE_ENDIAN);
    }

    private static Stream opus(List<byte[]> packets) throws FormatException {
        OpusHead head = OpusHead.read(reader("OpusHead", packets.getFirst(), 0));
        return new Stream(OpusFormat.ID, "Opus", new OpusCodec(head), OpusCodec.RATE_HZ, head.channels(), head.preSkip(),
                VorbisComments.read(reader("OpusTags", packets.get(1), 8)));
    }

    private static Stream vorbis(List<byte[]> packets) throws FormatException {
        VorbisCodec codec = new VorbisCodec(packets.subList(0, VORBIS_HEADERS).stream().map(Bytes::of).toList());
        try {
            Info info = codec.info();
            if (info.rate < 1 || info.channels < 1) throw new IllegalArgumentException(info.rate + " Hz, " + info.channels + " channels");
            codec.open();
            return new Stream(OggFormat.ID, "Vorbis", codec, info.rate, info.channels, 0, VorbisComments.read(reader("comments", packets.get(1), 7)));
        } catch (RuntimeException e) {
            throw new FormatException("the Vorbis headers are damaged", "first packets", "Get the file again.");
        }
    }

    private SoundFile pages(OggPackets packets, Stream stream, int serial) throws IOException, FormatException {
        List<OggAudio.Mark> marks = new ArrayList<>();
        Losses losses = new Losses(stream.rateHz()), suspect = Losses.suspect(stream.rateHz());
        long granule = 0, nextMark = 0, audioFrom = packets.place(), place = audioFrom;
        boolean isLast = false;
        for (Optional<OggPackets.Batch> found; !isLast && (found = packets.next()).isPresent();) {
            OggPackets.Batch batch = found.get();
            if (marks.isEmpty() || granule >= nextMark) {
                marks.add(new OggAudio.Mark(granule, marks.isEmpty() ? audioFrom : batch.at()));
                nextMark = granule + (long) MARK_SECONDS * stream.rateHz();
            }
            if (batch.granule() > granule && OggAudio.isBelieved(batch, granule)) {
                if (batch.followsGap()) losses.add(granule, batch.granule());
                if (!batch.isWhole()) suspect.add(granule, batch.granule());
                granule = batch.granule();
            }
            isLast = batch.isLast();
            place = packets.place();
        }
        long frames = granule - stream.delay();
        if (marks.isEmpty() || frames <= 0) throw new FormatException("no page of audio in the file is whole", "", "It is incomplete; get it again.");
        if (!isLast)
            problems.add(Problem.lost(String.format(Locale.ROOT, "the file is cut off: %.2f s are there, and how much is missing it does not say",
                    (double) frames / stream.rateHz()), ""));
        if (isLast && packets.end() - place > OggPages.HEADER_BYTES)
            problems.add(Problem.lost("something follows the end of the stream (another piece, or another file); it is not read",
                    String.format(Locale.ROOT, "byte %,d", place)));
        problems.addAll(losses.problems(stream.delay(), frames));
        problems.addAll(suspect.problems(stream.delay(), frames));
        Compression compression = new Compression(true, (place - audioFrom) * 8 * stream.rateHz() / frames,
                new Compression.Start.Told(stream.delay(), stream.delay() > 0 ? "pre-skip" : "granule positions"));
        return new SoundFile(path, packets.end(), stream.formatId(), "Ogg", stream.name(), FLOAT, stream.rateHz(), stream.channels(), frames,
                new AudioPlace.Coded(compression, new OggAudio(stream.codec(), serial, stream.channels(), marks)), SoundMetadata.NONE.withTexts(stream.texts()),
                List.of(), problems);
    }
}
