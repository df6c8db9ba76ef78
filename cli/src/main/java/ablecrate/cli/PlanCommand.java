package ablecrate.cli;

import ablecrate.change.ChangeEntry;
import ablecrate.change.Verdict;
import ablecrate.instrument.Instrument;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.pack.Forecast;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SoundPath;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.IntStream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(name = "plan", mixinStandardHelpOptions = true, footer = {"", "Examples", "  ablecrate plan library --for four-track --details",
    "  ablecrate plan library --for session --into card",
    "  ablecrate plan clips --for files --level truepeak:-1 --treat 'kick*: fade-out 30'"}, description = "The packing list: what packing would do. Nothing is written.") final class PlanCommand
            implements
                Callable<Integer>,
                PlanningOptions.Taking {
    @Spec private CommandSpec spec;
    @Mixin private PlanningOptions options;
    @Option(names = "--details", description = "All changes of each sound, not only the worst.") private boolean details;
    @Option(names = "--json", description = "As JSON; the keys are stable. An array where there are several destinations.") private boolean json;

    record ListJson(String destination, Map<String, Integer> totals, List<ItemJson> items) {}

    /// @param there only with --into: `same`, `new`, `outdated`, `damaged`, `edited`, `strange` or `none`
    @JsonInclude(JsonInclude.Include.NON_ABSENT) record ItemJson(String source, String verdict, Optional<String> there, List<ChangeEntry> changes,
            List<OutputJson> outputs, List<MapJson> maps, List<SidecarJson> sidecars) {}

    record MapJson(String path, String format, List<String> instruments, int zones) {}

    record SidecarJson(String path, String kind, int entries) {}

    record OutputJson(String path, String container, int rateHz, int bitDepth, String sampleFormat, int channels, long frames, boolean bitForBit) {}

    @Override public Integer call() throws Exception {
        List<PlanningOptions.Planned> all = options.plan(options.destinations(), new SoundPath(), Gatherer::readAll, () -> false, spec.commandLine().getErr());
        PrintWriter out = spec.commandLine().getOut();
        List<ListJson> told = new ArrayList<>();
        for (PlanningOptions.Planned planned : all) {
            List<Forecast.Fate> fates = planned.into().isPresent() ? Forecast.of(planned.list(), planned.into().get()) : List.of();
            if (json)
                told.add(json(planned.list(), fates));
            else
                new ListPrinter(out, Terminal.ofProcess(), details).print(planned.list(), fates);
            if (!json && planned != all.getLast()) out.println();
        }
        if (json) out.print(Json.write(told.size() == 1 ? told.getFirst() : told));
        out.flush();
        return all.stream().allMatch(p -> isAllToGo(p.list())) ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private static boolean isAllToGo(PackingList list) {
        boolean isDamaged = list.options().mending().damageFails() && list.items().stream().anyMatch(PackingItem::isDamaged);
        return list.totals().get(Verdict.BLOCKED) == 0 && !isDamaged;
    }

    @Override public PlanningOptions planning() { return options; }

    private static ListJson json(PackingList list, List<Forecast.Fate> fates) {
        Map<String, Integer> totals = new LinkedHashMap<>();
        list.totals().forEach((verdict, n) -> totals.put(verdict.id(), n));
        return new ListJson(list.destination().id(), totals, IntStream.range(0, list.items().size())
                .mapToObj(i -> json(list.items().get(i), i < fates.size() ? Optional.of(fates.get(i).id()) : Optional.empty())).toList());
    }

    private static ItemJson json(PackingItem item, Optional<String> there) {
        return new ItemJson(item.source().path().toString(), item.verdict().id(), there,
                item.changes().stream().map(ChangeEntry::of).toList(),
                // What lies in a bank is no file of its own.
                item.maps().stream().anyMatch(PlannedMap::holdsSounds) ? List.of() : item.outputs().stream().map(PlanCommand::json).toList(),
                item.maps().stream().map(m -> new MapJson(m.path(), m.formatId(), m.instruments().stream().map(Instrument::name).toList(),
                        m.instruments().stream().mapToInt(i -> i.zones().size()).sum())).toList(),
                item.sidecars().stream().map(s -> new SidecarJson(s.path(), s.sidecar().id(), s.sidecar().entries())).toList());
    }

    private static OutputJson json(PlannedOutput o) {
        return new OutputJson(o.path(), o.formatId(), o.shape().rateHz(), o.shape().depth().bits(), o.shape().depth().isFloat() ? "float" : "integer",
                o.shape().channels(),
                o.shape().frames(), o.isVerbatim());
    }
}
