package ablecrate.option;

import ablecrate.session.TempoMap;

/// What holds where a recording session is packed into.
/// @param onTracks where on the time line new sounds lie
/// @param bpm,meter of a session that is made new
public record SessionOptions(TrackStart onTracks, double bpm, TempoMap.Meter meter) {
    public static final SessionOptions DEFAULT = new SessionOptions(TrackStart.OFF, 120, new TempoMap.Meter(1, 4, 4));

    public SessionOptions {
        new TempoMap.Tempo(1, bpm);
    }

    public SessionOptions withTracks(TrackStart t) { return new SessionOptions(t, bpm, meter); }

    public SessionOptions withBpm(double b) { return new SessionOptions(onTracks, b, meter); }

    public SessionOptions withMeter(TempoMap.Meter m) { return new SessionOptions(onTracks, bpm, m); }

    /// `6/8`
    public static TempoMap.Meter meter(String text) {
        String[] parts = text.strip().split("/");
        if (parts.length != 2 || !parts[0].matches("\\d{1,2}") || !parts[1].matches("\\d{1,2}"))
            throw new IllegalArgumentException("'" + text + "' is no meter, as 4/4 or 6/8");
        return new TempoMap.Meter(1, Integer.parseInt(parts[0]), Integer.parseInt(parts[1]));
    }
}
