package ablecrate.format.sf2;

import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkReader;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;

/// The lists of the `pdta` part, as they stand in the file (section 7).
///
/// | chunk | bytes | holds |
/// |---|---|---|
/// | `phdr` | 38 | name 20, preset 2, bank 2, first bag 2, three reserved 4s |
/// | `inst` | 22 | name 20, first bag 2 |
/// | `pbag`, `ibag` | 4 | first generator 2, first modulator 2 |
/// | `pgen`, `igen` | 4 | operator 2, amount 2 |
/// | `pmod`, `imod` | 10 | source 2, destination 2, amount 2, amount source 2, transform 2 |
/// | `shdr` | 46 | name 20, start 4, end 4, loop start 4, loop end 4, rate 4, key 1, correction 1, link 2, type 2 |
///
/// Each list ends with one record that only closes the one before it.
final class Sf2Tables {
    /// Bag of one zone: what it sets.
    record Bag(Map<Integer, Integer> generators, List<Sf2Modulators.Modulator> modulators) {}

    record Preset(String name, int number, int bank, List<Bag> zones) {}

    record Inst(String name, List<Bag> zones) {}

    /// @param key 255 for a sound without pitch
    record Header(String name, long start, long end, long loopStart, long loopEnd, long rateHz, int key, int correction, int link, int type) {}

    /// Bytes of a name, and of a record of `phdr`.
    static final int NAME = 20;
    private static final int PRESET = 38;
    static final int MONO = 1, RIGHT = 2, LEFT = 4, IN_ROM = 0x8000;

    private final Map<String, ChunkReader> chunks;
    private final List<Problem> problems;

    /// @param chunks of the `pdta` list by name
    Sf2Tables(Map<String, ChunkReader> chunks, List<Problem> problems) {
        this.chunks = chunks;
        this.problems = problems;
    }

    private ChunkReader need(String id) throws FormatException {
        ChunkReader chunk = chunks.get(id);
        if (chunk == null) throw new FormatException("the list '" + id + "' is missing", "'pdta' list", "The bank is cut off; get it again.");
        return chunk;
    }

    List<Header> headers() throws FormatException {
        ChunkReader in = need("shdr");
        List<Header> all = new ArrayList<>();
        while (in.remaining() >= 2 * 46)
            all.add(new Header(in.text(NAME, "name").strip(), in.u32("start"), in.u32("end"), in.u32("loop start"), in.u32("loop end"), in.u32("rate"),
                    in.u8("key"),
                    in.s8("correction"), in.u16("link"), in.u16("type")));
        return all;
    }

    List<Inst> instruments() throws FormatException {
        ChunkReader in = need("inst");
        List<Bag> bags = bags("ibag", "igen", "imod");
        List<String> names = new ArrayList<>();
        List<Integer> firsts = new ArrayList<>();
        while (in.remaining() >= 22) {
            names.add(in.text(NAME, "name").strip());
            firsts.add(in.u16("first bag"));
        }
        List<Inst> all = new ArrayList<>();
        for (int i = 0; i + 1 < names.size(); i++)
            all.add(new Inst(names.get(i), part(bags, firsts.get(i), firsts.get(i + 1), "instrument '" + names.get(i) + "'")));
        return all;
    }

    /// Where in the file the record of a preset begins, with its name.
    OptionalLong presetAt(int number) throws FormatException {
        ChunkReader in = need("phdr");
        return number + 1 < in.remaining() / PRESET ? OptionalLong.of(in.at() + (long) number * PRESET) : OptionalLong.empty();
    }

    List<Preset> presets() throws FormatException {
        ChunkReader in = need("phdr");
        List<Bag> bags = bags("pbag", "pgen", "pmod");
        record Row(String name, int number, int bank, int firstBag) {}
        List<Row> rows = new ArrayList<>();
        while (in.remaining() >= PRESET) {
            rows.add(new Row(in.text(NAME, "name").strip(), in.u16("preset"), in.u16("bank"), in.u16("first bag")));
            in.array(12, "reserved");
        }
        List<Preset> all = new ArrayList<>();
        for (int i = 0; i + 1 < rows.size(); i++) {
            Row row = rows.get(i);
            all.add(new Preset(row.name(), row.number(), row.bank(), part(bags, row.firstBag(), rows.get(i + 1).firstBag(), "preset '" + row.name() + "'")));
        }
        return all;
    }

    private <T> List<T> part(List<T> all, int from, int to, String what) {
        if (from <= to && to <= all.size()) return all.subList(from, to);
        problems.add(
                Problem.lost(what + " points at entries " + from + "…" + to + " of " + all.size() + "; those that are not there are left out", "'pdta' list"));
        return all.subList(Math.min(from, all.size()), Math.max(Math.min(from, all.size()), Math.min(to, all.size())));
    }

    private List<Bag> bags(String bagId, String generatorId, String modulatorId) throws FormatException {
        ChunkReader bag = need(bagId), gen = need(generatorId), mod = need(modulatorId);
        List<int[]> generators = new ArrayList<>(), bags = new ArrayList<>();
        while (gen.remaining() >= 4)
            generators.add(new int[]{gen.u16("operator"), gen.s16("amount")});
        List<Sf2Modulators.Modulator> modulators = new ArrayList<>();
        while (mod.remaining() >= Sf2Modulators.BYTES)
            modulators.add(
                    new Sf2Modulators.Modulator(mod.u16("source"), mod.u16("destination"), mod.s16("amount"), mod.u16("amount source"), mod.u16("transform")));
        while (bag.remaining() >= 4)
            bags.add(new int[]{bag.u16("first generator"), bag.u16("first modulator")});
        List<Bag> all = new ArrayList<>();
        for (int i = 0; i + 1 < bags.size(); i++) {
            Map<Integer, Integer> set = new LinkedHashMap<>();
            part(generators, bags.get(i)[0], bags.get(i + 1)[0], "'" + bagId + "' " + i).forEach(g -> set.put(g[0], g[1]));
            all.add(new Bag(set, part(modulators, bags.get(i)[1], bags.get(i + 1)[1], "'" + bagId + "' " + i)));
        }
        return all;
    }
}
