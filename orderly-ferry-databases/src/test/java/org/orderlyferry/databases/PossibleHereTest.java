package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.databases.dialect.FurtherTypes;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.ComparedDefinitions;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What the target's system has and this server of it lacks is left behind by name before any record moves. */
class PossibleHereTest {

    private static final TableName SHEET = TableName.of("sheet");

    @TempDir
    private Path folder;

    private static TransferResult load(Place source, String target) {
        try (TargetPlace opened = Places.openTarget(target)) {
            return Load.from(source).into(opened);
        }
    }

    private static List<String> told(TransferResult result) {
        return result.leftBehind().stream().map(LeftBehind::toString).toList();
    }

    @Test
    void whatPeopleHaveMadeInOneServerIsNotInAnother() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        String old = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                old,
                "create collation phone_book (provider = icu, locale = 'de-u-co-phonebk')",
                "create operator class backwards_ops for type integer using btree as operator 1 > , operator 2 >= ,"
                        + " operator 3 = , operator 4 <= , operator 5 < , function 1 btint4cmp(integer, integer)",
                "create type state as enum ('kept', 'lent')",
                "create table sheet (id integer primary key, shelf integer, name text collate phone_book, kind"
                        + " state, word text)",
                "create index by_shelf on sheet (shelf)",
                "create index last_shelf on sheet (shelf backwards_ops)",
                "create index by_book on sheet (lower(word) collate phone_book) where shelf > 3",
                "create index by_letters on sheet (name text_pattern_ops)",
                "insert into sheet values (1, 4, 'Ärmel', 'kept', 'a'), (2, 9, null, 'lent', 'b')");
        String fresh = TestSystem.POSTGRESQL.fresh(folder);
        try (Place source = Places.open(old)) {
            TransferResult result = load(source, fresh);
            assertThat(told(result))
                    .anyMatch(l -> l.startsWith("collation sheet.name: this server has no collation"))
                    .anyMatch(l -> l.startsWith("index sheet.last_shelf: the server can't make it: ")
                            && l.contains("\"backwards_ops\" does not exist")
                            && l.contains("CREATE INDEX \"last_shelf\" ON \"sheet\""))
                    .anyMatch(l -> l.startsWith("index sheet.by_book: the server can't make it: "))
                    .noneMatch(l -> l.contains("orderly_ferry"));
            assertThat(result.rows()).isEqualTo(2);
        }
        try (Place source = Places.open(old);
                Place target = Places.open(fresh)) {
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
            assertThat(target.tables()).containsExactly(SHEET);
            TableDefinition sheet = target.define(SHEET);
            assertThat(sheet.indexes())
                    .extracting(IndexDefinition::name)
                    .contains("by_shelf", "by_letters")
                    .doesNotContain("last_shelf", "by_book");
        }
        // where they are, they are carried
        Databases.run(
                fresh,
                "drop table sheet",
                "create collation phone_book (provider = icu, locale = 'de-u-co-phonebk')",
                "create operator class backwards_ops for type integer using btree as operator 1 > , operator 2 >= ,"
                        + " operator 3 = , operator 4 <= , operator 5 < , function 1 btint4cmp(integer, integer)");
        try (Place source = Places.open(old)) {
            assertThat(told(load(source, fresh)))
                    .noneMatch(l -> l.startsWith("collation") || l.contains("last_shelf") || l.contains("by_book"));
        }
    }

    /** A place whose texts have a collation. */
    private static final class Collated extends ForwardingPlace {

        private final String collation;

        Collated(Place place, String collation) {
            super(place);
            this.collation = collation;
        }

        @Override
        public TableDefinition define(TableName table) {
            TableDefinition defined = super.define(table);
            return defined.toBuilder()
                    .columns(defined.columns().stream()
                            .map(c -> c.name().equals("name")
                                    ? c.toBuilder().collation(collation).build()
                                    : c)
                            .toList())
                    .build();
        }
    }

    @ParameterizedTest
    @CsvSource({
        "MariaDB,utf8mb4_herbal_ci,false",
        "MariaDB,utf8mb4_uca1400_ai_ci,true",
        "MariaDB,utf8mb4_bin,true",
        "PostgreSQL,\"C\",true",
        "PostgreSQL,pg_catalog.\"C\",true",
        "PostgreSQL,\"pg_catalog\".\"herbal\",false"
    })
    void aCollationIsAskedFor(String system, String collation, boolean known) throws Exception {
        assumeThat(TestSystem.names()).contains(system);
        String old = TestSystem.of(system).fresh(folder);
        Databases.run(
                old,
                "create table sheet (id integer primary key, name varchar(20))",
                "insert into sheet values (1, 'a')");
        String fresh = TestSystem.of(system).fresh(folder);
        try (Place source = Places.open(old)) {
            TransferResult result = load(new Collated(source, collation), fresh);
            assertThat(told(result).stream().anyMatch(l -> l.startsWith("collation sheet.name: this server has no")))
                    .isEqualTo(!known);
            assertThat(result.rows()).isEqualTo(1);
        }
        try (Place target = Places.open(fresh)) {
            assertThat(target.define(SHEET)
                            .column("name")
                            .orElseThrow()
                            .collation()
                            .isEmpty())
                    .isEqualTo(!known);
        }
    }

    @Test
    void aTypeThatTheTargetHasAllTheSameIsNotLeftBehind() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL", "MariaDB");
        String old = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                old,
                "create type pot as (height integer)",
                "create table sheet (id integer primary key, net inet, lent tstzrange, \"the pot\" pot)",
                "insert into sheet values (1, '10.1.2.0/24', '[2031-02-03,2031-02-04)', row(3))");
        Path set = folder.resolve("set");
        String pot = "type sheet.the pot: values of pot are carried as text";
        String net = "type sheet.net: values of inet are carried as text";
        String lent = "type sheet.lent: values of tstzrange are carried as text";
        try (Place source = Places.open(old)) {
            assertThat(source.leftBehind()).extracting(LeftBehind::toString).contains(net, lent, pot);
            assertThat(told(load(source, TestSystem.POSTGRESQL.fresh(folder))))
                    .contains(pot)
                    .doesNotContain(net, lent);
            assertThat(told(load(source, TestSystem.MARIADB.fresh(folder)))).contains(net, lent, pot);
            // a set has them as texts, and whoever reads it must know
            assertThat(told(Export.from(source).to(set))).contains(net, lent, pot);
        }
        String fresh = TestSystem.POSTGRESQL.fresh(folder);
        try (Place source = Places.open(set)) {
            assertThat(told(load(source, fresh))).contains(pot).doesNotContain(net, lent);
        }
        try (Place target = Places.open(fresh)) {
            assertThat(target.define(SHEET).columns())
                    .extracting(ColumnDefinition::sourceType)
                    .containsExactly("integer", "inet", "tstzrange", "text");
        }
        try (Place source = Places.open(old);
                Place target = Places.open(fresh)) {
            ComparedDefinitions compared = Reconcile.between(source, target)
                    .definitions(true)
                    .compare()
                    .definitions()
                    .orElseThrow();
            assertThat(compared.leftBehind())
                    .extracting(t -> t.thing().toString())
                    .contains(pot)
                    .doesNotContain(net, lent);
        }
        Databases.run(fresh, "delete from sheet", "alter table sheet alter column net type text");
        try (Place source = Places.open(set);
                TargetPlace target = Places.openTarget(fresh)) {
            assertThat(told(Load.from(source).mode(LoadMode.APPEND).into(target)))
                    .contains(net, pot)
                    .doesNotContain(lent);
        }
    }

    private static final String[] EXTENDED = {
        "create schema ext",
        "create extension citext with schema ext",
        "create extension hstore",
        "create extension pg_trgm"
    };

    /** Where the target has the extensions, too, what comes is of their types, wherever they are there. */
    @Test
    void anExtensionsTypesAreKeptWhereTheTargetHasThem() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        String old = TestSystem.POSTGRESQL.fresh(folder);
        assumeThat(Databases.rows(
                        old,
                        "select count(*) from pg_available_extensions where name in ('citext', 'hstore', 'pg_trgm')"))
                .contains("3");
        Databases.run(old, EXTENDED);
        Databases.run(
                old,
                "create table sheet (id integer primary key, name ext.citext unique, marks hstore, words text)",
                "create index by_marks on sheet using gin (marks)",
                "create index by_words on sheet using gin (words gin_trgm_ops)",
                "insert into sheet values (1, 'Alder', 'dry=>yes, height=>\"3\"', 'near Osmmodale'), (2, null, '', null)");
        String without = TestSystem.POSTGRESQL.fresh(folder);
        String with = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(with, "create extension citext", "create extension hstore", "create extension pg_trgm");
        try (Place source = Places.open(old)) {
            assertThat(told(load(source, without)))
                    .contains(
                            "type sheet.name: values of ext.citext are carried as text",
                            "type sheet.marks: values of hstore are carried as text")
                    .anyMatch(l -> l.startsWith("index sheet.by_marks: the server can't make it"))
                    .anyMatch(l -> l.startsWith("index sheet.by_words: the server can't make it"));
            assertThat(told(load(source, with))).isEmpty();
        }
        try (Place source = Places.open(old);
                Place target = Places.open(with)) {
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
            assertThat(target.define(SHEET).columns())
                    .extracting(ColumnDefinition::sourceType)
                    .containsExactly("integer", "citext", "hstore", "text");
            assertThat(target.define(SHEET).indexes())
                    .extracting(IndexDefinition::name)
                    .contains("by_marks", "by_words");
        }
        // what is the same to the type is the same to a merge
        Databases.run(old, "update sheet set name = 'ALDER', marks = 'dry=>no' where id = 1");
        try (Place source = Places.open(old);
                TargetPlace target = Places.openTarget(with)) {
            Load.from(source).mode(LoadMode.MERGE).into(target);
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            citext                     | x.citext
            public.citext              | x.citext
            "Odd One".citext           | x.citext
            shape(Point,4326)          | shape(Point,4326)
            shape(Point, 4326)         | shape(Point, 4326)
            shape                      | shape
            citext[]                   |
            other                      |
            citext; drop table sheet   |
            shape(1); select 1         |
            shape((1))                 |
            shape('a')                 |
            a.b.citext                 |
            """)
    void aTypeIsANameWithWhatStandsInBrackets(String type, String held) {
        FurtherTypes types = new FurtherTypes(Map.of("citext", "x.citext", "shape", "shape"));
        assertThat(types.held(type)).isEqualTo(Optional.ofNullable(held));
    }
}
