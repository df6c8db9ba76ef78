package ablecrate.format.sf2;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// SoundFont 2 banks by a reader and a writer that share nothing with the product's, after the *SoundFont Technical Specification* 2.04, sections 7 to 9
/// (from memory): what a player makes of each zone, generator by generator.
public final class RawBank {
    /// Generators that count where nothing is said (8.1.3); all others are 0.
    private static final Map<Integer, Integer> DEFAULTS = new TreeMap<>(Map.of(8, 13_500, 46, -1, 47, -1, 56, 100, 58, -1));
    /// Those of the sample alone, which a preset cannot say (8.1.3).
    private static final List<Integer> OF_INSTRUMENTS = List.of(0, 1, 2, 3, 4, 12, 45, 46, 47, 50, 53, 54, 57, 58);
    /// Modulators that every zone has (8.4): source, destination, amount source, transform. That of velocity and filter is left out, as players differ.
    private static final Map<String, Integer> DEFAULT_MODULATORS = Map.of("[1282, 48, 0, 0]", 960, "[13, 6, 0, 0]", 50, "[129, 6, 0, 0]", 50,
            "[1415, 48, 0, 0]", 960, "[650, 17, 0, 0]", 1000, "[1419, 48, 0, 0]", 960, "[219, 16, 0, 0]", 200, "[221, 15, 0, 0]", 200);
    private static final int INSTRUMENT = 41, KEYS = 43, VELOCITIES = 44, SAMPLE = 53;

    static {
        for (int time : new int[]{21, 23, 25, 26, 27, 28, 30, 33, 34, 35, 36, 38})
            DEFAULTS.put(time, -12_000);
    }

    /// @param settings by the number of the generator, or the five words of the modulator, where they are not the default
    /// @param sample rate and samples
    public record Zone(String preset, int bank, int number, int keys, int velocities, Map<String, Integer> settings, List<Object> sample) {}

    private record Bag(Map<Integer, Integer> generators, Map<List<Integer>, Integer> modulators) {}

    private final Map<String, ByteBuffer> chunks = new TreeMap<>();

