package ablecrate;

import static java.lang.foreign.ValueLayout.ADDRESS;
import static java.lang.foreign.ValueLayout.JAVA_DOUBLE;
import static java.lang.foreign.ValueLayout.JAVA_INT;
import static java.lang.foreign.ValueLayout.JAVA_LONG;

import java.lang.foreign.Arena;
import java.lang.foreign.FunctionDescriptor;
import java.lang.foreign.Linker;
import java.lang.foreign.MemoryLayout;
import java.lang.foreign.SymbolLookup;
import java.util.Optional;

/// A C library of the system, where it has it.
@SuppressWarnings("restricted") public final class NativeLibrary {
    private final SymbolLookup library;
    private final Linker linker = Linker.nativeLinker();

    private NativeLibrary(SymbolLookup library) { this.library = library; }

    /// @param name as the linker knows it: `libx.so.1`
    public static Optional<NativeLibrary> find(String name) {
        try {
            return Optional.of(new NativeLibrary(SymbolLookup.libraryLookup(name, Arena.global())));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /// @param result null for none
    /// @param arguments integers, longs, doubles or addresses
    public Object call(String name, MemoryLayout result, Object... arguments) {
        MemoryLayout[] layouts = new MemoryLayout[arguments.length];
        for (int i = 0; i < arguments.length; i++)
            layouts[i] = switch (arguments[i]) {
                case Integer _ -> JAVA_INT;
                case Long _ -> JAVA_LONG;
                case Double _ -> JAVA_DOUBLE;
                default -> ADDRESS;
            };
        FunctionDescriptor shape = result == null ? FunctionDescriptor.ofVoid(layouts) : FunctionDescriptor.of(result, layouts);
        try {
            return linker.downcallHandle(library.find(name).orElseThrow(), shape).invokeWithArguments(arguments);
        } catch (Throwable e) {
            throw new AssertionError(name, e);
        }
    }
}
