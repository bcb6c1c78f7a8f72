package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.testkit.doubles.Contents;

/** Scripts that grew by hand: what a table was made as isn't what it is in the end. */
class GrownScriptsTest {

    @TempDir
    Path folder;

    private Place script(String dialect, String text) throws Exception {
        return GardenScript.open(folder, dialect, text);
    }

    private static TableDefinition bed(Place place) {
        return place.define(TableName.of("bed"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "postgresql | ALTER TABLE bed ALTER COLUMN a TYPE bigint | BIGINT",
                "postgresql | ALTER TABLE bed ALTER a SET DATA TYPE numeric(9,2) | DECIMAL(9,2)",
                "h2 | ALTER TABLE bed ALTER COLUMN a BIGINT | BIGINT",
                "sqlserver | ALTER TABLE bed ALTER COLUMN a bigint NOT NULL | BIGINT",
                "mariadb | ALTER TABLE bed MODIFY COLUMN A bigint NULL | BIGINT",
                "mariadb | ALTER TABLE bed MODIFY a smallint NOT NULL AUTO_INCREMENT | SMALLINT",
                "oracle | ALTER TABLE bed MODIFY (a NUMBER(9,2)) | DECIMAL(9,2)",
            })
    void aColumnsTypeIsTheOneThatItGetsInTheEnd(String dialect, String change, String type) throws Exception {
        String integer = dialect.equals("oracle") ? "NUMBER(9)" : "int";
        try (Place place = script(
                dialect,
                "CREATE TABLE bed (a " + integer + ", b " + integer + ");\nINSERT INTO bed VALUES (1, 2);\n" + change
                        + ";\nINSERT INTO bed VALUES (3, 4);\n")) {
            TableDefinition bed = place.define(place.tables().get(0));
            assertThat(place.leftBehind()).isEmpty();
            assertThat(bed.columns()).hasSize(2);
            assertThat(bed.columns().get(0).type()).hasToString(type);
            assertThat(bed.columns().get(1).type())
                    .isNotEqualTo(bed.columns().get(0).type());
            assertThat(place.count(bed.name())).isEqualTo(2);
        }
    }

    /** What would change records, or what they have where they say nothing, is told. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "postgresql | ALTER TABLE bed ALTER a TYPE bigint USING a * 2",
                "postgresql | ALTER TABLE bed ALTER a TYPE text",
                "postgresql | ALTER TABLE bed ALTER a SET DEFAULT 5",
                "postgresql | ALTER TABLE bed ALTER gone TYPE bigint",
                "postgresql | ALTER TABLE bed DROP COLUMN a",
                "postgresql | ALTER TABLE bed DROP CONSTRAINT gone",
                "postgresql | DROP INDEX gone",
                "mariadb | ALTER TABLE bed MODIFY a bigint DEFAULT 7",
                "oracle | ALTER TABLE bed MODIFY (a DEFAULT 7)",
                "mariadb | ALTER TABLE bed DROP PRIMARY KEY",
            })
    void whatIsntFollowedIsTold(String dialect, String change) throws Exception {
        try (Place place =
                script(dialect, "CREATE TABLE bed (a int, b int); INSERT INTO bed VALUES (1, 2);\n" + change + ";\n")) {
            assertThat(place.define(place.tables().get(0)).columns())
                    .extracting(c -> c.type().name().toString())
                    .doesNotContain("BIGINT", "CLOB");
            assertThat(place.leftBehind()).hasSize(1);
            assertThat(place.leftBehind().toString()).contains("in line 2");
        }
    }

    /** No record has been made of anything else yet. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "postgresql | ALTER TABLE ONLY bed ALTER COLUMN a TYPE text | CHARACTER LARGE OBJECT",
                "mariadb | ALTER TABLE bed MODIFY a bigint DEFAULT 7 | BIGINT",
            })
    void aTableWithoutRecordsBecomesWhatItIsTold(String dialect, String change, String type) throws Exception {
        try (Place place = script(
                dialect, "CREATE TABLE bed (a int, b int);\n" + change + ";\nINSERT INTO bed (b) VALUES (1);\n")) {
            assertThat(place.leftBehind()).isEmpty();
            assertThat(bed(place).columns().get(0).type()).hasToString(type);
            assertThat(Contents.of(place.read(Slice.whole(bed(place)))))
                    .containsExactly(Arrays.asList(dialect.equals("mariadb") ? "7" : null, "1"));
        }
    }

    @Test
    void whatIsDroppedIsGone() throws Exception {
        String made =
                """
                CREATE TABLE soil (id int PRIMARY KEY, code varchar(9) UNIQUE);
                CREATE TABLE bed (id int, soil int REFERENCES soil, code varchar(9),
                  CONSTRAINT bed_key PRIMARY KEY (id), CONSTRAINT coded UNIQUE (code),
                  CONSTRAINT positive CHECK (id > 0), CONSTRAINT lies FOREIGN KEY (code) REFERENCES soil (code));
                CREATE INDEX by_soil ON bed (soil);
                """;
        try (Place place = script(
                "postgresql",
                made
                        + """
                        ALTER TABLE bed DROP CONSTRAINT bed_key, DROP CONSTRAINT IF EXISTS coded, DROP CONSTRAINT positive CASCADE,
                          DROP CONSTRAINT IF EXISTS gone;
                        ALTER TABLE bed DROP CONSTRAINT bed_soil_fkey, DROP CONSTRAINT lies;
                        ALTER TABLE soil DROP CONSTRAINT soil_code_key, DROP CONSTRAINT soil_pkey;
                        DROP INDEX IF EXISTS public.by_soil;
                        ALTER TABLE bed ALTER COLUMN id DROP NOT NULL;
                        """)) {
            assertThat(place.leftBehind()).isEmpty();
            for (TableName name : place.tables()) {
                TableDefinition table = place.define(name);
                assertThat(table.primaryKey()).isEmpty();
                assertThat(table.uniqueKeys()).isEmpty();
                assertThat(table.foreignKeys()).isEmpty();
                assertThat(table.checks()).isEmpty();
                assertThat(table.indexes()).isEmpty();
            }
        }
        try (Place place = script(
                "mariadb",
                """
                CREATE TABLE soil (id int PRIMARY KEY);
                CREATE TABLE bed (id int PRIMARY KEY, soil int, other int, KEY by_soil (soil), UNIQUE KEY once (other),
                  FOREIGN KEY (soil) REFERENCES soil (id), CONSTRAINT others FOREIGN KEY (other) REFERENCES soil (id));
                ALTER TABLE bed DROP FOREIGN KEY bed_ibfk_1, DROP FOREIGN KEY others, DROP PRIMARY KEY, DROP INDEX once;
                DROP INDEX by_soil ON bed;
                """)) {
            assertThat(place.leftBehind()).isEmpty();
            assertThat(bed(place).foreignKeys()).isEmpty();
            assertThat(bed(place).uniqueKeys()).isEmpty();
            assertThat(bed(place).primaryKey()).isEmpty();
            assertThat(bed(place).indexes()).isEmpty();
        }
    }
}
