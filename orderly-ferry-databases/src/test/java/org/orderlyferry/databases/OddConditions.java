package org.orderlyferry.databases;

import java.util.Random;
import java.util.function.UnaryOperator;

/** Conditions about a table in a system's SQL, with few brackets, so that operators' strengths count. The same seed gives the same ones. */
final class OddConditions {

    private final String system;
    private final Random random;
    private final UnaryOperator<String> quote;

    OddConditions(String system, long seed, UnaryOperator<String> quote) {
        this.system = system;
        this.random = new Random(seed);
        this.quote = quote;
    }

    String next() {
        return condition(random.nextInt(3));
    }

    private String one(String... of) {
        return of[random.nextInt(of.length)];
    }

    private String brackets(String sql) {
        return random.nextInt(4) == 0 ? "(" + sql + ")" : sql;
    }

    private String condition(int depth) {
        if (depth == 0 || random.nextInt(3) == 0) {
            return brackets(question());
        }
        return switch (random.nextInt(6)) {
            case 0, 1 -> brackets(condition(depth - 1) + " AND " + condition(depth - 1));
            case 2, 3 -> brackets(condition(depth - 1) + " OR " + condition(depth - 1));
            case 4 -> brackets("NOT " + condition(depth - 1));
            default ->
                brackets("CASE WHEN " + condition(depth - 1) + " THEN " + condition(depth - 1)
                        + (random.nextBoolean() ? "" : " ELSE " + condition(depth - 1)) + " END");
        };
    }

    private String not() {
        return random.nextInt(3) == 0 ? " NOT" : "";
    }

    private String question() {
        return switch (random.nextInt(21)) {
            case 0, 1, 2 -> number(2) + comparison() + number(2);
            case 3, 4 -> text(2) + comparison() + text(2);
            case 5 -> number(1) + not() + " BETWEEN " + number(1) + " AND " + number(1);
            case 6 -> text(1) + not() + " IN (" + text(0) + ", " + text(1) + ")";
            case 7 -> number(1) + not() + " IN (" + number(0) + ", " + number(0) + ")";
            case 8 ->
                text(1) + not() + " LIKE " + one("'a%'", "'%'", "'_'", "'A_'", "'a\\_'", "'a!_' ESCAPE '!'", "''");
            case 9 -> one(number(1), text(1), quote.apply("p"), quote.apply("d")) + " IS" + not() + " NULL";
            case 10 -> quote.apply("p") + one("", "", " = TRUE", " <> FALSE", " IS TRUE", " IS NOT FALSE", " = 1");
            case 11 -> quote.apply("d") + comparison() + one("DATE '2031-04-09'", "'2000-02-29'", quote.apply("d"));
            case 12 -> number(2) + one(" = ", " <> ") + number(1);
            case 13 ->
                one(number(1), text(1), moment())
                        + one(" = ", " < ", " + ", " - ", " > ")
                        + one(number(1), text(1), moment())
                        + comparison()
                        + one(number(1), text(1), moment());
            case 14 -> moment() + one(comparison(), " BETWEEN " + moment() + " AND ") + moment();
            case 15 ->
                one("COALESCE", "NULLIF") + "(" + one(number(1), text(1), moment()) + ", "
                        + one(number(1), text(1), moment()) + ")" + comparison() + one(number(1), text(1), moment());
            case 16 ->
                one(number(1), text(1), moment(), quote.apply("p"))
                        + comparison()
                        + one(number(1), text(1), moment(), quote.apply("p"));
            case 17, 18 ->
                one(quote.apply("n"), quote.apply("f"), quote.apply("r"))
                        + one("", " + 0.2", " * 3", " - .05", " + 1", " + -1")
                        + one("", "", " * ", " + ").replaceFirst(" $", " " + one(quote.apply("n"), quote.apply("f")))
                        + comparison()
                        + one("0.3", "0.1", ".15", "1.1", "0.01", "0.02", quote.apply("n"));
            default -> extra();
        };
    }

    private String moment() {
        return one(
                quote.apply("d"),
                quote.apply("e"),
                "DATE '2031-04-09'",
                "TIMESTAMP '2031-04-09 00:00:00'",
                "'2031-04-09'",
                "'2031-04-09 00:00:00'");
    }

    private String comparison() {
        return one(" = ", " <> ", " < ", " <= ", " > ", " >= ", "!=");
    }

