package org.orderlyferry.databases.sql;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PortableExpressionTest {

    private static final PortableExpression.Target TARGET = new PortableExpression.Target() {
        @Override
        public String quote(String name) {
            return "`" + name + "`";
        }

        @Override
        public String lengthFunction() {
            return "LENGTH";
        }

        @Override
        public String typedLiteral(String type, String quoted) {
            return quoted;
        }
    };

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            "width" > 0 AND width <= 1e3              | `width` > 0 AND `width` <= 1e3
            "kind" IN('it''s', 'b') OR NOT "kind" IS NULL | `kind` IN ('it''s', 'b') OR NOT `kind` IS NULL
            CHAR_LENGTH(kind) BETWEEN 1 AND 9         | LENGTH (`kind`) BETWEEN 1 AND 9
            "made" >= DATE '2000-01-01'               | `made` >= '2000-01-01'
            (UPPER("kind") = 'X') /* why */ -- so     | (UPPER (`kind`) = 'X')
            width > '-90'::integer                    | `width` > - 90
            width / 2 > 1                             |
            regexp_like("kind", '^a')                 |
            "nowhere" > 1                             |
            kind = $1                                 |
            "width" > (SELECT 1)                      |
            CAST("width" AS INT) > 1                  |
            "kind" ~~ 'x'                             |
            """)
    void onlyWhatMeansTheSameEverywhereIsCarried(String sql, String carried) {
        assertThat(PortableExpression.carry(
                        sql,
                        name -> Optional.of(name).filter(List.of("width", "kind", "made")::contains),
                        name -> name,
                        true,
                        TARGET))
                .isEqualTo(Optional.ofNullable(carried));
    }
}
