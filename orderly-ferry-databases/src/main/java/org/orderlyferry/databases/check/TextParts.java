package org.orderlyferry.databases.check;

import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.sql.Expression;
import org.orderlyferry.record.text.AsciiCase;
import org.orderlyferry.record.text.LikePattern;

/** Patterns and functions of texts, as far as it is sure what a system makes of them. */
final class TextParts {

    /** So long may a text be that is held against a pattern. */
    private static final int LONGEST = 10_000;

    private static final Set<String> COUNTS_CHARACTERS = Set.of("PostgreSQL", "MariaDB", "SQLite");

    private final String system;

    TextParts(String system) {
        this.system = system;
    }

    /** LIKE a constant pattern. */
    Part like(Part of, Expression pattern, Optional<Expression> escape) {
        if (!(pattern instanceof Expression.Text text)) {
            return Part.OPEN;
        }
        Optional<Integer> sign = escape.flatMap(TextParts::one);
        // without one of its own, a backslash takes the meaning from what follows in most systems
        if (escape.isPresent() ? sign.isEmpty() : text.value().indexOf('\\') >= 0) {
            return Part.OPEN;
        }
        Optional<LikePattern> read = LikePattern.of(text.value(), sign);
        return read.isEmpty() ? Part.OPEN : record -> like(of.of(record), read.get());
    }

    private static Optional<Integer> one(Expression expression) {
        return expression instanceof Expression.Text text
                        && text.value().codePointCount(0, text.value().length()) == 1
                ? Optional.of(text.value().codePointAt(0))
                : Optional.empty();
    }

    private Told like(Told told, LikePattern pattern) {
        if (told instanceof Told.Nothing) {
            return Told.NULL;
        }
        if (!(told instanceof Told.Text text)
                || !isKnown(text)
                || text.value().length() > LONGEST
                || pattern.countsCharacters() && !countsAsCharacters(text.value())) {
            return Told.OPEN;
        }
        String value = text.value();
        if (system.equals("SQLite")) {
            // whatever the column's collation
            return Told.truth(pattern.folded().matches(AsciiCase.small(value), false));
        }
        if (pattern.matches(value, false)) {
            return Told.TRUE;
        }
        return switch (text.rule()) {
            case EXACT -> Told.FALSE;
            case CASELESS, LOOSE ->
                pattern.matches(value, true) || !TextRule.isPlain(value) || !pattern.isPlain() ? Told.OPEN : Told.FALSE;
            default -> Told.OPEN;
        };
    }

    /** Whether it is sure what a text's characters are. */
    private static boolean isKnown(Told.Text text) {
        return !text.rule().isPadded()
                && text.rule() != TextRule.UNKNOWN
                && text.value().indexOf('\0') < 0;
    }

    /** Whether a text's characters are what the system counts: H2 counts units of UTF-16. */
    private boolean countsAsCharacters(String text) {
        return COUNTS_CHARACTERS.contains(system) || text.chars().noneMatch(c -> Character.isSurrogate((char) c));
    }

    /** CHAR_LENGTH of a text. */
    Told characters(Told told) {
        return told instanceof Told.Text text
                        && isKnown(text)
                        && (countsAsCharacters(text.value()) || system.equals("H2"))
                ? new Told.Number(BigDecimal.valueOf(length(text.value())), Told.Exactness.WHOLE)
                : Told.OPEN;
    }

    private int length(String text) {
        return system.equals("H2") ? text.length() : text.codePointCount(0, text.length());
    }

    /** UPPER or LOWER of a text: of letters beyond ASCII, systems and their settings know more or less. */
    static Told inCase(Told told, boolean capitals) {
        if (told instanceof Told.Text text && text.value().chars().allMatch(c -> c > 0 && c < 0x80)) {
            String folded = AsciiCase.small(text.value());
            return new Told.Text(capitals ? folded.toUpperCase(Locale.ROOT) : folded, text.rule());
        }
        return Told.OPEN;
    }

    /** How a text is compared that a function gives, systems see differently, unless it is by its characters. */
    static Told computed(Told result, List<Told> given) {
        if (!(result instanceof Told.Text text)) {
            return result;
        }
        boolean exact = given.stream().map(TextParts::rule).allMatch(r -> r == TextRule.EXACT || r == TextRule.LITERAL);
        return new Told.Text(text.value(), exact ? TextRule.EXACT : TextRule.UNKNOWN);
    }

    private static TextRule rule(Told told) {
        return told instanceof Told.Text text
                ? text.rule()
                : told instanceof Told.Nothing nothing ? nothing.rule() : TextRule.UNKNOWN;
    }
}
