package org.orderlyferry.databases.sql;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;

class ServersFormTest {

    private static final ServersForm FORM = new ServersForm(c -> Optional.ofNullable(Map.of(
                    "width", LogicalType.INTEGER,
                    "height", LogicalType.DOUBLE,
                    "made", LogicalType.parse("TIMESTAMP(6)"),
                    "seen", LogicalType.DATE,
                    "kind", LogicalType.varchar(40))
            .get(c.name())));

    private static Expression form(String sql) {
        return FORM.of(ExpressionParser.parse(new SqlText(sql, "PostgreSQL")).orElseThrow());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            width BETWEEN 1 AND 9               | (width >= 1) AND (width <= 9)
            width NOT BETWEEN 1 AND 9           | (width < 1) OR (width > 9)
            made >= '2031-02-03'                | made >= TIMESTAMP '2031-02-03 00:00:00'
            made = '2031-02-03T10:00:00.500'    | made = TIMESTAMP '2031-02-03 10:00:00.5'
            made BETWEEN '2031-02-03' AND '2031-02-04' | made >= TIMESTAMP '2031-02-03 00:00:00.0' AND made <= '2031-02-04 00:00:00'
            seen IN ('2031-02-03')              | seen IN (DATE '2031-02-03')
            width * height > 1                  | CAST(width AS double precision) * height > 1
            NOT (height <> width)               | height = CAST(width AS double precision)
            NOT (width = 3 AND seen IS NULL)    | width <> 3 OR seen IS NOT NULL
            NOT (width < 3 OR NOT kind LIKE 'a%') | width >= 3 AND kind LIKE 'a%'
            NOT (width IN (1, 2))               | width NOT IN (1, 2)
            NOT (width BETWEEN 1 AND 9)         | (width < 1) OR (width > 9)
            width = 1 OR (width = 2 OR (width = 3 AND (kind = 'a' AND seen IS NULL))) | ((width = 1 OR width = 2) OR ((width = 3 AND kind = 'a') AND seen IS NULL))
            width * height > 0                  | (width * height) > (0)::double precision
            height > 1                          | height > 1.00
            height / 2 > 1                      | height / (2)::double precision > (1)::double precision
            COALESCE(width, 3) IS NULL          | COALESCE(width, 3) IS NULL
            CASE WHEN width BETWEEN 1 AND 2 THEN 1 END = 1 | CASE WHEN width >= 1 AND width <= 2 THEN 1 END = 1
            """)
    void whatMeansTheSameIsTheSame(String sent, String kept) {
        assertThat(form(sent)).isEqualTo(form(kept));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            width BETWEEN 1 AND 9               | (width > 1) AND (width <= 9)
            width NOT BETWEEN 1 AND 9           | (width < 1) AND (width > 9)
            made >= '2031-02-03'                | made >= '2031-02-03 00:00:01'
            made = '2031-02-03 10:00:00'        | made = '2031-02-03 10:00'
            kind = '2031-02-03'                 | kind = '2031-02-03 00:00:00'
            NOT (width = 3 AND seen IS NULL)    | width <> 3 AND seen IS NOT NULL
            NOT (width < 3)                     | width > 3
            width = 1 AND (width = 2 OR kind = 'a') | (width = 1 AND width = 2) OR kind = 'a'
            height > 1.05                       | height > 1.5
            width / 2 > 1                       | width / 2.0 > 1
            width / 2 > 1                       | width / (2)::double precision > 1
            width / 2 > 1                       | CAST(width AS double precision) / 2 > 1
            height * 2 > 1                      | CAST(height AS real) * 2 > 1
            width * height > 1                  | CAST(width * height AS integer) > 1
            """)
    void whatMeansSomethingElseIsNot(String one, String other) {
        assertThat(form(one)).isNotEqualTo(form(other));
    }
}
