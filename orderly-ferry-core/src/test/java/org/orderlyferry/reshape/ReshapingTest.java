package org.orderlyferry.reshape;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.UsageException;

/** Conditions that records have to meet, in three values of truth. */
class ReshapingTest {

    private static final TableDefinition TABLE = TableDefinition.named("label")
            .column("id", LogicalType.INTEGER)
            .column("note", LogicalType.CLOB)
            .column("ratio", LogicalType.DOUBLE)
            .column("day", LogicalType.DATE)
            .column("dry", LogicalType.BOOLEAN)
            .column("Odd name", LogicalType.CLOB)
            .build();

    private static Boolean holds(String condition, String... values) {
        Map<String, String> record = new HashMap<>();
        for (int i = 0; i < values.length; i++) {
            record.put(TABLE.columnNames().get(i), values[i]);
        }
        return ConditionParser.parse(condition, TABLE).holds(record::get);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '~',
            quoteCharacter = '`',
            value = {
                "id = 7~true",
                "id = 7.0~true",
                "ID = 7~true",
                "id <> 7~false",
                "id != 8~true",
                "id < 10~true",
                "id <= 7~true",
                "id > -1~true",
                "id >= 8~false",
                "note = 'moss'~true",
                "note = 'Moss'~false",
                "note LIKE 'm%'~true",
                "note LIKE '_oss'~true",
                "note LIKE 'm.s'~false",
                "note NOT LIKE 'fern'~true",
                "note IN ('fern', 'moss')~true",
                "id IN (1, 7)~true",
                "id NOT IN (1, 7)~false",
                "ratio > 0.25~true",
                "ratio = 0.50~true",
                "day > '2031-01-01'~true",
                "dry = true~true",
                "dry = FALSE~false",
                "note IS NULL~false",
                "note IS NOT NULL~true",
                "\"Odd name\" = 'it''s'~true",
                "NOT id = 7~false",
                "NOT NOT id = 7~true",
                "id = 1 OR id = 7~true",
                "id = 7 AND note = 'fern'~false",
                "id = 1 AND id = 2 OR id = 7~true",
                "id = 1 AND (id = 2 OR id = 7)~false"
            })
    void aConditionIsReadAsSqlReadsIt(String condition, boolean held) {
        assertThat(holds(condition, "7", "moss", "0.5", "2031-04-09", "true", "it's"))
                .isEqualTo(held);
    }

    /** ISO/IEC 9075-2: what compares with a null is unknown. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '~',
            quoteCharacter = '`',
            nullValues = "unknown",
            value = {
                "note = 'moss'~unknown",
                "note <> 'moss'~unknown",
                "NOT note = 'moss'~unknown",
                "note IN ('moss')~unknown",
                "note LIKE '%'~unknown",
                "note IS NULL~true",
                "note IS NOT NULL~false",
                "id = 7 AND note = 'moss'~unknown",
                "id = 1 AND note = 'moss'~false",
                "note = 'moss' AND id = 1~false",
                "id = 7 OR note = 'moss'~true",
                "id = 1 OR note = 'moss'~unknown",
                "note = 'moss' OR id = 7~true"
            })
    void aNullIsNeitherTrueNorFalse(String condition, Boolean held) {
        assertThat(holds(condition, "7", null, null, null, null, null)).isEqualTo(held);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "id",
                "id =",
                "id = 7 8",
                "id = 7 AND",
                "id ~ 7",
                "moss = 7",
                "id = moss",
                "id = 'x'",
                "id = 7; DROP TABLE label",
                "(id = 7",
                "id = 7)",
                "note LIKE moss",
                "note = 'moss",
                "note IS 7",
                "id IN 7",
                "id IN ()",
                "lower(note) = 'moss'",
                "id = (SELECT 1)",
                "id = 7 -- AND",
                "id = \u0661"
            })
    void whatIsNoConditionIsRefusedWithItsText(String condition) {
        assertThatThrownBy(() -> ConditionParser.parse(condition, TABLE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("condition")
                .hasMessageEndingWith(": " + condition);
    }

    @Test
    void aMissingColumnIsToldWithThoseThatThereAre() {
        assertThatThrownBy(() -> ConditionParser.parse("moss = 7", TABLE))
                .hasMessageContaining("id, note, ratio, day, dry, Odd name");
    }

    @Test
    void aConditionNamesItsColumns() {
        assertThat(ConditionParser.parse("id = 7 AND (note IS NULL OR NOT dry = true)", TABLE)
                        .columns())
                .containsExactly("id", "note", "dry");
    }

    @Test
    void columnsAreChosenRenamedAndRetyped() {
        TableDefinition table = TABLE.toBuilder().primaryKey("id").build();
        ReshapedTable reshaped = new ReshapedTable(
                table,
                new Reshaping()
                        .only(List.of("note", "id"))
                        .rename("label.note", "text")
                        .type("id", "DECIMAL(12,2)"));
        assertThat(reshaped.after().columnNames()).containsExactly("text", "id");
        assertThat(reshaped.after().column("id").orElseThrow().type()).isEqualTo(LogicalType.decimal(12, 2));
        assertThat(reshaped.after().primaryKey().orElseThrow().columns()).containsExactly("id");
        assertThat(new ReshapedTable(table, new Reshaping().skip(List.of("id", "d*")))
                        .after()
                        .columnNames())
                .containsExactly("note", "ratio", "Odd name");
        assertThat(new ReshapedTable(table, new Reshaping().skip(List.of("id")))
                        .after()
                        .primaryKey())
                .isEmpty();
    }

    @Test
    void whatLeavesNothingOrIsNoTypeIsRefused() {
        assertThatThrownBy(() -> new ReshapedTable(TABLE, new Reshaping().skip(List.of("*"))))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("no column of table label would be left");
        assertThatThrownBy(() -> new Reshaping().type("id", "NUMBER(7)"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("NUMBER(7)");
        assertThat(new Reshaping().isNothing()).isTrue();
        assertThat(Arrays.asList(
                        new Reshaping().named("x").isNothing(),
                        new Reshaping().numbered("no").isNothing(),
                        new Reshaping().where("id = 1").isNothing(),
                        new Reshaping().readable(true).isNothing()))
                .containsOnly(false);
    }
}
