package ablecrate.instrument;

/// How two zones share a note where they fade into each other: so that their powers add up to one, or their gains.
public enum FadeCurve { POWER, GAIN }
