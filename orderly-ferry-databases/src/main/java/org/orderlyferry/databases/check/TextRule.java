package org.orderlyferry.databases.check;

import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.AsciiCase;

/** How a system compares the texts of a column. */
enum TextRule {
    /** By their characters. */
    EXACT,
    /** By their characters; what blanks at the end count for differs. */
    PADDED,
    /** The same, and the system may have put blanks at a text's end that count. */
    BLANKED,
    /** In letters of ASCII, case makes no difference; SQLite's NOCASE. */
    CASELESS,
    /** Case and accents may make no difference, nor blanks at the end; different letters, digits and signs of ASCII do. */
    LOOSE,
    /** In a way that isn't known. */
    UNKNOWN,
    /** As whatever they are compared with. */
    LITERAL;

    /** Those without rules of a language, under which {@code i} and {@code y}, or {@code v} and {@code w}, may be the same. */
    private static final Pattern PLAIN_MARIADB =
            Pattern.compile("utf8(mb3|mb4)?_(general|unicode|unicode_520|uca1400)(_nopad)?(_a[is])?_c[is]");

    private static final Pattern CASELESS_TYPE = Pattern.compile("(?i)ignorecase|citext");

    private static final Pattern PLAIN = Pattern.compile("[ -~]*+");

    /** Of a column of a system. */
    static TextRule of(ColumnDefinition column, String system) {
        TextRule rule = byCollation(column, system);
        if (column.type().name() != TypeName.CHARACTER) {
            return rule;
        }
        return system.equals("H2") ? BLANKED : rule == EXACT ? PADDED : rule;
    }

    private static TextRule byCollation(ColumnDefinition column, String system) {
        String collation = column.collation();
        if (CASELESS_TYPE.matcher(column.sourceType()).find()) {
            return LOOSE;
        }
        return switch (system) {
            case "PostgreSQL", "H2" -> collation.isEmpty() ? EXACT : UNKNOWN;
            case "SQLite" ->
                switch (collation) {
                    case "" -> EXACT;
                    case "NOCASE" -> CASELESS;
                    case "RTRIM" -> PADDED;
                    default -> UNKNOWN;
                };
            case "MariaDB" ->
                collation.isEmpty()
                        ? EXACT
                        : collation.endsWith("_bin")
                                ? PADDED
                                : PLAIN_MARIADB.matcher(collation).matches() ? LOOSE : UNKNOWN;
            default -> UNKNOWN;
        };
    }

    /** The rule by which a text of this one and one of another are compared. */
    TextRule with(TextRule other) {
        if (this == LITERAL || other == LITERAL) {
            return this != LITERAL ? this : other != LITERAL ? other : UNKNOWN;
        }
        return this == other ? this : UNKNOWN;
    }

    /** Whether two texts are the same; nothing where that can't be told. */
    Optional<Boolean> same(String one, String other) {
        if (one.equals(other)) {
            return this == BLANKED || this == UNKNOWN ? Optional.empty() : Optional.of(true);
        }
        return switch (this) {
            case EXACT -> Optional.of(false);
            case PADDED, BLANKED -> unless(one.stripTrailing().equals(other.stripTrailing()));
            case CASELESS -> Optional.of(AsciiCase.small(one).equals(AsciiCase.small(other)));
            case LOOSE ->
                isPlain(one) && isPlain(other)
                        ? unless(AsciiCase.small(one.stripTrailing()).equals(AsciiCase.small(other.stripTrailing())))
                        : Optional.empty();
            case UNKNOWN, LITERAL -> Optional.empty();
        };
    }

    /** Whether texts may have blanks at their ends, or lose them. */
    boolean isPadded() {
        return this == PADDED || this == BLANKED;
    }

    private static Optional<Boolean> unless(boolean maybe) {
        return maybe ? Optional.empty() : Optional.of(false);
    }

    /** Whether a text has only printable characters of ASCII. */
    static boolean isPlain(String text) {
        return PLAIN.matcher(text).matches();
    }
}
