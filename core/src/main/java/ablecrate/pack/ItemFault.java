package ablecrate.pack;

/// An item cannot be packed, for a reason that is no disk's fault.
final class ItemFault extends Exception {
    private static final long serialVersionUID = 1;

    ItemFault(String message) { super(message); }
}
