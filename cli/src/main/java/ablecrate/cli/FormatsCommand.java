package ablecrate.cli;

import ablecrate.codec.SurvivalTable;
import ablecrate.format.SurvivalTables;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(name = "formats", mixinStandardHelpOptions = true, description = "What survives where: what each format carries.") final class FormatsCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;
    @Option(names = "--markdown", description = "As a Markdown table.") private boolean markdown;

    @Override public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        if (markdown) {
            out.print(SurvivalTables.markdown());
            out.flush();
            return Main.ALL_PACKED;
        }
        for (SurvivalTable table : SurvivalTables.all()) {
            List<List<String>> rows = new ArrayList<>();
            rows.add(Stream.concat(Stream.of(table.title().toUpperCase(Locale.ROOT)), table.columns().stream()).toList());
            for (SurvivalTable.Row row : table.rows())
                rows.add(Stream.concat(Stream.of(row.property()), row.cells().stream()).toList());
            Tables.print(out, rows);
            out.println();
        }
        return Main.ALL_PACKED;
    }
}
