package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;
import java.util.function.UnaryOperator;
import org.apiguardian.api.API;

/**
 * A text in pieces that are to be joined, where a literal can't hold all of it: a control character stands as what its number
 * gives, and no piece is longer than a literal may be, or holds what it must not.
 *
 * @param longest how many characters, in units of UTF-16, a piece has; one more where that would cut a character in two
 * @param never two characters that don't stand in one piece; empty for none
 * @param piece writes a piece that holds no control character
 * @param control writes the character of a number
 */
@API(status = API.Status.INTERNAL)
public record LiteralPieces(int longest, String never, UnaryOperator<String> piece, IntFunction<String> control) {

    /** The text's pieces, in their order; none for an empty text. */
    public List<String> of(String text) {
        List<String> pieces = new ArrayList<>();
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean isControl = isControl(c);
            if (i > from && (isControl || endsBefore(text, from, i))) {
                pieces.add(piece.apply(text.substring(from, i)));
                from = i;
            }
            if (isControl) {
                pieces.add(control.apply(c));
                from = i + 1;
            }
        }
        if (from < text.length()) {
            pieces.add(piece.apply(text.substring(from)));
        }
        return pieces;
    }

    /** Whether a text is one piece. */
    public boolean isOne(String text) {
        return text.length() <= longest
                && (never.isEmpty() || !text.contains(never))
                && text.chars().noneMatch(LiteralPieces::isControl);
    }

    private boolean endsBefore(String text, int from, int at) {
        return at - from >= longest && !Character.isLowSurrogate(text.charAt(at))
                || !never.isEmpty() && text.startsWith(never, at - 1);
    }

    private static boolean isControl(int c) {
        return c < ' ' || c == 0x7F;
    }
}
