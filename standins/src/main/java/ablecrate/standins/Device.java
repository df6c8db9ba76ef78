package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// A device that loads cards. Stateless.
public interface Device {
    List<Device> ALL = List.of(new DrumPads(), new FourTrack(), new KeyboardSampler(), new CardSampler(), new BankPlayer(), new PocketSampler(),
            new RackSampler());

    static Optional<Device> byId(String id) { return ALL.stream().filter(d -> d.id().equals(id)).findFirst(); }

    /// As the destination sheet of the kind: `drum-pads`.
    String id();

    /// For people.
    String name();

    /// Whether its sounds come as MIDI sample dumps, over a cable.
    default boolean takesDumps() { return false; }

    /// What is under the fingers.
    enum Controls {
        /// A pad for each sound.
        PADS,
        KEYS,
        /// Tracks that start together; notes do not play them.
        TRACKS
    }

    Controls controls();

    /// What a device makes of a card.
    /// @param presets instruments, kits or songs, as it lists them
    /// @param refusals what it does not load, in its words
    /// @param memoryBytes that its audio takes, of `mostBytes` for each preset; 0 is no limit
    record Loaded(List<Preset> presets, List<Refusal> refusals, long memoryBytes, long mostBytes) {
        public Loaded {
            presets = List.copyOf(presets);
            refusals = List.copyOf(refusals);
        }
    }

    /// @param path below the card
    record Refusal(String path, String reason) {}

    /// @throws IOException if the card cannot be read at all
    Loaded load(Path card) throws IOException;
}
