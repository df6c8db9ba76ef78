package ablecrate.format.sf2;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.change.ChangeEntry;
import ablecrate.destination.SheetCatalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Banks;
import ablecrate.option.Choice;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// What a player makes of each zone before and after, by a reader that shares nothing with the product: all that differs is on the slip, with the zone's name.
class NothingUntoldTest {
    private static final Path REAL = Path.of("/usr/share/sounds/sf2/TimGM6mb.sf2");
    /// Between times, levels and tunings that were in other units meanwhile.
    private static final int ROUNDED = 1;
    /// Modulators that every zone has, as their words stand in a file (8.4).
    private static final int[][] DEFAULTS = {{0x0502, 48}, {0x0102, 8}, {0x000D, 6}, {0x0081, 6}, {0x0587, 48}, {0x028A, 17}, {0x058B, 48}, {0x00DB, 16}, {
        0x00DD, 15}};
    private static final int[][] NONE = {};

    @TempDir private Path temp;
    private final List<String> told = new ArrayList<>();

    private Path pack(Path source, String into, String format, Banks banks) throws Exception {
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(source), () -> false));
        PackOptions options = PackOptions.DEFAULT.withContainer(Choice.of(format))
                .withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)).withBanks(banks));
        PackingList list = ListeningPlanner.plan(gathered, new SheetCatalogue().find("files"), options, Map.of(), new Measurements(new SoundPath()),
                () -> false,
                (_, _) -> {});
        PackingSlip slip = new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(temp.resolve(into));
        for (PackingSlip.Item item : slip.items()) {
            assertThat(item.outcome()).as(item.source() + " " + item.error()).isEqualTo("packed");
            for (ChangeEntry c : item.changes()) {
                told.addAll(c.each().orElse(List.of()));
                told.add(c.reason());
            }
        }
        return temp.resolve(into);
    }

    /// A preset for every generator that says how a sample is played, in the zone and in the preset, and for every modulator that zones have by default,
    /// turned off and changed.
    private Path everything() throws Exception {
        RawBank.Builder bank = new RawBank.Builder();
        Map<Integer, int[]> values = new HashMap<>();
        for (int time : new int[]{21, 23, 25, 26, 27, 28, 30, 33, 34, 35, 36, 38})
            values.put(time, new int[]{-1200, 600});
        for (int depth : new int[]{5, 6, 7, 10, 11})
            values.put(depth, new int[]{300, -450});
        values.putAll(Map.of(8, new int[]{8000, 500}, 9, new int[]{60, 30}, 13, new int[]{40, 20}, 15, new int[]{200, 50}, 16, new int[]{300, 50}, 17,
                new int[]{-250, 100}, 22, new int[]{-700, 100}, 24, new int[]{-300, 100}, 29, new int[]{400, 100}, 37, new int[]{120, 30}));
        values.putAll(Map.of(31, new int[]{20, 5}, 32, new int[]{-20, 5}, 39, new int[]{20, 5}, 40, new int[]{-20, 5}, 48, new int[]{100, 30}, 51, new int[]{-2,
            1}, 52, new int[]{33, 10}, 56, new int[]{50, 10}));
        // What has no meaning without another stands with it.
        Map<Integer, int[]> with = new HashMap<>(Map.of(21, new int[]{5, 100}, 22, new int[]{13, 50}, 25, new int[]{7, 200}, 31, new int[]{7, 200}, 32,
                new int[]{11, 900}, 26, new int[]{7, 300}, 27, new int[]{7, 300}));
        for (int envelope : new int[]{28, 29, 30})
            with.put(envelope, new int[]{11, 900});
        values.forEach((generator, value) -> {
            int[] own = {generator, value[0]}, more = {generator, value[1]}, other = with.get(generator);
            bank.preset("zone " + generator, other == null ? new int[][]{own, {54, 1}} : new int[][]{own, other, {54, 1}}, NONE, NONE, NONE);
            bank.preset("both " + generator, other == null ? new int[][]{own} : new int[][]{own, other}, NONE, new int[][]{more}, NONE);
        });
        bank.preset("keys", new int[][]{{43, 0x4830}, {44, 0x5010}}, NONE, NONE, NONE);
        bank.preset("fixed", new int[][]{{46, 64}, {47, 90}, {57, 3}, {58, 72}}, NONE, NONE, NONE);
        for (int[] m : DEFAULTS)
            for (int amount : new int[]{0, 120})
                bank.preset("mod " + m[0] + " " + m[1] + " " + amount, NONE, new int[][]{{m[0], m[1], amount, 0, 0}}, NONE,
                        amount == 0 ? NONE : new int[][]{{m[0], m[1], 30, 0, 0}});
        bank.preset("other mods", NONE, new int[][]{{0x0082, 5, 70, 0, 0}, {0x0502, 8, -1200, 0, 0}, {0x0102, 8, 0, 0x0D02, 0}}, NONE, NONE);
        short[] tone = new short[4410];
        for (int i = 0; i < tone.length; i++)
            tone[i] = (short) Math.rint(16_000 * Math.sin(2 * Math.PI * i / 100));
        return Files.write(Files.createDirectories(temp.resolve("in")).resolve("pit.sf2"), bank.bytes(tone, 1000, 4000));
    }

    private List<RawBank.Zone> zones(Path folder) throws Exception {
        List<RawBank.Zone> zones = new ArrayList<>();
        for (Gathered g : Gatherer.find(List.of(folder), () -> false))
            if (g.fileName().endsWith(".sf2")) zones.addAll(RawBank.zones(g.path()));
        return zones;
    }

    /// @return names of settings that differ in the zone
    private static Set<String> differences(RawBank.Zone a, RawBank.Zone b) {
        Set<String> all = new TreeSet<>(a.settings().keySet());
        all.addAll(b.settings().keySet());
        all.removeIf(s -> Math.abs(a.settings().getOrDefault(s, RawBank.usual(s)) - b.settings().getOrDefault(s, RawBank.usual(s))) <= ROUNDED);
        // Where nothing loops, its bounds are nothing.
        if (!a.settings().containsKey("generator 54") && !b.settings().containsKey("generator 54")) all.removeAll(Set.of("loop", "loop end"));
        // An envelope that moves neither the pitch nor the filter is not heard.
        if (Stream.of(a, b).noneMatch(z -> z.settings().containsKey("generator 7") || z.settings().containsKey("generator 11")))
            all.removeIf(s -> s.matches("generator (25|26|27|28|29|30|31|32)"));
        return all;
    }

    /// Zone by zone, in the order of the file: its keys, its sample, and all that it says.
    private void assertTold(List<RawBank.Zone> before, List<RawBank.Zone> after, boolean mayDiffer) {
        Map<String, List<RawBank.Zone>> byPreset = new HashMap<>();
        after.forEach(z -> byPreset.computeIfAbsent(z.bank() + " " + z.number(), _ -> new ArrayList<>()).add(z));
        Map<String, Integer> at = new HashMap<>();
        List<String> untold = new ArrayList<>();
        for (RawBank.Zone zone : before) {
            String preset = zone.bank() + " " + zone.number();
            RawBank.Zone other = byPreset.getOrDefault(preset, List.of()).get(at.merge(preset, 1, Integer::sum) - 1);
            assertThat(List.of(other.keys(), other.velocities(), other.sample())).as(zone.preset()).isEqualTo(List.of(zone.keys(), zone.velocities(),
                    zone.sample()));
            Set<String> differences = differences(zone, other);
            if (!differences.isEmpty() && !(mayDiffer && told.stream().anyMatch(t -> t.startsWith("'" + zone.preset().strip() + "'"))))
                untold.add(zone.preset() + ": " + differences + " " + zone.settings() + " → " + other.settings());
        }
        assertThat(untold).isEmpty();
        assertThat(after).hasSameSizeAs(before);
    }

    @Test void aBankThatIsWrittenAnewSaysTheSame() throws Exception {
        Path source = everything();
        assertTold(RawBank.zones(source), zones(pack(source, "out", "sf2", Banks.EACH)), false);
    }

    /// Through the formats one after the other, and into a bank again.
    private List<RawBank.Zone> through(Path source, String formats) throws Exception {
        Path at = source;
        for (String format : formats.split(" "))
            at = pack(at, format, format, format.equals("dls") && Files.isDirectory(at) ? Banks.ONE : Banks.AS_SOURCE);
        return zones(pack(at, "back", "sf2", Banks.ONE));
    }

    @ParameterizedTest @ValueSource(strings = {"sfz", "dls", "sfz dls", "dls sfz"}) void whatAnotherFormatDoesNotHoldIsTold(String formats) throws Exception {
        Path source = everything();
        assertTold(RawBank.zones(source), through(source, formats), true);
    }

    @ParameterizedTest @ValueSource(strings = {"sfz", "dls", "sfz dls", "dls sfz"}) void aRealBankDoesNotChangeUntold(String formats) throws Exception {
        Path source = real();
        assertTold(RawBank.zones(source), through(source, formats), true);
    }

    @Test void aRealBankThatIsWrittenAnewSaysTheSame() throws Exception {
        Path source = real();
        assertTold(RawBank.zones(source), zones(pack(source, "out", "sf2", Banks.EACH)), false);
    }

    private Path real() throws Exception {
        assumeTrue(Files.exists(REAL), "timgm6mb-soundfont is not installed");
        return Files.copy(REAL, Files.createDirectories(temp.resolve("in")).resolve("general.sf2"));
    }
}
