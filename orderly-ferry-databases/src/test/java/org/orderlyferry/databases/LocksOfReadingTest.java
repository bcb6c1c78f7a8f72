package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.orderlyferry.testkit.servers.Databases.rows;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.LocalPostgres;
import org.orderlyferry.work.Export;

/**
 * A database of more tables than the server has locks for: PostgreSQL holds those of what was read to the end of a
 * transaction. All of it is read, and all of one moment.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LocksOfReadingTest {

    private static final int TABLES = 400;

    @TempDir
    private Path folder;

    private LocalPostgres server;
    private String url;

    @BeforeAll
    void manyTables() throws SQLException {
        server = LocalPostgres.start("max_locks_per_transaction=10", "max_connections=20");
        url = server.url("postgres");
        try (Connection connection = Databases.connect(url);
                Statement statement = connection.createStatement()) {
            for (int i = 0; i < TABLES; i++) {
                statement.execute(
                        "create table bed_" + i + " (id int primary key, a int unique, b int unique, c int unique,"
                                + " d int unique, state text)");
                statement.execute("insert into bed_" + i + " values (1, 1, 1, 1, 1, 'before')");
            }
        }
    }

    @AfterAll
    void theServerEnds() {
        server.close();
    }

    private void change(String state) throws SQLException {
        List<String> all = new ArrayList<>();
        for (int i = 0; i < TABLES; i++) {
            all.add("update bed_" + i + " set state = '" + state + "'");
        }
        run(url, all.toArray(String[]::new));
    }

    private static String state(Place place, TableName table) {
        try (RecordReader reader = place.read(Slice.whole(place.define(table)))) {
            RecordBatch batch = new RecordBatch();
            assertThat(reader.read(batch)).isTrue();
            return batch.text(0, 5);
        }
    }

    @Test
    void whatIsReadByOneIsOfOneMoment() throws Exception {
        change("before");
        try (Place place = Places.open(url)) {
            List<TableName> tables = place.tables();
            assertThat(tables).hasSize(TABLES);
            assertThat(state(place, tables.get(0))).isEqualTo("before");
            change("after");
            for (TableName table : tables) {
                assertThat(state(place, table)).as(table.name()).isEqualTo("before");
                assertThat(place.count(table)).isEqualTo(1);
            }
        }
        assertThat(rows(url, "select count(*) from pg_stat_activity where application_name = 'Orderly Ferry'"))
                .containsExactly("0");
    }

    @Test
    void whatIsReadBySeveralIsOfOneMoment() throws Exception {
        change("before");
        try (Place place = Places.open(url)) {
            List<TableName> tables = place.tables();
            tables.forEach(place::count);
            Companions companions = place.companions(2);
            change("after");
            for (Place companion : companions.places()) {
                for (TableName table : tables) {
                    assertThat(state(companion, table)).as(table.name()).isEqualTo("before");
                }
                companion.close();
            }
        }
    }

    /** Planning counts tables by the session that keeps the moment for those that read. */
    @Test
    void allOfItIsExportedByTwo() throws Exception {
        change("now");
        Path set = folder.resolve("set");
        try (Place place = Places.open(url)) {
            assertThat(Export.from(place).lanes(2).to(set).tables()).hasSize(TABLES);
        }
        assertThat(Files.readString(set.resolve("data/bed_" + (TABLES - 1) + ".csv")))
                .contains(",now");
    }

    /** Whoever may have one connection alone reads by it, as far as the server's room goes. */
    @Test
    void aUserOfOneConnectionReadsToo() throws Exception {
        run(url, "create role alone login connection limit 1", "grant select on all tables in schema public to alone");
        try (Place place = Places.open(url.replace("user=postgres", "user=alone"))) {
            assertThat(place.count(TableName.of("bed_7"))).isEqualTo(1);
        } finally {
            run(url, "drop owned by alone", "drop role alone");
        }
    }
}
