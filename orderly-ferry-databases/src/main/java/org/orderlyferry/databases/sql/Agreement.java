package org.orderlyferry.databases.sql;

import java.util.Set;
import org.orderlyferry.model.SqlText;

/**
 * What two systems agree about, or one and itself.
 *
 * @param from whose expressions they are
 * @param to whose they are to be
 */
record Agreement(String from, String to) {

    private static final Set<String> SAME_LETTERS = Set.of("H2", "PostgreSQL", SqlText.ISO);

    /** Whether it is one system, which agrees with itself about all. */
    boolean isOne() {
        return from.equals(to);
    }

    /** Whether LIKE, LOWER and UPPER mean the same. */
    boolean isOfLetters() {
        return isOne() || SAME_LETTERS.contains(from) && SAME_LETTERS.contains(to);
    }

    /** Whether 3 * 0.05 is 0.15: SQLite has fractions in binary alone. */
    boolean isOfFractions() {
        return isOne() || !isEither("SQLite");
    }

    /** Whether what is reckoned of a decimal and a binary number is binary; H2 makes decimals of both. */
    boolean isOfMixedNumbers() {
        return isOne() || !isEither("H2");
    }

    /** Whether a text of a fixed length is as long as what was put into it; H2 fills it up for functions, too. */
    boolean isOfBlanks() {
        return isOne() || !isEither("H2");
    }

    /** Whether a day is its midnight; SQLite has both as texts, of which the shorter one comes first. */
    boolean isOfMidnights() {
        return !from.equals("SQLite");
    }

    private boolean isEither(String system) {
        return from.equals(system) || to.equals(system);
    }
}
