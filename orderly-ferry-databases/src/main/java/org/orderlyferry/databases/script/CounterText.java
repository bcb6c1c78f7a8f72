package org.orderlyferry.databases.script;

import org.orderlyferry.model.Identity;
import org.orderlyferry.problem.UsageException;

/** What a script says of a counter behind {@code AS IDENTITY} (ISO/IEC 9075-2, sequence generator options). */
final class CounterText {

    private CounterText() {}

    /** Reads the options, if there are any in parentheses, and goes past them. */
    static Identity read(Tokens tokens, boolean always) {
        long start = 1;
        long increment = 1;
        if (tokens.peek().isSymbol("(")) {
            int end = tokens.closing();
            while (tokens.at() < end) {
                if (tokens.skip("START")) {
                    tokens.skip("WITH");
                    start = number(tokens);
                } else if (tokens.skip("INCREMENT")) {
                    tokens.skip("BY");
                    increment = number(tokens);
                } else {
                    tokens.next();
                }
            }
            tokens.next();
        }
        return new Identity(always, start, increment, start);
    }

    private static long number(Tokens tokens) {
        boolean negative = tokens.skip("-");
        String digits = tokens.next().text();
        try {
            return Long.parseLong(negative ? "-" + digits : digits);
        } catch (NumberFormatException e) {
            throw new UsageException("a counter can't count by or from " + digits, e);
        }
    }
}
