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

/// Measurements of whole files as the catalogue keeps them. A sound of a bank is no file.
final class KeptMeasurements {
    private KeptMeasurements() {}

    private record Question(String what, Class<? extends Measurement> answer) {}

    private static Optional<Question> question(Measurement.Request request) {
        return switch (request) {
            case Measurement.OfFile(_, OptionalDouble silence) ->
                Optional.of(new Question("survey with steps " + (silence.isPresent() ? silence.getAsDouble() : ""), Measurement.Survey.class));
            case Measurement.OfPitch _ -> Optional.of(new Question("pitch", Measurement.Pitched.class));
            case Measurement.OfLoops(_, LoopWish wish) -> Optional.of(new Question("loops " + wish, Measurement.Loops.class));
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
            case Measurement.OfInstruments _ -> Optional.empty();
        };
    }

    /// Of values whose texts say all of them.
    private static String hash(List<?> values) { return Hashing.xxh3_128().hashCharsTo128Bits(values.toString()).toString(); }

    private static Optional<Catalogue.Identity> identity(SoundFile file) {
        boolean isFile = SoundFormats.byId(file.formatId()).isPresent()
                && !(file.audio() instanceof AudioPlace.Sides || file.audio() instanceof AudioPlace.Slice || file.audio() instanceof AudioPlace.Delayed);
        if (!isFile) return Optional.empty();
        try {
            return Optional.of(Catalogue.Identity.of(file.path()));
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    static Optional<Measurement> find(Catalogue catalogue, Measurement.Request request) {
        return question(request).flatMap(q -> identity(request.file()).flatMap(id -> catalogue.find(id, q.what())).flatMap(json -> read(json, q.answer())));
    }

    /// What another version kept is measured again.
    private static Optional<Measurement> read(String json, Class<? extends Measurement> kind) {
        try {
            return Optional.of(Json.read(json, kind, "catalogue"));
        } catch (Json.JsonFault e) {
            return Optional.empty();
        }
    }

    static void keep(Catalogue catalogue, Measurement.Request request, Measurement measured) {
        question(request).filter(q -> q.answer().isInstance(measured))
                .ifPresent(q -> identity(request.file()).ifPresent(id -> catalogue.keep(q.what(), Map.of(id, Json.write(measured)))));
    }
}
