package ablecrate.signal;

import java.lang.ref.SoftReference;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Supplier;

/// What was found out on the way to the last few answers and serves others: kept while there is memory. Safe for threads.
public final class Recent {
    private static final int MOST = 8;

    /// The one that was wanted last is the last.
    private final Map<Object, SoftReference<Object>> kept = new LinkedHashMap<>(16, 0.75f, true);

    /// @param key by which it is found again; keys of one type stand for values of one type
    /// @param made what is kept where nothing is; quickly made, and filled by whoever uses it
    @SuppressWarnings("unchecked") public synchronized <T> T of(Object key, Supplier<T> made) {
        SoftReference<Object> known = kept.get(key);
        Object value = known == null ? null : known.get();
        if (value == null) {
            value = made.get();
            kept.put(key, new SoftReference<>(value));
            if (kept.size() > MOST) kept.remove(kept.keySet().iterator().next());
        }
        return (T) value;
    }

    synchronized void clear() { kept.clear(); }
}
