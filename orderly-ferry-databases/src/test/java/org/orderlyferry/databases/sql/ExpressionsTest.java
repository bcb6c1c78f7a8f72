package org.orderlyferry.databases.sql;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

@Tag("everywhere")
class ExpressionsTest {

    private static final ExpressionWriter.Target TARGET = new ExpressionWriter.Target() {
        @Override
        public String quote(String name) {
            return "`" + name.replace("`", "``") + "`";
        }

        @Override
        public String literal(String text) {
            return "'" + text.replace("'", "''") + "'";
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

    private static final Map<String, LogicalType> COLUMNS = Map.of(
            "width",
            LogicalType.INTEGER,
            "kind",
            LogicalType.varchar(40),
            "made",
            LogicalType.DATE,
            "seen",
            LogicalType.of(TypeName.TIMESTAMP, 3),
            "dry",
            LogicalType.BOOLEAN);

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("width", LogicalType.INTEGER).build())
            .column(of("kind", "state"))
            .column(of("other", "Odd State"))
            .build();

    private static ColumnDefinition of(String column, String enumeration) {
        return ColumnDefinition.named(column, LogicalType.varchar(40))
                .enumeration(Optional.of(new Enumeration(enumeration, List.of("kept", "lent"))))
                .build();
    }

    /** Whether a text is the same is for every system to say; which comes first, for the enumeration alone. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            (kind = 'kept'::state)                            | `kind` = 'kept'
            ((kind <> 'kept'::public.state) OR (width > 3))   | (`kind` <> 'kept') OR (`width` > 3)
            other = 'kept'::old."Odd State"                   | `other` = 'kept'
            (kind = ANY (ARRAY['kept'::state, 'lent'::state])) | `kind` IN ('kept', 'lent')
            (kind <> ALL (ARRAY['kept'::state]))              | `kind` NOT IN ('kept')
            CASE kind WHEN 'kept'::state THEN width > 1 ELSE true END | CASE `kind` WHEN 'kept' THEN `width` > 1 ELSE TRUE END
            kind > 'kept'::state                              |
            kind BETWEEN 'kept'::state AND 'lent'::state      |
            (kind > ANY (ARRAY['kept'::state]))               |
            (kind = ALL (ARRAY['kept'::state]))               |
            GREATEST(kind, 'kept'::state) = kind              |
            ('kept'::state || 'x') = kind                     |
            kind = 'kept'::secret                             |
            kind = ANY ('{kept}'::state[])                    |
            kind::state = 'kept'                              |
            """)
    void aTextOfAnEnumerationIsReadWhereItIsOnlyCompared(String sql, String carried) {
        assertThat(ExpressionParser.parse(new SqlText(sql, "PostgreSQL"), SHEET)
                        .flatMap(new ExpressionWriter(TARGET, c -> Optional.of(c.name()))::write))
                .isEqualTo(Optional.ofNullable(carried));
        assertThat(ExpressionParser.parse(new SqlText(sql, "PostgreSQL"))).isEmpty();
    }

    private static Optional<String> same(String sql, String system) {
        return ExpressionParser.parse(new SqlText(sql, system))
                .flatMap(new ExpressionWriter(TARGET, c -> Optional.of(c.name()))::write);
    }

    /** As other systems take it. */
    static Optional<String> portable(String sql, String system) {
        return ExpressionParser.parse(new SqlText(sql, system))
                .flatMap(new Portable(c -> Optional.ofNullable(COLUMNS.get(c.name())), system, system)::of)
                .flatMap(new ExpressionWriter(TARGET, c -> Optional.of(c.name()))::write);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            "width" > 0 AND width <= 1e3              | (`width` > 0) AND (`width` <= 1e3)
            "kind" IN('it''s', 'b') OR NOT "kind" IS NULL | (`kind` IN ('it''s', 'b')) OR (NOT (`kind` IS NULL))
            CHAR_LENGTH(kind) BETWEEN 1 AND 9         | LENGTH(`kind`) BETWEEN 1 AND 9
            "made" >= DATE '2000-01-01'               | `made` >= '2000-01-01'
            (UPPER("kind") = 'X') /* why */ -- so     | UPPER(`kind`) = 'X'
            width > '-90'::integer                    | `width` > (-90)
            (kind)::text = ANY ((ARRAY['a'::character varying, 'b'::character varying])::text[]) | `kind` IN ('a', 'b')
            width + 1 * 2 > 3                         | (`width` + (1 * 2)) > 3
            "kind" ~~ 'x%'::text                      | `kind` LIKE 'x%'
            (width > (9)::numeric)                    | `width` > 9
            width / 2 > 1                             |
            regexp_like("kind", '^a')                 |
            length(TRIM(BOTH FROM kind)) > 0          | LENGTH(TRIM(`kind`)) > 0
            TRIM(leading FROM kind) = trim(TRAILING FROM kind) | LTRIM(`kind`) = RTRIM(`kind`)
            TRIM(BOTH 'x' FROM kind) = 'a'            |
            TRIM(BOTH kind) = 'a'                     |
            "nowhere" > 1                             |
            kind = $1                                 |
            "width" > (SELECT 1)                      |
            CAST("width" AS SMALLINT) > 1             |
            CAST("kind" AS VARCHAR(2)) = 'ab'         |
            1.5::integer = width                      |
            """)
    void onlyWhatMeansTheSameEverywhereIsCarried(String sql, String carried) {
        assertThat(portable(sql, "PostgreSQL")).isEqualTo(Optional.ofNullable(carried));
    }

    /** The same text is another expression there. */
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            quoteCharacter = '~',
            textBlock =
                    """
            SQLite     ; kind || width + 1 > 2                     ; ((`kind` || `width`) + 1) > 2
            PostgreSQL ; kind || width + 1 > 2                     ; (`kind` || (`width` + 1)) > 2
            SQLite     ; kind ->> '$.a' * kind ->> '$.b' > 2       ; ((`kind` ->> '$.a') * (`kind` ->> '$.b')) > 2
            PostgreSQL ; (kind ~~ like_escape('%x'::text, '!'::text)) ; `kind` LIKE CAST('%x' AS text) ESCAPE CAST('!' AS text)
            PostgreSQL ; SUBSTRING(kind FROM 2 FOR 3) = 'ab'       ; SUBSTRING(`kind`, 2, 3) = 'ab'
            PostgreSQL ; SUBSTRING(kind FROM 2) = substring(kind, 2) ; SUBSTRING(`kind`, 2) = SUBSTRING(`kind`, 2)
            H2         ; SUBSTRING("kind" FROM 1 FOR 2) = 'ab'     ; SUBSTRING(`kind`, 1, 2) = 'ab'
            SQLite     ; -kind || 'x' = '-1x'                      ; ((-`kind`) || 'x') = '-1x'
            SQLite     ; kind || 'x' COLLATE nocase = 'x'          ; (`kind` || ('x' COLLATE `nocase`)) = 'x'
            """)
    void operatorsBindAsTheSystemBindsThem(String system, String sql, String read) {
        assertThat(same(sql, system)).contains(read);
    }

    /** Null where any of them is, which CONCAT is in one system only. */
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            quoteCharacter = '~',
            textBlock =
                    """
            PostgreSQL ; kind || '-' || 'b' = 'a-b'    ; (`kind` || '-' || 'b') = 'a-b'
            PostgreSQL ; ((COALESCE(kind, ''::character varying))::text || (' '::text || lower((kind)::text))) <> '' ; (COALESCE(`kind`, '') || ' ' || LOWER(`kind`)) <> ''
            PostgreSQL ; (((kind)::text || 'x'::text))::character varying = 'ax' ; (`kind` || 'x') = 'ax'
            PostgreSQL ; width || 'b' = '1b'           ;
            PostgreSQL ; kind || width = 'a1'          ;
            PostgreSQL ; COALESCE(kind, width) || 'a' = 'a' ;
            PostgreSQL ; CONCAT(kind, 'b') = 'ab'      ;
            MariaDB    ; concat(kind,'-',trim(kind)) = 'a-a' ; (`kind` || '-' || TRIM(`kind`)) = 'a-a'
            MariaDB    ; concat(kind, width) = 'a1'    ;
            MariaDB    ; kind || 'b' = 'ab'            ;
            Oracle     ; kind || 'b' = 'ab'            ;
            H2         ; kind <> CAST('kept' AS ENUM('kept', 'lent')) ; `kind` <> 'kept'
            H2         ; kind > CAST('kept' AS ENUM('kept', 'lent')) ;
            H2         ; kind = CAST('kept' AS ENUM(width)) ;
            H2         ; kind = CAST('kept' AS ENUM()) ;
            H2         ; kind = CAST(kind AS ENUM('kept')) ;
            H2         ; kind || 'b' = 'ab'            ; (`kind` || 'b') = 'ab'
            H2         ; CONCAT(kind, 'b') = 'ab'      ;
            """)
    void textsBehindEachOtherAreCarried(String system, String sql, String carried) {
        assertThat(portable(sql, system)).isEqualTo(Optional.ofNullable(carried));
    }

    /** Numbers for truth values, texts that are joined by +, empty texts that are nulls: what only some systems have. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            MariaDB    | dry = 1                  | `dry` = TRUE
            MariaDB    | dry IN (0, 1)            | `dry` IN (FALSE, TRUE)
            MariaDB    | 0 <> dry OR width > 1    | (FALSE <> `dry`) OR (`width` > 1)
            MariaDB    | dry AND NOT dry          | `dry` AND (NOT `dry`)
            MariaDB    | CASE WHEN width > 1 THEN dry = 1 ELSE 1 END | CASE WHEN `width` > 1 THEN `dry` = TRUE ELSE TRUE END
            MariaDB    | CASE WHEN width > 1 THEN width IS NULL WHEN dry THEN null ELSE 0 END | CASE WHEN `width` > 1 THEN `width` IS NULL WHEN `dry` THEN NULL ELSE FALSE END
            MariaDB    | CASE width WHEN 1 THEN 2 ELSE 1 END = 1 | (CASE `width` WHEN 1 THEN 2 ELSE 1 END) = 1
            MariaDB    | CASE WHEN 1 THEN dry ELSE 1 END |
            MariaDB    | CASE WHEN dry THEN width > 1 ELSE 7 END |
            MariaDB    | width is null = (kind is null)  | (`width` IS NULL) = (`kind` IS NULL)
            MariaDB    | width = 1 is null        |
            MariaDB    | dry = 2                  |
            MariaDB    | dry > 0                  |
            MariaDB    | dry + 1 = 2              |
            MariaDB    | dry BETWEEN 0 AND 1      |
            MariaDB    | width AND dry            |
            MariaDB    | NOT width                |
            MariaDB    | dry = width              |
            PostgreSQL | dry = TRUE OR dry = NULL | (`dry` = TRUE) OR (`dry` = NULL)
            SQL Server | [width]+(1)>(2)          | (`width` + 1) > 2
            SQL Server | [kind]+'x'='yx'          |
            SQL Server | [kind]+[kind]='yx'       |
            SQL Server | ([dry]=(1))              | `dry` = TRUE
            SQL Server | len([kind])>(0)          |
            SQL Server | [kind]=N'it''s'          | `kind` = 'it''s'
            Oracle     | KIND <> ''               |
            Oracle     | LENGTH(KIND) > 1         | LENGTH(`kind`) > 1
            """)
    void whatOnlySomeSystemsHaveIsCarriedAsWhatItMeansOrNotAtAll(String system, String sql, String carried) {
        Portable portable = new Portable(
                c -> Optional.ofNullable(COLUMNS.get(c.name().toLowerCase(java.util.Locale.ROOT))), system, system);
        assertThat(ExpressionParser.parse(new SqlText(sql, system))
                        .flatMap(portable::of)
                        .flatMap(new ExpressionWriter(
                                TARGET, c -> Optional.of(c.name().toLowerCase(java.util.Locale.ROOT)))::write))
                .isEqualTo(Optional.ofNullable(carried));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "1=1); DROP TABLE kept; --",
                "1; SELECT 1",
                "(SELECT pg_read_file('x')) IS NULL",
                "pg_sleep(10) IS NULL",
                "lo_import('/etc/passwd') > 0",
                "x = E'\\' OR 1=1'",
                "$$a$$ = x",
                "x IN (SELECT 1)",
                "EXISTS (SELECT 1)",
                "x::regclass IS NULL",
                "x > 1 UNION SELECT 2",
                "current_setting('x') = 'y'",
                "\"a\".\"pg_sleep\"(1)",
                "a < b < c",
                "CASE WHEN x THEN 1",
                "x = 'open",
                "0x1p3 > 1",
                "1 = 1 )",
                "",
                "set_config('a', 'b', false) IS NULL",
                "CURRENT_TIMESTAMP(1); 1",
                "x ? 'a'",
            })
    void whatCouldDoMoreThanComputeIsNotTaken(String sql) {
        Optional<String> written = same(sql, "PostgreSQL");
        // an unclosed string is closed when it is written anew
        assertThat(written.filter(w -> !w.equals("`x` = 'open'"))).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            MariaDB    | `a` regexp '^x' and octet_length(`b`) > 2 | (`a` REGEXP '^x') AND (OCTET_LENGTH(`b`) > 2)
            MariaDB    | `a` = 'it\\'s'                            |
            MariaDB    | load_file('/etc/passwd') is null         |
            SQLite     | typeof("a") = 'integer' AND a GLOB 'x*'  | (TYPEOF(`a`) = 'integer') AND (`a` GLOB 'x*')
            SQLite     | [odd name] > 1                           | `odd name` > 1
            SQLite     | load_extension('x') = 1                  |
            H2         | FILE_READ('x') IS NULL                   |
            H2         | CAST("a" AS CHARACTER VARYING(3)) = 'x'  | CAST(`a` AS character varying(3)) = 'x'
            PostgreSQL | ((doc ->> 'name'::text) IS NOT NULL)     | (`doc` ->> CAST('name' AS text)) IS NOT NULL
            PostgreSQL | to_tsvector('simple'::regconfig, title)  | TO_TSVECTOR(CAST('simple' AS regconfig), `title`)
            PostgreSQL | (made + 1) AT TIME ZONE 'utc'::text > x AT TIME ZONE zone | ((`made` + 1) AT TIME ZONE CAST('utc' AS text)) > (`x` AT TIME ZONE `zone`)
            PostgreSQL | x + made AT TIME ZONE 'a' AT TIME ZONE 'b'::text | `x` + ((`made` AT TIME ZONE 'a') AT TIME ZONE CAST('b' AS text))
            PostgreSQL | - x at time zone 'a'                     | (-`x`) AT TIME ZONE 'a'
            PostgreSQL | made AT TIME ZONE 'a' * 2 IS NULL        | ((`made` AT TIME ZONE 'a') * 2) IS NULL
            PostgreSQL | made AT TIME                             |
            PostgreSQL | at > 1                                   | `at` > 1
            PostgreSQL | made AT LOCAL                            |
            MariaDB    | made AT TIME ZONE 'utc'                  |
            PostgreSQL | EXTRACT(year FROM made) >= (1800)::numeric | EXTRACT(YEAR FROM `made`) >= CAST(1800 AS numeric)
            """)
    void whatASystemHasItselfIsWrittenAnewForIt(String system, String sql, String written) {
        assertThat(same(sql, system)).isEqualTo(Optional.ofNullable(written));
    }

    @Test
    void whatSystemsReadInDifferentWaysIsNotTaken() {
        assertThat(same("a || b", "MariaDB")).isEmpty();
        assertThat(same("a || b", "SQLite")).contains("`a` || `b`");
        assertThat(same("a | b & c", "SQLite")).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            USING btree (width) INCLUDE (kind) WHERE (width > 9) | USING BTREE (`width`) INCLUDE (`kind`) WHERE `width` > 9
            USING gin (kind gin_trgm_ops)                   | USING GIN (`kind` gin_trgm_ops)
            (lower(kind) DESC NULLS LAST, width)            | (LOWER(`kind`) DESC NULLS LAST, `width`)
            USING btree (kind COLLATE "C" text_pattern_ops) WITH (fillfactor='70') | USING BTREE ((`kind` COLLATE `C`) text_pattern_ops) WITH (fillfactor = '70')
            (width); DROP TABLE x                           |
            (width) WHERE pg_sleep(1) IS NULL               |
            (width) WHERE (kind = 'kept'::state)            | (`width`) WHERE `kind` = 'kept'
            USING evil (width)                              |
            (width) TABLESPACE x                            |
            ((SELECT 1))                                    |
            """)
    void anIndexIsReadAndWrittenAnew(String sql, String written) {
        assertThat(IndexTail.rewrite(new SqlText(sql, "PostgreSQL"), SHEET, TARGET, c -> Optional.of(c.name())))
                .isEqualTo(Optional.ofNullable(written));
    }

    /** Whatever is taken is taken again when it is written, and means the same: the second writing changes nothing. */
    @Property(tries = 2_000)
    void whatIsWrittenIsOneExpression(@ForAll @StringLength(max = 60) String noise) {
        for (String sql : List.of("a = " + noise, noise, "('" + noise + "')", "a IN (" + noise + ")")) {
            same(sql, "SQLite").ifPresent(written -> {
                assertThat(Statements.isOne(written, "MariaDB")).isTrue();
                assertThat(same(written, "SQLite")).contains(written);
            });
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"SELECT 1; SELECT 2", "SELECT 1) (", "DO $$ BEGIN END $$", "SELECT 'a", "SELECT 1 /*! , 2 */ + 1"
            })
    void severalStatementsAreSeen(String sql) {
        assertThat(Statements.isOne(sql, "PostgreSQL")).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"SELECT 1;", "SELECT ';' || '/*!'", "SELECT \"a;b\" -- so; what\n"})
    void oneStatementIsOne(String sql) {
        assertThat(Statements.isOne(sql, "PostgreSQL")).isTrue();
    }
}
