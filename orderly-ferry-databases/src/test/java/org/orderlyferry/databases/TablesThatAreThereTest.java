package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.naming.NameMapping;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Tables that are there already, by names in other letters, and in engines that can't take anything back. */
class TablesThatAreThereTest {

    private static final TableName BED = TableName.of("bed");

    @TempDir
    private Path folder;

    private TransferResult load(String name, String url, LoadMode mode) throws Exception {
        Path file = folder.resolve(name + ".csv");
        Files.writeString(file, "id,name\n2,b\n");
        try (Place source = Places.open(file);
                TargetPlace target = Places.openTarget(url)) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    @ParameterizedTest
    @EnumSource(
            value = LoadMode.class,
            names = {"APPEND", "MERGE", "REPLACE"})
    void aTableIsFoundInWhateverLettersWhereTheSystemTellsNoneApart(LoadMode mode) throws Exception {
        String url = TestSystem.SQLITE.fresh(folder);
        run(url, "create table bed (id int primary key, name text)", "insert into bed values (1, 'a')");
        TransferResult result = load("Bed", url, mode);
        assertThat(result.findings())
                .anySatisfy(f -> assertThat(f.code()).isEqualTo(FindingCode.NAME_CHANGED))
                .noneSatisfy(f -> assertThat(f.code()).isEqualTo(FindingCode.NAME_ALIKE));
        try (Place there = Places.open(url)) {
            assertThat(there.tables()).containsExactly(BED);
            assertThat(there.count(BED)).isEqualTo(mode == LoadMode.REPLACE ? 1 : 2);
        }
    }

    @Test
    void aTableThatIsThereInOtherLettersIsNotMadeOnceMore() throws Exception {
        String url = TestSystem.SQLITE.fresh(folder);
        run(url, "create table bed (id int primary key, name text)", "insert into bed values (1, 'a')");
        assertThatThrownBy(() -> load("Bed", url, LoadMode.CREATE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("bed (1 records)");
    }

    @ParameterizedTest
    @EnumSource(TestSystem.class)
    void whatIsNoTableKeepsItsName(TestSystem system) throws Exception {
        String url = system.fresh(folder);
        run(
                url,
                "create table other (id int)",
                "create view \"bed\" as select id from other".replace("\"", quote(system)));
        for (LoadMode mode : List.of(LoadMode.CREATE, LoadMode.REPLACE, LoadMode.APPEND)) {
            assertThatThrownBy(() -> load("bed", url, mode))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("nothing was changed")
                    .hasMessageContaining("the name bed is taken by a view");
        }
        try (Place there = Places.open(url)) {
            assertThat(there.tables()).hasSize(1);
            assertThat(there.leftBehind()).extracting(LeftBehind::name).containsExactly("bed");
        }
    }

    private static String quote(TestSystem system) {
        return system == TestSystem.MARIADB ? "`" : "\"";
    }

    @Test
    void namesAreThoseThatTheDatabaseKeeps() {
        NamingRules rules = new NamingRules(
                64,
                NamingRules.Unit.CHARACTERS,
                false,
                false,
                NamingRules.Scope.TABLE,
                NamingRules.Scope.TABLE,
                NamingRules.Scope.TABLE,
                true,
                c -> true);
        List<TableDefinition> wanted = List.of(
                TableDefinition.named("Bed").column("id", LogicalType.INTEGER).build(),
                TableDefinition.named("Plant").column("id", LogicalType.INTEGER).build());
        assertThat(mapped(rules, wanted, name -> name)).containsExactly("Bed", "Plant");
        assertThat(mapped(rules, wanted, name -> TableName.of(name.name().toLowerCase(Locale.ROOT))))
                .containsExactly("bed", "plant");
    }

    private static List<String> mapped(NamingRules rules, List<TableDefinition> wanted, UnaryOperator<TableName> held) {
        NameMapping names = new NameMapping(rules, wanted, List.of()).held(held);
        return wanted.stream().map(t -> names.map(t).name().name()).toList();
    }

    @Test
    void anEngineWithoutTransactionsIsToldAndNotAddedTo() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, name varchar(9)) engine = Aria",
                "insert into bed values (1, 'a')");
        for (LoadMode mode : List.of(LoadMode.APPEND, LoadMode.MERGE)) {
            assertThatThrownBy(() -> load("bed", url, mode))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("kept by the engine Aria");
        }
        try (Place there = Places.open(url)) {
            assertThat(there.count(BED)).isOne();
            assertThat(there.leftBehind()).extracting(LeftBehind::kind).containsExactly("moment");
        }
        String aria = url + "&sessionVariables=default_storage_engine=Aria";
        load("bed", aria, LoadMode.REPLACE);
        run(url, "alter table bed add primary key (id)");
        // what a load writes down for itself isn't kept by Aria, either
        load("bed", aria, LoadMode.MERGE);
        try (Place there = Places.open(url)) {
            assertThat(there.count(BED)).isOne();
            assertThat(there.leftBehind()).isEmpty();
        }
    }
}
