package ablecrate.option;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// What is said of a sound alone. All else is as for all sounds, also where that changes later.
/// @param values of options of sounds, of the types that these have, in the order of the options
public record OwnTreatment(Map<Option<?>, Object> values) {
    public static final OwnTreatment NONE = new OwnTreatment(Map.of());

    public OwnTreatment {
        Map<Option<?>, Object> ordered = new LinkedHashMap<>();
        for (Option<?> option : values.isEmpty() ? List.<Option<?>>of() : Options.ofSounds())
            if (values.containsKey(option)) ordered.put(option, values.get(option));
        values = ordered;
    }

    public boolean isNone() { return values.isEmpty(); }

    /// What holds for the sound.
    /// @param all what holds for all sounds
    public Treatment over(Treatment all) {
        Treatment own = all;
        // A clip is cut into slices or into parts, not both.
        if (values.get(SoundOptions.CHOP) instanceof Chop chop && chop.by() != Chop.By.NONE) own = own.withFinds(own.finds().withParts(List.of()));
        if (values.get(SoundOptions.PART) instanceof List<?> parts && !parts.isEmpty())
            own = own.withFinds(own.finds().withChop(own.finds().chop().withPlaces(Chop.NONE)));
        for (Map.Entry<Option<?>, Object> value : values.entrySet())
            own = with(own, value.getKey(), value.getValue());
        return own;
    }

    @SuppressWarnings("unchecked") private static <T> Treatment with(Treatment treatment, Option<T> option, Object value) {
        return option.with(treatment, (T) value);
    }

    /// With what another says as well, which goes before this.
    public OwnTreatment with(OwnTreatment other) {
        if (isNone() || other.isNone()) return isNone() ? other : this;
        Map<Option<?>, Object> both = new LinkedHashMap<>(values);
        both.putAll(other.values);
        return new OwnTreatment(both);
    }

    /// With what differs between how the sound was treated and how it is to be; what is as for all again is said no more.
    /// @param all what holds for all sounds
    public OwnTreatment changed(Treatment all, Treatment wanted) {
        Treatment before = over(all);
        Map<Option<?>, Object> now = new LinkedHashMap<>(values);
        for (Option<?> option : Options.ofSounds()) {
            Object value = option.get(wanted);
            if (value.equals(option.get(before))) continue;
            if (value.equals(option.get(all)))
                now.remove(option);
            else
                now.put(option, value);
        }
        return new OwnTreatment(now);
    }
}
