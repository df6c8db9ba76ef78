package ablecrate.standins;

/// A device does not take something.
final class Refused extends Exception {
    Refused(String reason) { super(reason); }
}