    private RawBank(byte[] bytes) { chunks(ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN), 12, bytes.length); }

    public static List<Zone> zones(Path file) throws IOException { return new RawBank(Files.readAllBytes(file)).zones(); }

    private void chunks(ByteBuffer in, int from, int to) {
        for (int at = from; at + 8 <= to;) {
            String id = new String(in.array(), at, 4, StandardCharsets.ISO_8859_1);
            int size = in.getInt(at + 4);
            if (id.equals("LIST"))
                chunks(in, at + 12, at + 8 + size);
            else
                chunks.put(id, in.slice(at + 8, size).order(ByteOrder.LITTLE_ENDIAN));
            at += 8 + size + (size & 1);
        }
    }

    private List<Bag> bags(String letter, int from, int to) {
        ByteBuffer bag = chunks.get(letter + "bag"), gen = chunks.get(letter + "gen"), mod = chunks.get(letter + "mod");
        List<Bag> out = new ArrayList<>();
        for (int b = from; b < to; b++) {
            Map<Integer, Integer> generators = new TreeMap<>();
            Map<List<Integer>, Integer> modulators = new LinkedHashMap<>();
            for (int g = bag.getShort(4 * b) & 0xFFFF; g < (bag.getShort(4 * b + 4) & 0xFFFF); g++)
                generators.put((int) gen.getShort(4 * g), (int) gen.getShort(4 * g + 2));
            for (int m = bag.getShort(4 * b + 2) & 0xFFFF; m < (bag.getShort(4 * b + 6) & 0xFFFF); m++)
                modulators.put(List.of(mod.getShort(10 * m) & 0xFFFF, mod.getShort(10 * m + 2) & 0xFFFF, mod.getShort(10 * m + 6) & 0xFFFF,
                        mod.getShort(10 * m + 8) & 0xFFFF), (int) mod.getShort(10 * m + 4));
            out.add(new Bag(generators, modulators));
        }
        // The first zone without a sample or instrument holds for all others.
        int last = letter.equals("p") ? INSTRUMENT : SAMPLE;
        if (out.isEmpty() || out.getFirst().generators.containsKey(last)) return out;
        Bag global = out.removeFirst();
        return out.stream().map(b -> {
            Bag all = new Bag(new TreeMap<>(global.generators), new LinkedHashMap<>(global.modulators));
            all.generators.putAll(b.generators);
            all.modulators.putAll(b.modulators);
            return all;
        }).toList();
    }

    private List<Zone> zones() {
        ByteBuffer presets = chunks.get("phdr"), insts = chunks.get("inst");
        List<Zone> out = new ArrayList<>();
        for (int p = 0; p < presets.capacity() / 38 - 1; p++)
            for (Bag preset : bags("p", presets.getShort(38 * p + 24) & 0xFFFF, presets.getShort(38 * p + 62) & 0xFFFF)) {
                int inst = preset.generators.get(INSTRUMENT);
                for (Bag zone : bags("i", insts.getShort(22 * inst + 20) & 0xFFFF, insts.getShort(22 * inst + 42) & 0xFFFF)) {
                    byte[] name = new byte[20];
                    presets.get(38 * p, name);
                    out.add(zone(new String(name, StandardCharsets.ISO_8859_1).replaceAll("\0.*", ""), presets.getShort(38 * p + 22), presets.getShort(
                            38 * p + 20), preset, zone));
                }
            }
        return out;
    }

    private Zone zone(String name, int bank, int number, Bag preset, Bag zone) {
        Map<Integer, Integer> sums = new TreeMap<>(zone.generators);
        preset.generators.forEach((g, v) -> {
            if (!OF_INSTRUMENTS.contains(g)) sums.merge(g, v + (zone.generators.containsKey(g) ? 0 : DEFAULTS.getOrDefault(g, 0)), Integer::sum);
        });
        Map<String, Integer> settings = new TreeMap<>();
        // Where in the sample, at which pitch and how loud are compared as a player has them, coarse and fine together.
        for (int[] pair : new int[][]{{0, 4}, {1, 12}, {2, 45}, {3, 50}})
            settings.put("frames " + pair[0], sums.getOrDefault(pair[0], 0) + 32_768 * sums.getOrDefault(pair[1], 0));
        sums.forEach((g, v) -> {
            if (!List.of(INSTRUMENT, KEYS, VELOCITIES, SAMPLE, 0, 1, 2, 3, 4, 12, 45, 50, 51, 52, 58).contains(g)) settings.put("generator " + g, v);
        });
        zone.modulators.forEach((m, amount) -> settings.put("modulator " + m, amount));
        preset.modulators.forEach((m, amount) -> settings.merge("modulator " + m, amount + usual("modulator " + m), (own, _) -> own + amount));
        settings.entrySet().removeIf(e -> e.getValue() == usual(e.getKey()));
        ByteBuffer headers = chunks.get("shdr"), words = chunks.get("smpl");
        int at = 46 * sums.get(SAMPLE), start = headers.getInt(at + 20), end = headers.getInt(at + 24);
        int root = sums.getOrDefault(58, -1) >= 0 ? sums.get(58) : headers.get(at + 40);
        // The pitch that key 0 would have: root, tuning and the header's correction say it together.
        int scale = sums.getOrDefault(56, 100);
        settings.put("cents", 100 * sums.getOrDefault(51, 0) + sums.getOrDefault(52, 0) - scale * root + headers.get(at + 41) * scale / 100);
        settings.put("loop", headers.getInt(at + 28) - start + settings.getOrDefault("frames 2", 0));
        settings.put("loop end", headers.getInt(at + 32) - start + settings.getOrDefault("frames 3", 0));
        settings.keySet().removeAll(List.of("frames 2", "frames 3"));
        byte[] pcm = new byte[2 * (end - start)];
        words.get(2 * start, pcm);
        return new Zone(name, bank, number, sums.getOrDefault(KEYS, 0x7F00), sums.getOrDefault(VELOCITIES, 0x7F00), settings,
                List.of(headers.getInt(at + 36), Arrays.hashCode(pcm)));
    }

    /// What holds where nothing is said.
    static int usual(String setting) {
        String of = setting.substring(setting.indexOf(' ') + 1);
        return setting.startsWith("generator")
                ? DEFAULTS.getOrDefault(Integer.parseInt(of), 0)
                : setting.startsWith("modulator") ? DEFAULT_MODULATORS.getOrDefault(of, 0) : 0;
    }

    /// A bank of presets over one mono sample, each with what its zone and the preset above say.
    static final class Builder {
        private final ByteArrayOutputStream phdr = new ByteArrayOutputStream(), pbag = new ByteArrayOutputStream(), pmod = new ByteArrayOutputStream(),
                pgen = new ByteArrayOutputStream(), inst = new ByteArrayOutputStream(), ibag = new ByteArrayOutputStream(), imod = new ByteArrayOutputStream(),
                igen = new ByteArrayOutputStream();
        private int presets;

        /// @param zone,added `generator, amount` each, those of the zone before its sample
        /// @param modulators `source, destination, amount, amount source, transform` each
        Builder preset(String name, int[][] zone, int[][] modulators, int[][] added, int[][] addedModulators) {
            text(phdr, name, 20, presets, 0, pbag.size() / 4, 0, 0, 0, 0, 0, 0);
            words(pbag, pgen.size() / 4, pmod.size() / 10);
            for (int[] g : added)
                words(pgen, g);
            words(pgen, INSTRUMENT, presets);
            for (int[] m : addedModulators)
                words(pmod, m);
            text(inst, name, 20, ibag.size() / 4);
            words(ibag, igen.size() / 4, imod.size() / 10);
            for (int[] g : zone)
                words(igen, g);
            words(igen, SAMPLE, 0);
            for (int[] m : modulators)
                words(imod, m);
            presets++;
            return this;
        }

        private static void words(ByteArrayOutputStream out, int... words) {
            for (int word : words) {
                out.write(word);
                out.write(word >> 8);
            }
        }

        private static void text(ByteArrayOutputStream out, String text, int size, int... words) {
            out.writeBytes(Arrays.copyOf(text.getBytes(StandardCharsets.ISO_8859_1), size));
            words(out, words);
        }

        private static byte[] chunk(String id, byte[] bytes) {
            byte[] out = Arrays.copyOf(id.getBytes(StandardCharsets.ISO_8859_1), 8 + bytes.length + bytes.length % 2);
            ByteBuffer.wrap(out).order(ByteOrder.LITTLE_ENDIAN).putInt(4, bytes.length).put(8, bytes);
            return out;
        }

        private static byte[] list(String type, byte[]... chunks) {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            out.writeBytes(type.getBytes(StandardCharsets.ISO_8859_1));
            for (byte[] c : chunks)
                out.writeBytes(c);
            return chunk("LIST", out.toByteArray());
        }

        /// @param pcm 16-bit words, looped from `loopStart` to `loopEnd`
        byte[] bytes(short[] pcm, int loopStart, int loopEnd) {
            text(phdr, "EOP", 20, 0, 0, pbag.size() / 4, 0, 0, 0, 0, 0, 0);
            words(pbag, pgen.size() / 4, pmod.size() / 10);
            words(pgen, 0, 0);
            words(pmod, 0, 0, 0, 0, 0);
            text(inst, "EOI", 20, ibag.size() / 4);
            words(ibag, igen.size() / 4, imod.size() / 10);
            words(igen, 0, 0);
            words(imod, 0, 0, 0, 0, 0);
            ByteArrayOutputStream shdr = new ByteArrayOutputStream(), smpl = new ByteArrayOutputStream();
            text(shdr, "tone", 20, 0, 0, pcm.length, 0, loopStart, 0, loopEnd, 0, 44_100, 0, 60, 0, 1);
            text(shdr, "EOS", 46);
            for (short word : pcm)
                words(smpl, word);
            words(smpl, new int[46]);
            byte[] all = list("....", list("INFO", chunk("ifil", new byte[]{2, 0, 4, 0}), chunk("isng", "EMU8000\0".getBytes(StandardCharsets.ISO_8859_1)),
                    chunk("INAM", "Pit\0".getBytes(StandardCharsets.ISO_8859_1))), list("sdta", chunk("smpl", smpl.toByteArray())),
                    list("pdta", chunk("phdr", phdr.toByteArray()), chunk("pbag", pbag.toByteArray()), chunk("pmod", pmod.toByteArray()),
                            chunk("pgen", pgen.toByteArray()), chunk("inst", inst.toByteArray()), chunk("ibag", ibag.toByteArray()),
                            chunk("imod", imod.toByteArray()), chunk("igen", igen.toByteArray()), chunk("shdr", shdr.toByteArray())));
            System.arraycopy("RIFF".getBytes(StandardCharsets.ISO_8859_1), 0, all, 0, 4);
            System.arraycopy("sfbk".getBytes(StandardCharsets.ISO_8859_1), 0, all, 8, 4);
            return all;
        }
    }
}
