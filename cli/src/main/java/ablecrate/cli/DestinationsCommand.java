package ablecrate.cli;

import ablecrate.destination.SheetCatalogue;
import ablecrate.json.Json;
import java.io.PrintWriter;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "destinations", mixinStandardHelpOptions = true, description = "The destination sheets.") final class DestinationsCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;

    @Override public Integer call() {
        Tables.print(spec.commandLine().getOut(), new SheetCatalogue().builtIn().stream().map(s -> List.of(s.id(), s.name(), s.about())).toList());
        return Main.ALL_PACKED;
    }

    @Command(name = "show", mixinStandardHelpOptions = true, description = "One sheet as JSON, to copy and change.") int show(
            @Parameters(paramLabel = "ID", description = "A built-in sheet, or a sheet's file.") String id) throws Exception {
        print(Json.write(new SheetCatalogue().find(id)));
        return Main.ALL_PACKED;
    }

    @Command(name = "schema", mixinStandardHelpOptions = true, description = "The JSON schema of sheets.") int schema() {
        print(SheetCatalogue.schema());
        return Main.ALL_PACKED;
    }

    private void print(String text) {
        PrintWriter out = spec.commandLine().getOut();
        out.print(text);
        out.flush();
    }
}
