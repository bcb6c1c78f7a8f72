package org.orderlyferry.reshape;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.problem.UsageException;

/** Conditions compare as ISO/IEC 9075-2 does, however a constant is written. */
class ConditionTest {

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column("number", LogicalType.INTEGER)
            .column("exact", LogicalType.decimal(12, 3))
            .column("about", LogicalType.DOUBLE)
            .column("day", LogicalType.DATE)
            .column("hour", LogicalType.of(TypeName.TIME, 3))
            .column("taken", LogicalType.of(TypeName.TIMESTAMP, 6))
            .column("instant", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6))
            .column("dry", LogicalType.BOOLEAN)
            .column("key", LogicalType.UUID)
            .column("code", LogicalType.of(TypeName.CHARACTER, 6))
            .column("text", LogicalType.varchar(40))
            .build();

    private static Boolean holds(String condition, String column, String value) {
        Map<String, String> values = new HashMap<>();
        values.put(column, value);
        return ConditionParser.parse(condition, SHEET).holds(values::get);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                // the blank that people write, and a day alone
                "taken > '2031-02-03 12:00:00'    | taken   | 2031-02-03T11:59:59  | false",
                "taken > '2031-02-03 12:00:00'    | taken   | 2031-02-03T12:00:01  | true",
                "taken = '2031-02-03 12:00:00.50' | taken   | 2031-02-03T12:00:00.5 | true",
                "taken >= '2031-02-03'            | taken   | 2031-02-03T00:00:00  | true",
                "taken < '2031-02-03'             | taken   | 2031-02-02T23:59:59.999999 | true",
                // a second and more of it
                "instant > '2031-02-03T12:00:01Z' | instant | 2031-02-03T12:00:01.5Z | true",
                "instant < '2031-02-03T12:00:01Z' | instant | 2031-02-03T12:00:01.5Z | false",
                "instant = '2031-02-03T14:00:00+02:00' | instant | 2031-02-03T12:00:00Z | true",
                "instant = '2031-02-03 12:00:00'  | instant | 2031-02-03T12:00:00Z | true",
                "hour > '09:30'                   | hour    | 10:00:00             | true",
                "day <= '2031-02-03'              | day     | 2031-02-03           | true",
                "dry = TRUE                       | dry     | true                 | true",
                "dry = 'FALSE'                    | dry     | false                | true",
                "code = 'A1'                      | code    | `A1    `             | true",
                "text = 'A1'                      | text    | `A1    `             | false",
                "exact = 1.5                      | exact   | 1.500                | true",
                "number < 2.5                     | number  | 2                    | true",
                "about >= 0                       | about   | -0.0                 | true",
                "about = 0                        | about   | -0.0                 | true",
                "about < 0                        | about   | -0.0                 | false",
                "about = 1e3                      | about   | 1000                 | false",
                // beyond 16 bits comes after all within
                "text > 'ﬀ'                       | text    | 🌿                   | true",
                "key = '0A000000-0000-0000-0000-00000000000B' | key | 0a000000-0000-0000-0000-00000000000b | true",
            })
    void valuesCompareByTheirTypes(String condition, String column, String value, String expected) {
        if (condition.contains("1e3")) {
            // numbers are written as digits, or as texts
            assertThatThrownBy(() -> holds(condition, column, value)).isInstanceOf(UsageException.class);
            return;
        }
        assertThat(holds(condition, column, value)).as(condition).isEqualTo(Boolean.valueOf(expected));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "day > '2031'          | column day, which is DATE, with '2031', which isn't a DATE",
                "day > '2031-02-30'    | '2031-02-30'",
                "taken > 'yesterday'   | 'yesterday', which isn't a TIMESTAMP",
                "number = 'many'       | column number, which is INTEGER, with 'many', which isn't a number",
                "number IN (1, 'many') | 'many'",
                "dry = 'damp'          | 'damp', which isn't a BOOLEAN",
                "key = 'A1'            | 'A1', which isn't a UUID",
            })
    void aConstantOfAnotherTypeIsToldAtOnce(String condition, String message) {
        assertThatThrownBy(() -> ConditionParser.parse(condition, SHEET))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining(message);
    }

    private static Optional<Restriction> restriction(String condition) {
        return ConditionParser.parse(condition, SHEET).restriction(column -> !column.equals("exact"));
    }

    @Test
    void whatOthersCanApplyIsToldAndNothingElse() {
        assertThat(restriction("number > 3"))
                .contains(new Restriction.Compared("number", Restriction.Comparison.AT_LEAST, "3"));
        assertThat(restriction("taken < '2031-02-03'"))
                .contains(new Restriction.Compared("taken", Restriction.Comparison.AT_MOST, "2031-02-03T00:00:00"));
        assertThat(restriction("NOT number IS NULL")).contains(new Restriction.Missing("number", false));
        for (String none : List.of(
                "number <> 3",
                "NOT number > 3",
                "text = 'moss'",
                "exact = 1",
                "about > 1",
                "code = 'A'",
                "instant > '2031-02-03'",
                "number > 3 OR text = 'moss'",
                "NOT (number > 3 AND number < 9)")) {
            assertThat(restriction(none)).as(none).isEmpty();
        }
        assertThat(restriction("text = 'moss' AND number > 3")).isEqualTo(restriction("number > 3"));
        assertThat(restriction("number = '1e99'")).isEmpty();
    }

    @Provide
    static Arbitrary<String> conditions() {
        Arbitrary<String> numbers = Arbitraries.integers().between(-4, 4).map(String::valueOf);
        Arbitrary<String> single = Combinators.combine(
                        Arbitraries.of("number", "exact"), Arbitraries.of("=", "<>", "<", "<=", ">", ">="), numbers)
                .as((column, operator, value) -> column + " " + operator + " " + value);
        Arbitrary<String> leaf = Arbitraries.oneOf(
                single, Arbitraries.of("number IS NULL", "exact IS NOT NULL", "number IN (1, 3)", "exact LIKE '%1'"));
        return Arbitraries.recursive(
                () -> leaf,
                inner -> Arbitraries.oneOf(
                        Combinators.combine(inner, leaf, Arbitraries.of(" AND ", " OR "))
                                .as((x, y, word) -> "(" + x + ")" + word + "(" + y + ")"),
                        inner.map(c -> "NOT (" + c + ")")),
                0,
                4);
    }

    @Test
    void aConditionThatIsMadeToDoHarmIsRefused() {
        for (String hostile : List.of(
                "(".repeat(100_000),
                "NOT ".repeat(100_000) + "number = 1",
                "number = 1" + " AND number = 1".repeat(100_000))) {
            assertThatThrownBy(() -> ConditionParser.parse(hostile, SHEET))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("has more than 500 parts")
                    .hasMessageMatching("(?s).{1,300}");
        }
        String many = "number IN (0" + ", 1".repeat(20_000) + ")";
        assertThat(holds(many, "number", "1")).isTrue();
        String longText = "it''s ".repeat(50_000);
        assertThat(holds("text = '" + longText + "'", "text", longText.replace("''", "'")))
                .isTrue();
        assertThatThrownBy(() -> ConditionParser.parse("\"" + "bed\"\"".repeat(50_000) + "\" = 1", SHEET))
                .isInstanceOf(UsageException.class);
    }

    /** Whatever holds is kept by whoever leaves records out. */
    @Property(tries = 2000)
    void whatHoldsIsKept(
            @ForAll("conditions") String condition, @ForAll("numbers") String number, @ForAll("numbers") String exact) {
        Map<String, String> values = new HashMap<>();
        values.put("number", number);
        values.put("exact", exact);
        Condition read = ConditionParser.parse(condition, SHEET);
        if (Boolean.TRUE.equals(read.holds(values::get))) {
            assertThat(read.restriction(c -> true).map(r -> keeps(r, values)).orElse(true))
                    .as(condition + " of " + values)
                    .isTrue();
        }
    }

    @Provide
    static Arbitrary<String> numbers() {
        return Arbitraries.integers().between(-5, 5).map(String::valueOf).injectNull(0.2);
    }

    private static boolean keeps(Restriction restriction, Map<String, String> values) {
        if (restriction instanceof Restriction.Several several) {
            return several.all()
                    ? several.of().stream().allMatch(r -> keeps(r, values))
                    : several.of().stream().anyMatch(r -> keeps(r, values));
        }
        if (restriction instanceof Restriction.Missing missing) {
            return (values.get(missing.column()) == null) == missing.missing();
        }
        Restriction.Compared compared = (Restriction.Compared) restriction;
        String value = values.get(compared.column());
        if (value == null) {
            return false;
        }
        int found = new BigDecimal(value).compareTo(new BigDecimal(compared.value()));
        return switch (compared.comparison()) {
            case EQUAL -> found == 0;
            case AT_MOST -> found <= 0;
            case AT_LEAST -> found >= 0;
        };
    }
}
