package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// What a format declares, it carries: two hundred sounds made by chance, written and read.
class MetadataRoundTripTest {
    private static final int FRAMES = 700;
    private static final String[] WORDS = {"Glass", "Größe", "wind-up harp", "é", "tin/kitchen", "a", "twelve letter"};

    @TempDir Path folder;

    @ParameterizedTest @ValueSource(strings = {"wav", "aiff", "flac"}) void everythingDeclaredReturns(String formatId) throws Exception {
        WrittenFormat format = SoundFormats.written(formatId).orElseThrow();
        Random random = new Random(11);
        for (int i = 0; i < 200; i++) {
            SoundMetadata metadata = metadata(random, format.capabilities());
            Depth depth = format.capabilities().depths().stream().sorted().toList().get(random.nextInt(format.capabilities().depths().size()));
            int channels = 1 + random.nextInt(3), rateHz = 8000 + random.nextInt(90_000);
            double[][] planes = new double[channels][];
            for (int channel = 0; channel < channels; channel++)
                planes[channel] = Sounds.signal(FRAMES, _ -> Math.rint((2 * random.nextDouble() - 1) * 127) / 128);
            SoundFile file = format.read(Sounds.write(folder.resolve("x"), formatId, rateHz, depth, metadata, planes));
            assertThat(file.problems()).isEmpty();
            assertThat(List.of(file.rateHz(), file.channels(), file.frames(), file.encoding().depth()))
                    .isEqualTo(List.of(rateHz, channels, (long) FRAMES, depth));
            assertThat(Sounds.readAll(file.open())).as("samples of 8 bits fit every depth").isDeepEqualTo(planes);
            same(file.metadata(), metadata);
        }
    }

    private static void same(SoundMetadata read, SoundMetadata written) {
        assertThat(read.loops()).extracting(Loop::frames, Loop::mode, Loop::use, Loop::playCount)
                .isEqualTo(written.loops().stream().map(l -> org.assertj.core.groups.Tuple.tuple(l.frames(), l.mode(), l.use(), l.playCount())).toList());
        assertThat(read.cues()).extracting(Cue::frame, Cue::lengthFrames, Cue::label, Cue::note)
                .isEqualTo(written.cues().stream().map(c -> org.assertj.core.groups.Tuple.tuple(c.frame(), c.lengthFrames(), c.label(), c.note())).toList());
        Mapping r = read.mapping(), w = written.mapping();
        assertThat(r.rootKey()).isEqualTo(w.rootKey());
        assertThat(r.fineTuneCents()).isCloseTo(w.fineTuneCents(), within(1e-6));
        assertThat(r.keys().orElse(new Span(0, 127))).isEqualTo(w.keys().orElse(new Span(0, 127)));
        assertThat(r.velocities().orElse(new Span(1, 127))).isEqualTo(w.velocities().orElse(new Span(1, 127)));
        assertThat(r.gainDb().orElse(0.0)).isEqualTo(w.gainDb().orElse(0.0));
        assertThat(read.broadcast()).isEqualTo(written.broadcast());
        assertThat(read.texts()).isEqualTo(written.texts());
    }

    private static SoundMetadata metadata(Random random, Capabilities can) {
        List<Loop> loops = new ArrayList<>();
        if (random.nextBoolean()) loops.add(loop(random, can, 50, Loop.Use.SUSTAIN));
        if (!loops.isEmpty() && random.nextBoolean()) loops.add(loop(random, can, 400, Loop.Use.RELEASE));
        double cents = can.fineTune() == Capabilities.FineTune.EXACT ? random.nextDouble() * 99 - 49.5 : random.nextInt(99) - 49;
        // A file that says anything of keys says a root key; the least it can say.
        Mapping mapping = new Mapping(Optional.of(random.nextInt(126) + 1), cents, Optional.of(span(random, 0)), Optional.of(span(random, 1)),
                Optional.of((double) random.nextInt(60) - 30));
        List<Cue> cues = new ArrayList<>();
        for (int i = 0; i < random.nextInt(4); i++)
            cues.add(new Cue(i + 1, 100 * i + random.nextInt(90), can.cueNotesAndLengths() && random.nextBoolean() ? 1 + random.nextInt(50) : 0,
                    Optional.of(word(random)), can.cueNotesAndLengths() && random.nextBoolean() ? Optional.of(word(random)) : Optional.empty()));
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        for (TextField field : can.texts())
            if (random.nextInt(3) == 0) texts.put(field, word(random));
        Optional<Broadcast> broadcast = can.broadcast() && random.nextBoolean()
                ? Optional.of(
                        new Broadcast("take " + random.nextInt(99), "workshop", "REF" + random.nextInt(99), "2026-03-0" + (1 + random.nextInt(9)), "12:34:56",
                                random.nextLong(1L << 40), 1, "", Optional.empty(), ""))
                : Optional.empty();
        return new SoundMetadata(loops, mapping, cues, broadcast, texts);
    }

    private static Loop loop(Random random, Capabilities can, int from, Loop.Use use) {
        int start = from + random.nextInt(150);
        List<LoopMode> modes = can.loops().modes().stream().sorted().toList();
        return new Loop(new FrameRange(start, start + 1 + random.nextInt(140)), modes.get(random.nextInt(modes.size())), use,
                can.loops().playCount() ? random.nextInt(4) : 0, 0, 0);
    }

    private static Span span(Random random, int lowest) {
        int low = lowest + random.nextInt(100);
        return new Span(low, low + random.nextInt(128 - low));
    }

    private static String word(Random random) { return WORDS[random.nextInt(WORDS.length)]; }
}
