package ablecrate.planner.place;

import ablecrate.audio.Depth;
import ablecrate.destination.DestinationSheet;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.option.SessionOptions;
import ablecrate.plan.Card;
import ablecrate.session.SessionDocument;
import ablecrate.session.TempoMap;
import java.util.Optional;

/// What a recording session takes: its own rate and depth alone; where it is made new, those that are chosen.
public final class SessionSheet {
    private static final int USUAL_RATE = 48_000;

    private SessionSheet() {}

    /// @return the sheet itself, where it is none of sessions
    /// @throws OptionConflict if a session that is there has another tempo or meter than one that is asked for
    public static DestinationSheet of(DestinationSheet sheet, PackOptions options, Card card) throws OptionConflict {
        if (!sheet.isSession()) return sheet;
        SessionDocument document = document(sheet, options, card);
        SessionOptions asked = options.session();
        double bpm = startBpm(document);
        if (asked.bpm() != SessionOptions.DEFAULT.bpm() && asked.bpm() != bpm)
            throw new OptionConflict("--tempo: the session is there and has " + bpm + " bpm; it is changed in its document alone");
        TempoMap.Meter meter = document.meters().getFirst();
        if (!asked.meter().equals(SessionOptions.DEFAULT.meter()) && !asked.meter().equals(meter))
            throw new OptionConflict("--meter: the session is there and has " + meter.beats() + "/" + meter.unit() + "; it is changed in its document alone");
        return sheet.at(document.rateHz(), document.depthValue());
    }

    /// Its tempo at bar 1; empty where the sheet is none of sessions.
    public static Optional<Double> bpm(DestinationSheet sheet, PackOptions options, Card card) {
        return sheet.isSession() ? Optional.of(startBpm(document(sheet, options, card))) : Optional.empty();
    }

    private static double startBpm(SessionDocument document) { return document.tempo().getFirst().bpm(); }

    /// The session that is there, or a new one without files.
    static SessionDocument document(DestinationSheet sheet, PackOptions options, Card card) {
        if (card.session().isPresent()) return card.session().get().document();
        int rateHz = options.rateHz().or(sheet.defaults().rateHz()).or(() -> sheet.accepts().ratesHz().stream().findFirst()).orElse(USUAL_RATE);
        Depth depth = options.depth().or(sheet.defaults().depth().flatMap(Depth::byId)).or(() -> sheet.accepts().depthList().stream().findFirst())
                .orElse(Depth.INT_24);
        SessionOptions chosen = options.session();
        return SessionDocument.of(rateHz, depth, chosen.bpm(), chosen.meter().beats(), chosen.meter().unit());
    }
}
