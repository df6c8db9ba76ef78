package ablecrate.destination;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/// What becomes of the channels of a sound.
public enum ChannelChoice {
    @JsonProperty("keep")
    KEEP, @JsonProperty("mono")
    MONO, @JsonProperty("stereo")
    STEREO, @JsonProperty("split")
    SPLIT;

    public String id() { return name().toLowerCase(Locale.ROOT); }

    public static Optional<ChannelChoice> byId(String id) { return Stream.of(values()).filter(c -> c.id().equals(id)).findFirst(); }
}
