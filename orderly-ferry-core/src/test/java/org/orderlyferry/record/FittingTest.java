package org.orderlyferry.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.Rows;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.fit.CheckedReader;
import org.orderlyferry.record.fit.FittingWriter;

/** Values on their way into columns of other types, and into columns of their own out of files. */
class FittingTest {

    private final List<String> written = new ArrayList<>();

    private final RecordWriter writer = new RecordWriter() {
        @Override
        public void write(RecordBatch batch) {
            for (int row = 0; row < batch.rows(); row++) {
                written.add(batch.text(row, 0));
            }
        }

        @Override
        public void finish() {
            written.add("finished");
        }

        @Override
        public void close() {
            written.add("closed");
        }
    };

    private static ColumnDefinition column(String type, boolean nullable) {
        return ColumnDefinition.named("a", LogicalType.parse(type))
                .nullable(nullable)
                .build();
    }

    private static RecordBatch batch(String... values) {
        return Rows.batch(Arrays.stream(values).map(Arrays::asList).toList(), 1);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "DECIMAL(9,4)|DECIMAL(9,2)|1.5000|1.50",
                "DECIMAL(9,0)|SMALLINT|7|7",
                "INTEGER|DECIMAL(9,2)|7|7.00",
                "BOOLEAN|SMALLINT|true|1",
                "SMALLINT|BOOLEAN|0|false",
                "DECIMAL(3,1)|BOOLEAN|1.0|true",
                "DATE|TIMESTAMP(3)|2031-04-09|2031-04-09T00:00:00",
                "DATE|TIMESTAMP(3) WITH TIME ZONE|2031-04-09|2031-04-09T00:00:00Z",
                "TIMESTAMP(3)|DATE|2031-04-09T00:00:00|2031-04-09",
                "TIMESTAMP(3) WITH TIME ZONE|TIMESTAMP(3)|2031-04-09T01:00:00Z|2031-04-09T01:00:00",
                "INTEGER|DOUBLE PRECISION|417|417.0",
                "DOUBLE PRECISION|REAL|0.5|0.5",
                "CHARACTER VARYING(9)|INTEGER|417|417",
                "CHARACTER VARYING(9)|CHARACTER VARYING(4)|moss|moss",
                "INTEGER|CHARACTER VARYING(4)|-417|-417"
            })
    void whatCanBeHeldIsWrittenInTheOtherTypesWords(String from, String to, String value, String held) {
        new FittingWriter(writer, List.of(column(from, true)), List.of(column(to, true)), e -> {
                    throw e;
                })
                .write(batch(value, null));
        assertThat(written).containsExactly(held, null);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "DECIMAL(9,4)|DECIMAL(9,2)|1.5001",
                "INTEGER|SMALLINT|32768",
                "DECIMAL(9,2)|INTEGER|7.5",
                "SMALLINT|BOOLEAN|2",
                "TIMESTAMP(3)|DATE|2031-04-09T00:00:01",
                "TIMESTAMP(6)|TIMESTAMP(3)|2031-04-09T00:00:01.0005",
                "BIGINT|DOUBLE PRECISION|9007199254740993",
                "DECIMAL(30,20)|DOUBLE PRECISION|0.12345678901234567891",
                "DOUBLE PRECISION|REAL|0.1234567891",
                "CHARACTER VARYING(9)|INTEGER|12d",
                "CHARACTER VARYING(9)|CHARACTER VARYING(4)|mosses",
                "CHARACTER VARYING(9)|DATE|1 Jan",
                "INTEGER|CHARACTER VARYING(3)|-417"
            })
    void whatCantBeHeldIsRefusedWithItsColumnAndValue(String from, String to, String value) {
        FittingWriter fitting = new FittingWriter(writer, List.of(column(from, true)), List.of(column(to, true)), e -> {
            throw e;
        });
        assertThatThrownBy(() -> fitting.write(batch(value))).isInstanceOfSatisfying(BadValueException.class, e -> {
            assertThat(e.column()).isEqualTo("a");
            assertThat(e.value()).isEqualTo(value);
            assertThat(e.origin().table()).isEqualTo("label");
        });
        assertThat(written).isEmpty();
    }

    @Test
    void allMisfitsAreHeardWhereNobodyStops() {
        List<String> heard = new ArrayList<>();
        FittingWriter fitting = new FittingWriter(
                writer,
                List.of(column("INTEGER", true)),
                List.of(column("SMALLINT", false)),
                e -> heard.add(e.value() + " " + e.reason()));
        fitting.write(batch("1", "99999", null, "2"));
        fitting.finish();
        fitting.close();
        assertThat(heard).hasSize(2);
        assertThat(heard.get(0)).startsWith("99999 ");
        assertThat(heard.get(1)).isEqualTo("null isn't allowed: the column is NOT NULL");
        assertThat(written).endsWith("finished", "closed");
    }

    @Test
    void aFilesValueIsBroughtIntoItsProperForm() {
        TableDefinition table = TableDefinition.named("label")
                .column("a", LogicalType.decimal(6, 2))
                .build();
        List<String> rejected = new ArrayList<>();
        RecordReader checked = new CheckedReader(
                reader(table, "+1.50", " 2 ", "007", "x", null, "12345.00", "1e2"),
                why -> rejected.add(why.getMessage()));
        assertThat(Rows.all(checked).stream().map(r -> r.get(0)).toList())
                .containsExactly("1.50", "2.00", "7.00", null, "100.00");
        assertThat(rejected).hasSize(2).anyMatch(r -> r.contains("'x'")).anyMatch(r -> r.contains("12345.00"));
    }

    @Test
    void aNullWhereNoneMayBeIsRejected() {
        TableDefinition table =
                TableDefinition.named("label").column(column("INTEGER", false)).build();
        assertThatThrownBy(() -> Rows.all(new CheckedReader(reader(table, "1", null))))
                .hasMessageContaining("column a: null isn't allowed: the column is NOT NULL");
    }

    private static RecordReader reader(TableDefinition table, String... values) {
        return new RecordReader() {
            private int next;

            @Override
            public TableDefinition table() {
                return table;
            }

            @Override
            public boolean read(RecordBatch batch) {
                batch.start(1, "label", "label.csv", true);
                while (next < values.length && batch.rows() < 2) {
                    if (values[next] == null) {
                        batch.addNull();
                    } else {
                        batch.add(values[next]);
                    }
                    batch.endRow(++next);
                }
                return batch.rows() > 0;
            }

            @Override
            public void close() {
                // nothing is held
            }
        };
    }
}
