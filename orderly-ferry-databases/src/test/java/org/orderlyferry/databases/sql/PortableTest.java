package org.orderlyferry.databases.sql;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TypeName;

/** What is carried from one system to another: values beside others in which both see the same. */
@Tag("everywhere")
class PortableTest {

    /** Systems that keep days as texts, or reckon with their digits, say something else of all that isn't in one form. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            made > '2000-01-01'::date               | `made` > '2000-01-01'
            seen > '2000-01-01'::date               | `seen` > '2000-01-01 00:00:00'
            seen >= '2000-01-01T10:00:00.50'        | `seen` >= '2000-01-01 10:00:00.5'
            seen BETWEEN '2000-01-01' AND '2000-01-02' | `seen` BETWEEN '2000-01-01 00:00:00' AND '2000-01-02 00:00:00'
            seen IN ('2000-01-01', seen)            | `seen` IN ('2000-01-01 00:00:00', `seen`)
            COALESCE(made, '2000-01-01') = made     |
            COALESCE(made, DATE '2000-01-01') = made | COALESCE(`made`, '2000-01-01') = `made`
            made + 30 > made                        |
            made - made > 30                        |
            made < seen                             |
            made < 'infinity'::date                 |
            made < '2000-01-01 00:00:00'::timestamp |
            made < '1/2/2000'                       |
            seen > '2000-01-01 00:00:00+02'::timestamp |
            '2000-01-01' BETWEEN made AND seen      |
            kind = 1                                |
            width = kind                            |
            width = '1'                             |
            kind + 1 > 2                            |
            -kind < 0                               |
            ABS(kind) = 1                           |
            LENGTH(width) = 1                       |
            width LIKE '1%'                         |
            width IS TRUE                           |
            made > DATE '2000-1-1'                  |
            CASE WHEN dry THEN DATE 'infinity' ELSE made END = made |
            CASE '2000-01-01' WHEN made THEN dry WHEN seen THEN dry END |
            CASE made WHEN '2000-01-01' THEN dry END | CASE `made` WHEN '2000-01-01' THEN `dry` END
            COALESCE() = 1                          |
            NULLIF(width) = 1                       |
            ABS() = 1                               |
            LENGTH(kind, kind) = 1                  |
            CASE kind WHEN 1 THEN dry ELSE dry END  |
            """)
    void whatIsComparedIsOfOneKind(String sql, String carried) {
        assertThat(ExpressionsTest.portable(sql, "PostgreSQL")).isEqualTo(Optional.ofNullable(carried));
    }

    /** Two systems may agree about what a third one sees otherwise: fractions in binary, texts filled up with blanks. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            PostgreSQL | SQLite  | price * width = 0.15        | no
            PostgreSQL | MariaDB | price * width = 0.15        | yes
            SQLite     | MariaDB | price + 1 > price           | no
            PostgreSQL | SQLite  | width * 2 > width - 1       | yes
            PostgreSQL | SQLite  | share * price > 0.5         | yes
            PostgreSQL | SQLite  | width + CHAR_LENGTH(kind) * -1 > 2 | yes
            PostgreSQL | H2      | share * price > 0.5         | no
            PostgreSQL | H2      | share + 0.2 = 0.3           | no
            PostgreSQL | H2      | share * share > 0.3         | yes
            PostgreSQL | H2      | price * 3 = 0.3             | yes
            PostgreSQL | SQLite  | CASE WHEN kind IS NULL THEN 0 ELSE 1 END + CASE WHEN width IS NULL THEN 0 ELSE 1 END = 1 | yes
            Oracle     | SQLite  | amount * 2 > 1              | yes
            PostgreSQL | SQLite  | CASE WHEN width > 1 THEN 0.5 END + 1 > 1 | no
            PostgreSQL | SQLite  | price > 0.15                | yes
            PostgreSQL | SQLite  | ABS(-price) > 0.15          | yes
            PostgreSQL | MariaDB | size > 0 AND size <= 2.5    | yes
            PostgreSQL | MariaDB | size > -1 AND size > size   | yes
            PostgreSQL | MariaDB | size > 0.1                  | no
            PostgreSQL | MariaDB | size > 1e-300               | no
            PostgreSQL | MariaDB | size > 1e300                | no
            PostgreSQL | MariaDB | size * 2 > 1                | no
            PostgreSQL | SQLite  | size = share                | no
            PostgreSQL | MariaDB | CHAR_LENGTH(sign) = 2       | yes
            PostgreSQL | H2      | CHAR_LENGTH(sign) = 2       | no
            H2         | SQLite  | CHAR_LENGTH(COALESCE(sign, 'x')) = 2 | no
            H2         | SQLite  | sign IN ('ab', 'cd')        | no
            H2         | SQLite  | sign IS NOT NULL            | yes
            SQLite     | MariaDB | sign = 'ab'                 | yes
            SQLite     | MariaDB | sign = ' '                  | no
            PostgreSQL | MariaDB | sign <> kind                | no
            PostgreSQL | PostgreSQL | sign <> kind             | yes
            PostgreSQL | H2      | kind LIKE 'a%'              | yes
            PostgreSQL | MariaDB | kind LIKE 'a%'              | no
            MariaDB    | MariaDB | kind LIKE 'a%'              | yes
            """)
    void whatTwoSystemsReckonAlikeIsCarriedBetweenThem(String from, String to, String sql, String carried) {
        Map<String, LogicalType> columns = Map.of(
                "kind",
                LogicalType.CLOB,
                "width",
                LogicalType.INTEGER,
                "price",
                LogicalType.decimal(10, 2),
                "share",
                LogicalType.DOUBLE,
                "size",
                LogicalType.of(TypeName.REAL),
                "amount",
                LogicalType.decimal(10, 0),
                "sign",
                LogicalType.of(TypeName.CHARACTER, 4));
        assertThat(ExpressionParser.parse(new SqlText(sql, from))
                        .flatMap(new Portable(c -> Optional.ofNullable(columns.get(c.name())), from, to)::of)
                        .isPresent())
                .isEqualTo(carried.equals("yes"));
    }
}
