package org.orderlyferry.databases.script;

import java.util.Set;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.Identity;
import org.orderlyferry.problem.UsageException;

/** What a script says of a counter behind {@code AS IDENTITY} (ISO/IEC 9075-2, sequence generator options). */
final class CounterText {

    /** Options that change nothing of the numbers that records get. */
    private static final Set<String> OPTIONS = Set.of(
            "MINVALUE",
            "MAXVALUE",
            "NOMINVALUE",
            "NOMAXVALUE",
            "CACHE",
            "NOCACHE",
            "ORDER",
            "NOORDER",
            "CYCLE",
            "NOCYCLE",
            "KEEP",
            "NOKEEP",
            "SCALE",
            "NOSCALE");

    private CounterText() {}

    /** Reads the options, in parentheses or not, if there are any, and goes past them. */
    static Identity read(Tokens tokens, boolean always) {
        return read(tokens, always, 1);
    }

    /**
     * Reads what a counter becomes.
     *
     * @param before by how much it counts where nothing is said
     */
    static Identity read(Tokens tokens, boolean always, long before) {
        boolean inside = tokens.skip("(");
        long start = 1;
        long increment = before;
        while (tokens.hasMore()
                && !tokens.peek().isSymbol(")")
                && !tokens.peek().isSymbol(",")) {
            if (tokens.skip("START")) {
                tokens.skip("WITH");
                // Oracle's LIMIT VALUE is found when the records are there
                start = tokens.skip("LIMIT") ? 1 : number(tokens);
            } else if (tokens.skip("INCREMENT")) {
                tokens.skip("BY");
                increment = number(tokens);
            } else if (inside || OPTIONS.contains(tokens.upper()) || isNumber(tokens)) {
                tokens.next();
            } else {
                break;
            }
        }
        if (inside) {
            tokens.skip(")");
        }
        return new Identity(always, start, increment, start);
    }

    /** Reads all options of a sequence, to the statement's end. */
    static Identity readAll(Tokens tokens) {
        long start = 1;
        long increment = 1;
        boolean told = false;
        while (tokens.hasMore()) {
            if (tokens.skip("START")) {
                tokens.skip("WITH");
                start = number(tokens);
                told = true;
            } else if (tokens.skip("INCREMENT")) {
                tokens.skip("BY");
                increment = number(tokens);
            } else {
                tokens.next();
            }
        }
        // one that counts down begins below zero
        start = told || increment > 0 ? start : -1;
        return new Identity(false, start, increment, start);
    }

    /** Reads {@code (start, increment)} of SQL Server, if it is there. */
    static Identity readPair(Tokens tokens) {
        long start = 1;
        long increment = 1;
        if (tokens.skip("(")) {
            start = number(tokens);
            increment = tokens.skip(",") ? number(tokens) : 1;
            tokens.skip(")");
        }
        return new Identity(true, start, increment, start);
    }

    private static boolean isNumber(Tokens tokens) {
        return tokens.peek().kind() == SqlToken.Kind.NUMBER || tokens.peek().isSymbol("-");
    }

    static long number(Tokens tokens) {
        boolean negative = tokens.skip("-");
        String digits = tokens.next().text();
        try {
            return Long.parseLong(negative ? "-" + digits : digits);
        } catch (NumberFormatException e) {
            throw new UsageException("a counter can't count by or from " + digits, e);
        }
    }
}
