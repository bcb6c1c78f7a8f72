package org.orderlyferry.record.fit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.LogicalType;

/** Which types hold which. */
class TypeFitTest {

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "INTEGER|INTEGER|ALWAYS",
                "SMALLINT|INTEGER|ALWAYS",
                "INTEGER|SMALLINT|BY_VALUE",
                "BIGINT|DECIMAL(19,0)|ALWAYS",
                "BIGINT|DECIMAL(18,0)|BY_VALUE",
                "BIGINT|DECIMAL(21,2)|ALWAYS",
                "BIGINT|DECIMAL(20,2)|BY_VALUE",
                "INTEGER|DECIMAL|ALWAYS",
                "DECIMAL(5,2)|DECIMAL(5,2)|ALWAYS",
                "DECIMAL(5,2)|DECIMAL(6,3)|ALWAYS",
                "DECIMAL(5,2)|DECIMAL(5,3)|BY_VALUE",
                "DECIMAL(5,2)|DECIMAL(6,1)|BY_VALUE",
                "DECIMAL|DECIMAL(38,10)|BY_VALUE",
                "DECIMAL(5,2)|DECIMAL|ALWAYS",
                "DECIMAL(5,0)|INTEGER|BY_VALUE",
                "INTEGER|DOUBLE PRECISION|BY_VALUE",
                "DOUBLE PRECISION|REAL|BY_VALUE",
                "REAL|DECIMAL(38,10)|BY_VALUE",
                "CHARACTER VARYING(10)|CHARACTER VARYING(10)|ALWAYS",
                "CHARACTER VARYING(10)|CHARACTER VARYING(11)|ALWAYS",
                "CHARACTER VARYING(11)|CHARACTER VARYING(10)|BY_VALUE",
                "CHARACTER LARGE OBJECT|CHARACTER VARYING(10)|BY_VALUE",
                "CHARACTER VARYING(10)|CHARACTER LARGE OBJECT|ALWAYS",
                "CHARACTER(3)|CHARACTER VARYING(3)|ALWAYS",
                "INTEGER|CHARACTER VARYING(3)|BY_VALUE",
                "INTEGER|CHARACTER LARGE OBJECT|ALWAYS",
                "CHARACTER VARYING(3)|INTEGER|BY_VALUE",
                "CHARACTER VARYING(3)|JSON|BY_VALUE",
                "BINARY VARYING(5)|BINARY LARGE OBJECT|ALWAYS",
                "BINARY LARGE OBJECT|BINARY VARYING(5)|BY_VALUE",
                "BINARY LARGE OBJECT|CHARACTER LARGE OBJECT|NEVER",
                "CHARACTER LARGE OBJECT|BINARY LARGE OBJECT|NEVER",
                "INTEGER|BINARY LARGE OBJECT|NEVER",
                "BOOLEAN|SMALLINT|BY_VALUE",
                "SMALLINT|BOOLEAN|BY_VALUE",
                "BOOLEAN|DOUBLE PRECISION|NEVER",
                "DATE|TIMESTAMP(6)|BY_VALUE",
                "TIMESTAMP(6)|DATE|BY_VALUE",
                "TIMESTAMP(6)|TIMESTAMP(3)|BY_VALUE",
                "TIMESTAMP(3)|TIMESTAMP(6)|ALWAYS",
                "TIMESTAMP(3) WITH TIME ZONE|TIMESTAMP(3)|BY_VALUE",
                "TIME(0)|DATE|NEVER",
                "DATE|INTEGER|NEVER",
                "UUID|INTEGER|NEVER",
                "INTEGER|JSON|BY_VALUE",
                "JSON|INTEGER|NEVER"
            })
    void aTypeHoldsAnotherAlwaysSometimesOrNever(String from, String to, TypeFit fit) {
        assertThat(TypeFit.of(LogicalType.parse(from), LogicalType.parse(to))).isEqualTo(fit);
    }

    static Stream<LogicalType> types() {
        return Stream.of(
                        "BOOLEAN",
                        "SMALLINT",
                        "INTEGER",
                        "BIGINT",
                        "DECIMAL",
                        "DECIMAL(9,4)",
                        "REAL",
                        "DOUBLE PRECISION",
                        "CHARACTER(3)",
                        "CHARACTER VARYING(9)",
                        "CHARACTER LARGE OBJECT",
                        "BINARY VARYING(9)",
                        "BINARY LARGE OBJECT",
                        "DATE",
                        "TIME(3)",
                        "TIMESTAMP(3)",
                        "TIMESTAMP(3) WITH TIME ZONE",
                        "INTERVAL",
                        "UUID",
                        "JSON",
                        "XML",
                        "INTEGER ARRAY")
                .map(LogicalType::parse);
    }

    @ParameterizedTest
    @MethodSource("types")
    void everyTypeHoldsItself(LogicalType type) {
        assertThat(TypeFit.of(type, type)).isEqualTo(TypeFit.ALWAYS);
        assertThat(Conversion.between(type, type)).isNull();
    }

    /** What holds always needs no look at its values, and so must never be refused one by one. */
    @Test
    void whatAlwaysFitsNeedsNoMoreThanAnotherNotation() {
        for (LogicalType from : types().toList()) {
            for (LogicalType to : types().toList()) {
                if (TypeFit.of(from, to) == TypeFit.ALWAYS && from.name() == to.name() && from.scale() == to.scale()) {
                    assertThat(Conversion.between(from, to))
                            .as(from + " to " + to)
                            .isNull();
                }
            }
        }
        assertThat(List.of(TypeFit.values())).hasSize(3);
    }
}
