package ablecrate.destination;

import com.fasterxml.jackson.annotation.JsonProperty;

/// A sheet as its file has it: the sheet and the reference to its schema.
record SheetFile(@JsonProperty("$schema") String schema, String id, String name, String about, DestinationSheet.Accepts accepts,
        DestinationSheet.Defaults defaults, DestinationSheet.Names names, DestinationSheet.Layout layout, DestinationSheet.Keeps keeps, DeviceLimits limits,
        CardRules card,
        String document) {
    DestinationSheet sheet() { return new DestinationSheet(id, name, about, accepts, defaults, names, layout, keeps, limits, card, document); }
}