    private String number(int depth) {
        if (depth == 0 || random.nextInt(3) == 0) {
            return one(
                    quote.apply("a"),
                    quote.apply("b"),
                    quote.apply("n"),
                    quote.apply("f"),
                    quote.apply("r"),
                    "0",
                    "1",
                    "2",
                    "-1",
                    "1.5",
                    "7",
                    "10",
                    "1e1",
                    ".5",
                    "100.00");
        }
        return switch (random.nextInt(9)) {
            case 0, 1 -> brackets(number(depth - 1) + one(" + ", " - ", "+", "-") + number(depth - 1));
            case 2 -> brackets(number(depth - 1) + " * " + number(depth - 1));
            case 3 -> brackets(number(depth - 1) + one(system.equals("H2") ? " * " : " / ", " % ") + number(depth - 1));
            case 4 -> brackets(one("- ", "-", "+ ") + number(depth - 1));
            case 5 -> one("ABS", "FLOOR", "ROUND", "CEIL") + "(" + number(depth - 1) + ")";
            case 6 -> one("COALESCE", "NULLIF") + "(" + number(depth - 1) + ", " + number(depth - 1) + ")";
            case 7 -> one("LENGTH", "CHAR_LENGTH", "OCTET_LENGTH") + "(" + text(depth - 1) + ")";
            default ->
                system.equals("H2")
                        ? quote.apply("b")
                        : brackets(quote.apply("a") + one(" & ", " | ", " << ") + one("1", "2", quote.apply("b")));
        };
    }

    private String text(int depth) {
        if (depth == 0 || random.nextInt(3) == 0) {
            return one(
                    quote.apply("s"),
                    quote.apply("t"),
                    quote.apply("c"),
                    "'a'",
                    "'A'",
                    "''",
                    "'ab'",
                    "'it''s'",
                    "' '",
                    "'10'",
                    "'Ü'");
        }
        return switch (random.nextInt(8)) {
            case 0, 1 ->
                system.equals("MariaDB")
                        ? "CONCAT(" + text(depth - 1) + ", " + text(depth - 1) + ")"
                        : brackets(text(depth - 1) + " || " + one(text(depth - 1), number(depth - 1)));
            case 2 -> one("LOWER", "UPPER", "TRIM", "LTRIM", "RTRIM") + "(" + text(depth - 1) + ")";
            case 3 -> one("COALESCE", "NULLIF") + "(" + text(depth - 1) + ", " + text(depth - 1) + ")";
            case 4 ->
                system.equals("SQLite")
                        ? "SUBSTR(" + text(depth - 1) + ", " + one("1", "2") + ", 2)"
                        : "SUBSTRING(" + text(depth - 1) + " FROM " + one("1", "2") + one("", " FOR 2") + ")";
            case 5 -> "REPLACE(" + text(depth - 1) + ", " + text(0) + ", " + text(0) + ")";
            case 6 ->
                "CAST(" + one(text(depth - 1), number(depth - 1)) + " AS "
                        + (system.equals("MariaDB") ? "CHAR(40)" : "VARCHAR(40)") + ")";
            default -> "CASE WHEN " + question() + " THEN " + text(depth - 1) + " ELSE " + text(depth - 1) + " END";
        };
    }

    /** What only this system says. */
    private String extra() {
        return switch (system) {
            case "PostgreSQL" ->
                one(
                        text(1) + " ~ " + one("'^a'", "'[0-9]'"),
                        number(1) + " IS DISTINCT FROM " + number(1),
                        quote.apply("s") + "::text || " + quote.apply("a") + " = " + text(1),
                        quote.apply("d") + " + 1 > " + quote.apply("d"),
                        number(1) + " = ANY (ARRAY[" + number(0) + ", 2])");
            case "SQLite" ->
                one(
                        text(1) + " || " + number(1) + one(" + ", " * ", " % ") + number(1) + comparison() + number(1),
                        number(1) + " IS NOT NULL",
                        text(1) + " GLOB 'a*'",
                        text(0) + " = " + text(0) + " COLLATE NOCASE",
                        "LENGTH(" + text(1) + ") - 1 > 0");
            case "MariaDB" ->
                one(
                        text(1) + " REGEXP " + one("'^a'", "'[0-9]'"),
                        number(1) + " <=> " + number(1),
                        number(1) + " DIV 2 = 1",
                        number(1) + " > 0 XOR " + number(1) + " > 1",
                        "!(" + number(1) + " > 0)");
            default ->
                one(
                        number(1) + " IS NOT DISTINCT FROM " + number(1),
                        text(1) + " REGEXP " + one("'^a'", "'[0-9]'"),
                        "BITAND(" + quote.apply("a") + ", 1) = 1",
                        "CHAR_LENGTH(" + text(1) + ") > 1");
        };
    }
}
