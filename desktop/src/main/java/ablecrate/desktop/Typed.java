package ablecrate.desktop;

/// What people type into fields for numbers.
public final class Typed {
    private Typed() {}

    /// With the point and the minus sign that numbers are read with: keyboards and habits of many countries have a decimal comma.
    public static String number(String text) { return text.strip().replace(',', '.').replace('−', '-'); }
}
