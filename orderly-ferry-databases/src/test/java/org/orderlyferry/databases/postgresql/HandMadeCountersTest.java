package org.orderlyferry.databases.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Sequences that belong to no column, and from which the default of one takes its values, as older tables have them. */
class HandMadeCountersTest {

    private static final TableName SHELF = TableName.of("shelf");

    @TempDir
    private Path folder;

    private String old;

    @BeforeEach
    void make() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        old = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                old,
                "CREATE SCHEMA \"it's\"",
                "CREATE SEQUENCE \"it's\".\"the 'next'\" START 5 INCREMENT 2",
                "CREATE TABLE shelf (id integer DEFAULT nextval('\"it''s\".\"the ''next''\"') PRIMARY KEY, note text)",
                "INSERT INTO shelf (note) VALUES ('moss'), ('fern')");
    }

    static List<String> systems() {
        return TestSystem.names().toList();
    }

    private static TransferResult move(String from, String to, LoadMode mode) {
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void theyAreCounters(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        TransferResult moved = move(old, url, LoadMode.CREATE);
        assertThat(moved.leftBehind()).extracting(LeftBehind::kind).doesNotContain("sequence", "default");
        try (Place source = Places.open(old);
                Place target = Places.open(url)) {
            assertThat(source.define(SHELF).columns().get(0).identity()).contains(new Identity(false, 5, 2, 9));
            TableDefinition there = target.define(target.tables().get(0));
            assertThat(there.columns().get(0).identity()).isPresent();
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
        String quote = system.equals("MariaDB") ? "`" : "\"";
        Databases.run(url, "INSERT INTO 'shelf' ('note') VALUES (NULL)".replace("'", quote));
        assertThat(Databases.rows(url, "SELECT MAX('id') FROM 'shelf'".replace("'", quote))
                        .toString())
                .containsPattern("\\b(8|9)\\b");
    }

    /** One that is at the target goes past what arrives, though nothing there says whose it is. */
    @Test
    void oneThatIsThereIsSet() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                url,
                "CREATE SEQUENCE shelf_no",
                "CREATE TABLE shelf (id integer DEFAULT nextval('shelf_no') PRIMARY KEY, note text)");
        move(old, url, LoadMode.APPEND);
        Databases.run(url, "INSERT INTO shelf (note) VALUES ('heath')");
        assertThat(Databases.rows(url, "SELECT id FROM shelf ORDER BY 1").toString())
                .contains("5", "7", "8");
    }

    /** What several columns share counts for none of them, and what is reckoned with it is no counter. */
    @Test
    void othersAreTold() throws Exception {
        Databases.run(
                old,
                "CREATE SEQUENCE shared START 10 INCREMENT 5",
                "SELECT nextval('shared')",
                "CREATE TABLE one (id integer DEFAULT nextval('shared') PRIMARY KEY)",
                "CREATE TABLE other (id integer DEFAULT nextval('shared') PRIMARY KEY)",
                "CREATE SEQUENCE half",
                "CREATE TABLE twice (id integer DEFAULT nextval('half') * 2 PRIMARY KEY)",
                "CREATE TABLE mine (id serial PRIMARY KEY)",
                "ALTER TABLE mine ALTER id SET DEFAULT nextval('mine_id_seq') * 2");
        try (Place source = Places.open(old)) {
            for (String table : List.of("one", "other", "twice", "mine")) {
                assertThat(source.define(TableName.of(table)).columns().get(0).identity())
                        .as(table)
                        .isEmpty();
            }
            assertThat(source.leftBehind())
                    .extracting(LeftBehind::toString)
                    .anyMatch(l -> l.contains("shared") && l.contains("its next value is 15"))
                    .anyMatch(l -> l.contains("half") && l.contains("it belongs to no column"))
                    .noneMatch(l -> l.contains("the 'next'"));
        }
    }
}
