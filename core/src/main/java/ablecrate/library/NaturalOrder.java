package ablecrate.library;

import java.util.Comparator;

/// `pad 2` before `pad 10`, upper and lower case alike; equal texts by their exact characters.
public final class NaturalOrder implements Comparator<String> {
    public static final NaturalOrder INSTANCE = new NaturalOrder();

    private NaturalOrder() {}

    @Override public int compare(String a, String b) {
        int i = 0, j = 0;
        while (i < a.length() && j < b.length()) {
            char x = a.charAt(i), y = b.charAt(j);
            if (isDigit(x) && isDigit(y)) {
                int iEnd = endOfDigits(a, i), jEnd = endOfDigits(b, j);
                String m = a.substring(endOfZeros(a, i, iEnd), iEnd), n = b.substring(endOfZeros(b, j, jEnd), jEnd);
                int order = m.length() != n.length() ? Integer.compare(m.length(), n.length()) : m.compareTo(n);
                if (order != 0) return order;
                i = iEnd;
                j = jEnd;
            } else {
                int order = Character.compare(Character.toLowerCase(x), Character.toLowerCase(y));
                if (order != 0) return order;
                i++;
                j++;
            }
        }
        int rest = Integer.compare(a.length() - i, b.length() - j);
        return rest != 0 ? rest : a.compareTo(b);
    }

    private static boolean isDigit(char c) { return c >= '0' && c <= '9'; }

    private static int endOfZeros(String s, int from, int to) {
        int end = from;
        while (end < to && s.charAt(end) == '0')
            end++;
        return end;
    }

    private static int endOfDigits(String s, int from) {
        int end = from;
        while (end < s.length() && isDigit(s.charAt(end)))
            end++;
        return end;
    }
}
