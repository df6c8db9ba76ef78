package ablecrate.verify;

/// What is looked at in a written file.
public enum Check {
    BYTES("bytes", "bytes on the disk"), OPENS("opens", "reads back"), CONTAINER("container", "container"), RATE("rate", "rate"), DEPTH("depth", "depth"),
    CHANNELS("channels", "channels"), LENGTH("length", "length"), AUDIO("audio", "audio"), CLIPPING("clipping", "clipped samples"), LOOPS("loops",
            "loops"),
    MAPPING("mapping", "key mapping"), CUES("cues", "cue points"), BROADCAST("broadcast", "broadcast data"), TEXTS("texts", "texts"), MAP("map",
            "instruments"),
    LEVEL("level", "level"), CEILING("ceiling", "ceiling"), CLICKS("clicks", "mended clicks"), ENDS("ends", "faded ends"), DIFFERENCE("difference",
            "difference from the source"),
    PLACES("places", "places told");

    private final String id, label;

    Check(String id, String label) {
        this.id = id;
        this.label = label;
    }

    /// As in the slip's JSON.
    public String id() { return id; }

    /// For people.
    public String label() { return label; }
}
