package org.orderlyferry.reshape;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.LikePattern;

/** Reads a condition. Columns go by the table's names; constants are compared as values of their column's type. */
final class ConditionParser {

    private static final Pattern TOKEN = Pattern.compile(
            "\\s*(?:(\"(?:[^\"]++|\"\")++\")|('(?:[^']++|'')*+')|(-?\\d+(?:\\.\\d+)?)|(<>|<=|>=|!=|[=<>(),])|([\\p{L}_][\\p{L}\\p{N}_.$]*))");

    /** Each may stand inside of the one before it. */
    private static final int MOST_PARTS = 500;

    /** Of so many values a server is asked one by one. */
    private static final int FEW = 100;

    /** How much of a condition is told that can't be read. */
    private static final int LONGEST = 200;

    private final String text;
    private final TableDefinition table;
    private final List<String> tokens = new ArrayList<>();
    private int at;
    private int parts;

    private ConditionParser(String text, TableDefinition table) {
        this.text = text;
        this.table = table;
        Matcher matcher = TOKEN.matcher(text);
        int from = 0;
        while (from < text.length()) {
            if (!matcher.find(from) || matcher.start() != from) {
                if (text.substring(from).isBlank()) {
                    break;
                }
                throw wrong("can't be read from '" + text.substring(from).strip() + "' on");
            }
            tokens.add(matcher.group().strip());
            from = matcher.end();
        }
    }

    static Condition parse(String text, TableDefinition table) {
        ConditionParser parser = new ConditionParser(text, table);
        Condition condition = parser.either();
        if (parser.at < parser.tokens.size()) {
            throw parser.wrong("goes on with " + parser.tokens.get(parser.at) + " where it should end");
        }
        return condition;
    }

    private Condition either() {
        Condition one = both();
        while (isNext("OR")) {
            one = new Condition.Both(one, both(), false);
        }
        return one;
    }

    private Condition both() {
        Condition one = single();
        while (isNext("AND")) {
            one = new Condition.Both(one, single(), true);
        }
        return one;
    }

    private Condition single() {
        parts++;
        if (parts > MOST_PARTS) {
            throw wrong("has more than " + MOST_PARTS + " parts");
        }
        if (isNext("NOT")) {
            return new Condition.Not(single());
        }
        if (isNext("(")) {
            Condition inner = either();
            must(")");
            return inner;
        }
        ColumnDefinition column = column();
        if (isNext("IS")) {
            boolean not = isNext("NOT");
            must("NULL");
            Condition isNull = new Condition.IsNull(column.name());
            return not ? new Condition.Not(isNull) : isNull;
        }
        boolean not = isNext("NOT");
        Condition test = isNext("LIKE") ? like(column) : isNext("IN") ? in(column) : compared(column);
        return not ? new Condition.Not(test) : test;
    }

    private Condition like(ColumnDefinition column) {
        LikePattern pattern = LikePattern.of(constant(), Optional.empty()).orElseThrow();
        return new Condition.Test(column.name(), value -> pattern.matches(value, false), Optional.empty());
    }

    private Condition in(ColumnDefinition column) {
        must("(");
        List<ComparedValue> values = new ArrayList<>();
        do {
            values.add(value(column));
        } while (isNext(","));
        must(")");
        List<Restriction> any =
                values.stream().flatMap(v -> v.restriction("=").stream()).toList();
        return new Condition.Test(
                column.name(),
                value -> values.stream().anyMatch(v -> v.compare(value) == 0),
                any.size() == values.size() && any.size() <= FEW
                        ? Optional.of(new Restriction.Several(any, false))
                        : Optional.empty());
    }

    private Condition compared(ColumnDefinition column) {
        String operator = next("a comparison");
        ComparedValue constant = value(column);
        Predicate<String> test =
                switch (operator) {
                    case "=" -> value -> constant.compare(value) == 0;
                    case "<>", "!=" -> value -> constant.compare(value) != 0;
                    case "<" -> value -> constant.compare(value) < 0;
                    case "<=" -> value -> constant.compare(value) <= 0;
                    case ">" -> value -> constant.compare(value) > 0;
                    case ">=" -> value -> constant.compare(value) >= 0;
                    default -> throw wrong("has " + operator + " where a comparison should stand");
                };
        return new Condition.Test(column.name(), test, constant.restriction(operator));
    }

    /** A constant that is no value of the column's type is told now, not at the first record. */
    private ComparedValue value(ColumnDefinition column) {
        String constant = constant();
        try {
            return ComparedValue.of(column, constant);
        } catch (InvalidValueException e) {
            throw wrong("compares column " + column.name() + ", which is " + column.type() + ", with '" + constant
                    + "', which " + e.getMessage());
        }
    }

    private ColumnDefinition column() {
        String token = next("a column");
        String name =
                token.startsWith("\"") ? token.substring(1, token.length() - 1).replace("\"\"", "\"") : token;
        return table.column(name)
                .or(() -> table.columns().stream()
                        .filter(c -> c.name().equalsIgnoreCase(name))
                        .findFirst())
                .orElseThrow(() -> wrong("asks for a column " + name + ", and table " + table.name() + " has "
                        + Listed.of(table.columnNames())));
    }

    private String constant() {
        String token = next("a value");
        if (token.startsWith("'")) {
            return token.substring(1, token.length() - 1).replace("''", "'");
        }
        String lower = token.toLowerCase(Locale.ROOT);
        if (lower.equals("true") || lower.equals("false")) {
            return lower;
        }
        if (token.matches("-?\\d.*")) {
            return token;
        }
        throw wrong("has " + token + " where a value should stand; texts stand between '");
    }

    private boolean isNext(String word) {
        if (at < tokens.size() && tokens.get(at).equalsIgnoreCase(word)) {
            at++;
            return true;
        }
        return false;
    }

    private void must(String word) {
        if (!isNext(word)) {
            throw wrong("lacks " + word + (at < tokens.size() ? " before " + tokens.get(at) : " at its end"));
        }
    }

    private String next(String what) {
        if (at == tokens.size()) {
            throw wrong("ends where " + what + " should stand");
        }
        return tokens.get(at++);
    }

    private UsageException wrong(String what) {
        String shown = text.length() > LONGEST ? text.substring(0, LONGEST) + "…" : text;
        return new UsageException("the condition " + what + ": " + shown);
    }
}
