package ablecrate.cli;

import ablecrate.codec.SurvivalTable;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
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
            out.print(SurvivalTable.markdown());
            out.flush();
            return Main.ALL_PACKED;
        }
        List<List<String>> rows = new ArrayList<>();
        List<String> head = new ArrayList<>(List.of(""));
        head.addAll(SurvivalTable.columns());
        rows.add(head);
        for (SurvivalTable.Row row : SurvivalTable.rows()) {
            List<String> cells = new ArrayList<>(List.of(row.property()));
            cells.addAll(row.cells());
            rows.add(cells);
        }
        Tables.print(out, rows);
        return Main.ALL_PACKED;
    }
}
