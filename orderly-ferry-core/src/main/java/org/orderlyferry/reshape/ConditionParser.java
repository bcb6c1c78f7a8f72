package org.orderlyferry.reshape;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/** Reads a condition. Columns go by the table's names; constants are compared as values of their column's type. */
final class ConditionParser {

    private static final Pattern TOKEN = Pattern.compile(
            "\\s*(?:(\"(?:[^\"]|\"\")+\")|('(?:[^']|'')*')|(-?\\d+(?:\\.\\d+)?)|(<>|<=|>=|!=|[=<>(),])|([\\p{L}_][\\p{L}\\p{N}_.$]*))");

    private final String text;
    private final TableDefinition table;
    private final List<String> tokens = new ArrayList<>();
    private int at;

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
        Condition test = new Condition.Test(
                column.name(), isNext("LIKE") ? like() : isNext("IN") ? in(column) : compared(column));
        return not ? new Condition.Not(test) : test;
    }

    private Predicate<String> like() {
        String pattern = constant();
        StringBuilder regex = new StringBuilder();
        pattern.codePoints()
                .forEach(c -> regex.append(c == '%' ? ".*" : c == '_' ? "." : Pattern.quote(Character.toString(c))));
        Pattern compiled = Pattern.compile(regex.toString(), Pattern.DOTALL);
        return value -> compiled.matcher(value).matches();
    }

    private Predicate<String> in(ColumnDefinition column) {
        must("(");
        List<String> values = new ArrayList<>();
        do {
            values.add(constant());
        } while (isNext(","));
        must(")");
        return value -> values.stream().anyMatch(v -> compare(column.type(), value, v) == 0);
    }

    private Predicate<String> compared(ColumnDefinition column) {
        String operator = next("a comparison");
        String constant = constant();
        // a constant that is no value of the column's type is told now, not at the first record
        compare(column.type(), constant, constant);
        return switch (operator) {
            case "=" -> value -> compare(column.type(), value, constant) == 0;
            case "<>", "!=" -> value -> compare(column.type(), value, constant) != 0;
            case "<" -> value -> compare(column.type(), value, constant) < 0;
            case "<=" -> value -> compare(column.type(), value, constant) <= 0;
            case ">" -> value -> compare(column.type(), value, constant) > 0;
            case ">=" -> value -> compare(column.type(), value, constant) >= 0;
            default -> throw wrong("has " + operator + " where a comparison should stand");
        };
    }

    private int compare(LogicalType type, String one, String other) {
        TypeName name = type.name();
        try {
            if (name.isExactNumber()) {
                return new BigDecimal(one).compareTo(new BigDecimal(other));
            }
            if (name.isApproximateNumber()) {
                return Double.compare(
                        org.orderlyferry.record.text.JavaValues.doubleOf(one),
                        org.orderlyferry.record.text.JavaValues.doubleOf(other));
            }
        } catch (NumberFormatException e) {
            throw wrong("compares a number with '" + other + "'");
        }
        return one.compareTo(other);
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
                        + String.join(", ", table.columnNames())));
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
        return new UsageException("the condition " + what + ": " + text);
    }
}
