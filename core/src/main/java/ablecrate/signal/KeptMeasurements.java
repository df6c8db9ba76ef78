package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.detect.LoopWish;
import ablecrate.instrument.LoopMode;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import com.dynatrace.hash4j.hashing.Hashing;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;

/// Measurements of whole files, of sounds of banks and of instruments, as the catalogue keeps them.
final class KeptMeasurements {
    private KeptMeasurements() {}

    /// What is found out of instruments is large, and asked in ever other ways while a handle is dragged: of each file so many answers are kept.
    private static final int MOST_OF_INSTRUMENTS = 8;

    /// @param read empty where a text answers something else
    private record Question(String what, Function<String, Optional<? extends Measurement>> read, Function<Measurement, String> written) {
        /// What another version kept is measured again.
        Question(String what, Class<? extends Measurement> answer) { this(what, text -> parsed(text, answer), Json::write); }
    }

    private static Optional<Question> question(Measurement.Request request) {
        return within(request).flatMap(within -> asked(request).map(q -> new Question(q.what() + within, q.read(), q.written())));
    }

    private static Optional<Question> asked(Measurement.Request request) {
        return switch (request) {
            case Measurement.OfFile(_, OptionalDouble silence) ->
                Optional.of(new Question("survey with steps " + (silence.isPresent() ? silence.getAsDouble() : ""), Measurement.Survey.class));
            case Measurement.OfPitch _ -> Optional.of(new Question("pitch", Measurement.Pitched.class));
            case Measurement.OfLoops(_, LoopWish wish) -> Optional.of(new Question("loops with decays " + wish, Measurement.Loops.class));
            case Measurement.OfLoopQuality(_, FrameRange loop, LoopMode mode, int crossfade) ->
                Optional.of(new Question(mode.label() + " loop " + loop.start() + "-" + loop.end() + " " + crossfade, Measurement.LoopJudged.class));
            case Measurement.OfOnsets(_, double sensitivity) ->
                Optional.of(new Question("onsets" + (sensitivity == 1 ? "" : " " + sensitivity), Measurement.Onsets.class));
            case Measurement.OfGaps _ -> Optional.of(new Question("gaps", Measurement.Sounding.class));
            case Measurement.OfFaults _ -> Optional.of(new Question("faults", Measurement.Faults.class));
            // What comes as the file holds it is known with the file.
            case Measurement.OfSourceChain(SoundFile file, SourceChain way, Ends ends) when way.isAsIn(file) && ends.isNone() -> Optional.empty();
            case Measurement.OfSourceChain(_, SourceChain way, Ends ends) ->
                Optional.of(new Question("levels " + hash(List.of(way, ends)), Measurement.ChainLevels.class));
            case Measurement.OfLimited(_, SourceChain way, Ends ends, Hold hold, Measurement.Aim aim) ->
                Optional.of(new Question("limited " + hash(List.of(way, ends, hold, aim)), Measurement.Limited.class));
            case Measurement.OfInstruments played -> played.hash().map(hash -> new Question(
                    "played " + Math.floorMod(hash.hashCode(), MOST_OF_INSTRUMENTS), text -> played.read(text, hash), answer -> played.written(answer, hash)));
        };
    }

    /// Of values whose texts say all of them.
    private static String hash(List<?> values) { return Hashing.xxh3_128().hashCharsTo128Bits(values.toString()).toString(); }

    /// Which sound of a file is asked about.
    /// @return empty where it is made of others, or is a part of one
    private static Optional<String> within(Measurement.Request request) {
        SoundFile file = request.file();
        return switch (file.audio()) {
            // Instruments say themselves which sounds of which files they play.
            case AudioPlace _ when request instanceof Measurement.OfInstruments -> Optional.of("");
            // What lies in one place may stand in a bank twice, at other rates and with other loops.
            case AudioPlace.Pooled bank -> Optional.of(" in bank " + hash(List.of(bank.within(), file.rateHz(), file.metadata().loops())));
            case AudioPlace.Sides _,AudioPlace.Slice _,AudioPlace.Delayed _ -> Optional.empty();
            default -> SoundFormats.byId(file.formatId()).map(_ -> "");
        };
    }

    private static Optional<Catalogue.Identity> identity(SoundFile file) {
        try {
            return Optional.of(Catalogue.Identity.of(file.path()));
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    static Optional<? extends Measurement> find(Catalogue catalogue, Measurement.Request request) {
        return question(request).flatMap(q -> identity(request.file()).flatMap(id -> catalogue.find(id, q.what())).flatMap(q.read()));
    }

    private static Optional<Measurement> parsed(String json, Class<? extends Measurement> kind) {
        try {
            return Optional.of(Json.read(json, kind, "catalogue"));
        } catch (Json.JsonFault e) {
            return Optional.empty();
        }
    }

    static void keep(Catalogue catalogue, Measurement.Request request, Measurement measured) {
        question(request).ifPresent(q -> identity(request.file()).ifPresent(id -> catalogue.keep(q.what(), Map.of(id, q.written().apply(measured)))));
    }
}
