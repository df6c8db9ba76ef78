package ablecrate.format;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.MemorySource;
import ablecrate.codec.OutputShape;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Extras;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Made-up instruments for tests, and banks written from them.
public final class Instruments {
    static final int FRAMES = 4000;

    private Instruments() {}

    /// Zones with any values whatever, over `samples` sounds of [#FRAMES] frames.
    public static Instrument random(Random random, int samples, int zones) {
        List<ZoneGroup> groups = new ArrayList<>();
        for (int g = 0; g < 3; g++)
            groups.add(new ZoneGroup("layer " + g, Stream.generate(() -> zone(random, random.nextInt(samples))).limit(zones).toList()));
        return new Instrument(new About("Glass marimba", "mallets", "Sound department", "struck bottles", "glass, orchard", "free"), Optional.empty(), groups);
    }

    private static Zone zone(Random random, int sample) {
        Zone zone = Zone.of(sample);
        for (Parameter<?> p : Parameter.ALL)
            if (random.nextInt(3) == 0) zone = put(zone, p, random);
        return zone;
    }

    @SuppressWarnings("unchecked") private static <T> Zone put(Zone zone, Parameter<T> p, Random random) {
        Object value = switch (p.usual()) {
            case Span _ -> span(random);
            case Integer _ -> p == Parameter.ROOT_KEY ? random.nextInt(128) : random.nextInt(100);
            case Boolean _ -> random.nextBoolean();
            case Long _ -> random.nextLong(1000);
            case Double _ -> number(p, random);
            case Optional<?> _ when p == Parameter.SWITCH -> {
                int low = random.nextInt(24);
                yield Optional.of(new KeySwitch(new Span(low, low + random.nextInt(4)), low,
                        random.nextBoolean() ? OptionalInt.empty() : OptionalInt.of(low + 1), oneOf(random, new String[]{"", "plucked", "bowed softly"})));
            }
            case Optional<?> _ -> p == Parameter.END ? Optional.of(1000 + random.nextLong(FRAMES - 1000)) : Optional.of(span(random));
            case Extras _ -> extras(random);
            case Turn _ -> new Turn(1 + random.nextInt(3), 3);
            case Chance _ -> new Chance(random.nextInt(500) / 1000.0, (501 + random.nextInt(499)) / 1000.0);
            case List<?> _ ->
                List.of(new Loop(new FrameRange(random.nextInt(1000), 1500 + random.nextInt(2500)), oneOf(random, LoopMode.values()), Loop.Use.SUSTAIN,
                        random.nextInt(3), 0, 0));
            case Enum<?> e -> oneOf(random, e.getDeclaringClass().getEnumConstants());
            default -> throw new IllegalStateException(p + " has values of a type that is not made up here");
        };
        return zone.with(p, (T) value);
    }

    /// Of one format or another, in the order in which each tells them.
    private static Extras extras(Random random) {
        return switch (random.nextInt(3)) {
            case 0 -> new Extras("sf2",
                    List.of(new Extras.Setting(random.nextBoolean() ? "modLfoToPitch" : "modEnvToPitch", "" + (1 + random.nextInt(99))),
                            new Extras.Setting("chorusEffectsSend", "300"),
                            new Extras.Setting("modulator", "1152 " + 8 + " " + random.nextInt(1, 2000) + " 0 0")));
            case 1 -> new Extras("sfz", List.of(new Extras.Setting("eq1_gain", "" + random.nextInt(12)), new Extras.Setting("wobble", "slow and deep")));
            default -> new Extras("dls", List.of(new Extras.Setting("connection", "5 0 3 0 " + random.nextInt(6_553_600))));
        };
    }

    private static Span span(Random random) {
        int low = 1 + random.nextInt(100);
        return new Span(low, low + random.nextInt(27));
    }

    @SuppressWarnings("unchecked") private static double number(Parameter<?> p, Random random) {
        double[] sizes = {0.0137, 1.5, 37.3, 261.6, 9000.4};
        Parameter<Double> number = (Parameter<Double>) p;
        double value;
        do
            value = sizes[random.nextInt(sizes.length)] * random.nextDouble() * (random.nextBoolean() ? 1 : -1);
        while (!number.allows(value));
        return value;
    }

    private static <T> T oneOf(Random random, T[] all) { return all[random.nextInt(all.length)]; }

    /// A bank of sounds given as `[channel][frame]` at 44.1 kHz.
    static Path bank(Path file, BankFormat format, About about, List<Instrument> instruments, List<double[][]> sounds, Depth depth) throws IOException {
        List<BankFormat.BankSound> described = IntStream.range(0, sounds.size())
                .mapToObj(i -> new BankFormat.BankSound("sound " + i, new OutputShape(44_100, sounds.get(i).length, depth, sounds.get(i)[0].length),
                        SoundMetadata.NONE))
                .toList();
        try (OutputStream out = Files.newOutputStream(file)) {
            format.write(out, about, instruments, described, i -> new MemorySource(44_100, sounds.get(i)));
        }
        return file;
    }

    /// Fails with each parameter that differs, zone by zone.
    static void assertPlaysAs(Instrument read, Instrument wanted) {
        assertThat(read.zones()).hasSameSizeAs(wanted.zones());
        for (int i = 0; i < wanted.zones().size(); i++) {
            Zone zone = read.zones().get(i), other = wanted.zones().get(i);
            List<String> different = zone.differences(other).stream().filter(p -> !isNear(p, zone, other))
                    .map(p -> other.told(p) + " came back as " + zone.told(p)).toList();
            assertThat(different).as("zone " + i + ": " + other).isEmpty();
        }
    }

    /// Equal up to the last bits of a number.
    private static <T> boolean isNear(Parameter<T> p, Zone a, Zone b) {
        return a.get(p) instanceof Double x && b.get(p) instanceof Double y && Math.abs(x - y) <= 1e-9 * Math.max(1, Math.abs(y));
    }
}
