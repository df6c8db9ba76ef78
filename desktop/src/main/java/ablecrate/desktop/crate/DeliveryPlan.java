package ablecrate.desktop.crate;

import ablecrate.job.Delivery;
import ablecrate.plan.PackingList;
import java.util.Optional;

/// One of the job's destinations, with its packing list as far as that is planned.
/// @param name of the destination, for people
/// @param fault why it cannot be planned
public record DeliveryPlan(Delivery delivery, String name, Optional<Overview> overview, Optional<String> fault) {
    public Optional<PackingList> list() { return overview.map(Overview::list); }

    /// Whether all is known that packing has to know.
    public boolean isSettled() { return overview.filter(Overview::isSettled).isPresent(); }
}
