package org.orderlyferry.databases.check;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.databases.sql.Expression;
import org.orderlyferry.databases.sql.ExpressionParser;
import org.orderlyferry.databases.sql.Portable;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.fit.Screening;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * A check of a table that records come to. It refuses what breaks the check for certain, and lets all else through to the
 * system. Safe for use by several threads.
 */
public final class CheckRule implements Screening.Rule {

    /** So much of a check is shown with each record that breaks it. */
    private static final int SHOWN = 160;

    private final CheckConstraint check;
    private final String shown;
    private final List<Part> parts;
    private final Map<Expression.Column, Integer> places;
    private final List<ColumnDefinition> columns;
    /** How the texts of each are compared. */
    private final List<TextRule> texts;

    private CheckRule(
            CheckConstraint check,
            List<Part> parts,
            Map<Expression.Column, Integer> places,
            List<ColumnDefinition> columns) {
        this.check = check;
        String sql = check.expression();
        this.shown = (check.name().isEmpty() ? "" : check.name() + ", ")
                + (sql.length() > SHOWN ? sql.substring(0, SHOWN) + "…" : sql);
        this.parts = parts;
        this.places = places;
        this.columns = columns;
        this.texts = columns.stream().map(c -> TextRule.of(c, check.system())).toList();
    }

    /**
     * What can be told of a table's checks.
     *
     * @param table as the target has it, or will have it
     * @param into the names of its columns to which values come, in the records' order
     */
    public static List<Screening.Rule> of(TableDefinition table, List<String> into) {
        List<Screening.Rule> rules = new ArrayList<>();
        for (CheckConstraint check : table.checks()) {
            rule(check, table, into).ifPresent(rules::add);
        }
        return rules;
    }

    private static Optional<CheckRule> rule(CheckConstraint check, TableDefinition table, List<String> into) {
        Map<Expression.Column, Integer> places = new HashMap<>();
        Portable portable = new Portable(
                column -> {
                    Optional<Integer> place =
                            column.among(into).map(into::indexOf).filter(p -> isAsItComes(column(table, into, p)));
                    place.ifPresent(p -> places.put(column, p));
                    return place.map(p -> column(table, into, p).type());
                },
                check.system(),
                check.system());
        CheckParts made = new CheckParts(check.system());
        List<Part> parts = ExpressionParser.parse(check.condition()).stream()
                .flatMap(CheckRule::parts)
                .flatMap(part -> portable.of(part).stream())
                .map(made::of)
                .toList();
        List<ColumnDefinition> columns =
                into.stream().map(name -> table.column(name).orElseThrow()).toList();
        return parts.isEmpty() || places.isEmpty()
                ? Optional.empty()
                : Optional.of(new CheckRule(check, parts, Map.copyOf(places), columns));
    }

    /** What has to hold all together; of these some may be told, and others not. */
    private static Stream<Expression> parts(Expression expression) {
        return expression instanceof Expression.Joined joined
                        && joined.operator().equals("AND")
                ? Stream.concat(parts(joined.left()), parts(joined.right()))
                : Stream.of(expression);
    }

    private static ColumnDefinition column(TableDefinition table, List<String> into, int place) {
        return table.column(into.get(place)).orElseThrow();
    }

    /** Whether the table holds just what comes: a counter may put a number in a null's place. */
    private static boolean isAsItComes(ColumnDefinition column) {
        return column.identity().isEmpty() && column.generation().isEmpty();
    }

    @Override
    public List<Integer> columns() {
        Set<Integer> sorted = new LinkedHashSet<>();
        places.values().stream().sorted().forEach(sorted::add);
        return List.copyOf(sorted);
    }

    @Override
    public void check(IntFunction<@Nullable String> values) throws InvalidValueException {
        for (Part part : parts) {
            if (part.of(column -> told(places.get(column), values)).equals(Told.FALSE)) {
                throw new InvalidValueException("breaks the target's check " + shown);
            }
        }
    }

    private Told told(@Nullable Integer place, IntFunction<@Nullable String> values) {
        if (place == null) {
            return Told.OPEN;
        }
        String value = values.apply(place);
        if (value == null) {
            return new Told.Nothing(texts.get(place));
        }
        Told told = told(columns.get(place), texts.get(place), value);
        return told instanceof Told.Open ? Told.VALUE : told;
    }

    private static Told told(ColumnDefinition column, TextRule rule, String value) {
        return switch (column.type().name()) {
            case SMALLINT, INTEGER, BIGINT -> NumberRules.of(value, Told.Exactness.WHOLE);
            case DECIMAL -> isText(column) ? Told.OPEN : NumberRules.of(value, Told.Exactness.DECIMAL);
            case REAL -> NumberRules.of(value, Told.Exactness.SINGLE);
            case DOUBLE -> NumberRules.of(value, Told.Exactness.DOUBLE);
            case CHARACTER, VARCHAR, CLOB -> new Told.Text(value, rule);
            case BOOLEAN -> value.equals("true") ? Told.TRUE : value.equals("false") ? Told.FALSE : Told.OPEN;
            case DATE -> Moments.of(value, false);
            case TIMESTAMP -> Moments.of(value, true);
            default -> Told.OPEN;
        };
    }

    /** SQLite compares decimals of many digits as the texts that it keeps for them. */
    private static boolean isText(ColumnDefinition column) {
        return column.sourceType().toUpperCase(Locale.ROOT).contains("TEXT");
    }
}
