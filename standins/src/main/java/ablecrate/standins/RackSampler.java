package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/// A sampler that is sent sounds as MIDI sample dumps, one after another; see `docs/devices/rack-sampler.md`. The files of a folder stand for what is sent;
/// [RackOnCable] is the same with a cable.
final class RackSampler implements Device {
    private static final long MOST_BYTES = 1 << 24;

    @Override public String id() { return "rack-sampler"; }

    @Override public String name() { return "Rack sampler by MIDI"; }

    @Override public boolean takesDumps() { return true; }

    @Override public Controls controls() { return Controls.KEYS; }

    @Override public Loaded load(Path card) throws IOException {
        RackMemory memory = new RackMemory();
        List<Refusal> refusals = new ArrayList<>();
        List<Integer> order = new ArrayList<>();
        for (Path file : FolderCard.sorted(card)) {
            String name = file.getFileName().toString();
            // Nothing else can be sent.
            if (!name.matches("(?i).*\\.(sds|syx)")) continue;
            try {
                if (Files.size(file) > MOST_BYTES) throw new Refused("more than its memory");
                SampleDump dump = SampleDump.of(Files.readAllBytes(file));
                RackMemory.Held taken = memory.sounds().get(dump.header().number());
                if (taken != null) throw new Refused("number " + dump.header().number() + " is that of '" + taken.name() + "', which it would replace");
                memory.checkRoom(dump.header());
                memory.put(new RackMemory.Held(file, name, dump));
                order.add(dump.header().number());
            } catch (Refused e) {
                refusals.add(new Refusal(name, e.getMessage()));
            }
        }
        return memory.loaded(order, refusals);
    }
}
