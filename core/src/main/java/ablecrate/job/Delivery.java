package ablecrate.job;

import ablecrate.option.PackOptions;
import ablecrate.option.Placing;
import java.nio.file.Path;
import java.util.Optional;

/// One of the destinations that a job is packed for: what it takes, what is chosen for it, and where its files go.
/// @param destination id of a built-in sheet, or a sheet's file
/// @param into folder to pack into
public record Delivery(String destination, PackOptions options, Optional<Path> into) {
    /// Options of the old destination that the new one may not take are left behind.
    public Delivery aimedAt(String otherDestination) {
        PackOptions carried = PackOptions.DEFAULT.withDither(options.dither())
                .withPlacing(Placing.USUAL.withExisting(options.existing()).withVerifying(options.placing().verifies())).withMonoLaw(options.monoLaw())
                .withTreatment(options.treatment()).withInstruments(options.instruments()).withQuality(options.quality()).withMending(options.mending())
                .withMetadata(options.metadata()).withSession(options.session());
        return new Delivery(otherDestination, carried, into);
    }

    public Delivery withOptions(PackOptions other) { return new Delivery(destination, other, into); }

    public Delivery packingInto(Optional<Path> folder) { return new Delivery(destination, options, folder); }
}
