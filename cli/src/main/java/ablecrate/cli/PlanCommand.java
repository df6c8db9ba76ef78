package ablecrate.cli;

import ablecrate.instrument.Instrument;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.plan.Change;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.Property;
import ablecrate.plan.Verdict;
import ablecrate.signal.SoundPath;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(name = "plan", mixinStandardHelpOptions = true, description = "The packing list: what packing would do. Nothing is written.") final class PlanCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;
    @Mixin private PlanningOptions options;
    @Option(names = "--json", description = "As JSON; the keys are stable.") private boolean json;

    record ListJson(String destination, Map<String, Integer> totals, List<ItemJson> items) {}

    record ItemJson(String source, String verdict, List<ChangeJson> changes, List<OutputJson> outputs, List<MapJson> maps) {}

    record MapJson(String path, String format, List<String> instruments, int zones) {}

    record ChangeJson(String property, String before, String after, String verdict, String reason) {}

    record OutputJson(String path, String container, int rateHz, int bitDepth, String sampleFormat, int channels, long frames, boolean bitForBit) {}

    @Override public Integer call() throws Exception {
        PackingList list = options.plan(new SoundPath(), Gatherer::readAll, spec.commandLine().getErr());
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            out.print(Json.write(json(list)));
            out.flush();
        } else
            print(out, list);
        return list.totals().get(Verdict.BLOCKED) == 0 ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private static ListJson json(PackingList list) {
        Map<String, Integer> totals = new LinkedHashMap<>();
        list.totals().forEach((verdict, n) -> totals.put(verdict.id(), n));
        return new ListJson(list.destination().id(), totals, list.items().stream().map(PlanCommand::json).toList());
    }

    private static ItemJson json(PackingItem item) {
        return new ItemJson(item.source().path().toString(), item.verdict().id(),
                item.changes().stream().map(c -> new ChangeJson(c.property().id(), c.before(), c.after(), c.verdict().id(), c.reason())).toList(),
                // What lies in a bank is no file of its own.
                item.maps().stream().anyMatch(PlannedMap::holdsSounds) ? List.of() : item.outputs().stream().map(PlanCommand::json).toList(),
                item.maps().stream().map(m -> new MapJson(m.path(), m.formatId(), m.instruments().stream().map(Instrument::name).toList(),
                        m.instruments().stream().mapToInt(i -> i.zones().size()).sum())).toList());
    }

    private static OutputJson json(PlannedOutput o) {
        return new OutputJson(o.path(), o.formatId(), o.shape().rateHz(), o.shape().depth().bits(), o.shape().depth().isFloat() ? "float" : "integer",
                o.shape().channels(),
                o.shape().frames(), o.isVerbatim());
    }

    private static void print(PrintWriter out, PackingList list) {
        List<List<String>> rows = new ArrayList<>();
        for (PackingItem item : list.items()) {
            List<String> words = new ArrayList<>();
            for (Change c : item.changes())
                if (c.property() != Property.NAME || c.verdict() != Verdict.KEPT || item.isInstruments())
                    words.add(c.verdict() == Verdict.BLOCKED
                            ? c.before() + ": " + c.reason()
                            : c.before() + " → " + c.after() + (c.reason().isEmpty() ? "" : " (" + c.reason() + ")"));
            rows.add(List.of(item.verdict().id(), item.source().relative().toString(), String.join("; ", words)));
        }
        Tables.print(out, rows);
        out.println();
        List<String> totals = new ArrayList<>();
        list.totals().forEach((verdict, n) -> totals.add(n + " " + verdict.id()));
        out.println(list.destination().name() + ": " + String.join(", ", totals));
    }
}
