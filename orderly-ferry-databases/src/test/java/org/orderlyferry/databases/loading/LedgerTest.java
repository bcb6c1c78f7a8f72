package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** What a load writes down, and what whoever comes next makes of it. */
class LedgerTest {

    @TempDir
    private Path folder;

    static Stream<Deed> deeds() {
        TableName odd = new TableName("s\"x", "a'b;--\n\u001b");
        return Stream.of(
                new Deed.SchemaMade("s"),
                new Deed.TypeMade("t"),
                new Deed.TableMade(odd),
                new Deed.Renamed(List.of(odd), List.of(TableName.of("b"))),
                new Deed.ConstraintRenamed(odd, "x", "y"),
                new Deed.IndexRenamed(odd, "x", "y"),
                new Deed.ReferenceAdded(odd, "r"),
                new Deed.ReferenceDropped(
                        odd,
                        new ForeignKey(
                                "r",
                                List.of("a"),
                                TableName.of("b"),
                                List.of("c"),
                                ReferentialAction.CASCADE,
                                ReferentialAction.SET_NULL)),
                new Deed.ViewsTouched(),
                new Deed.TriggerMoved("t", "kept", odd),
                new Deed.ChecksOff(odd),
                new Deed.CounterBehind(odd, Map.of("id", 7L)),
                new Deed.Planned("a plan"),
                new Deed.Settled(),
                new Deed.KeyBegun(odd, 3));
    }

    @ParameterizedTest
    @MethodSource("deeds")
    void aDeedIsReadAsItWasWritten(Deed deed) throws SQLException {
        DeedText text = DeedText.of(deed);
        assertThat(new DeedText(text.kind(), text.facts()).deed()).isEqualTo(deed);
    }

    @Test
    void noKindOfDeedIsForgottenHere() {
        assertThat(deeds().map(d -> (Class) d.getClass()))
                .containsExactlyInAnyOrder(Deed.class.getPermittedSubclasses());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "Statement|{}",
                "TableMade|DROP TABLE label",
                "TableMade|[1]",
                "TableMade|{\"table\": {\"schema\": \"\", \"name\": \"x\", \"sql\": \"DROP\"}}",
                "TableMade|{\"table\": 7}",
                "Renamed|{\"from\": \"x\"}",
                "CounterBehind|{\"table\": {\"schema\": \"\", \"name\": \"x\"}, \"next\": {\"id\": \"1; DROP\"}}",
                "java.lang.Runtime|{}",
                "|{}"
            })
    void whatNoLoadWritesIsRefused(String line) {
        int bar = line.indexOf('|');
        assertThatThrownBy(() -> new DeedText(line.substring(0, bar), line.substring(bar + 1)).deed())
                .isInstanceOf(SQLException.class)
                .hasMessageContaining("a line that no load writes");
    }

    @Test
    void aLineOfEndlessFactsIsRefused() {
        assertThatThrownBy(() -> new DeedText("TypeMade", "{\"type\":\"" + "x".repeat(2_000_000) + "\"}").deed())
                .isInstanceOf(SQLException.class)
                .hasMessageNotContaining("xxxx");
    }

    private Session session(String system, String url) throws SQLException {
        Dialect dialect = ServiceLoader.load(Dialect.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(d -> d.system().equals(system))
                .findFirst()
                .orElseThrow();
        Connection connection =
                dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, true).orElseThrow();
        connection.setAutoCommit(false);
        return new Session(url, dialect, connection, t -> t);
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatALoadHasMadeIsItsOwnAndGoesWhenItIsUndone(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        String users = TestSystem.of(system).quote("orderly_ferry_7");
        Databases.run(url, "CREATE TABLE " + users + " (n INTEGER)");
        try (Session session = session(system, url)) {
            TableName made = session.catalogue().tables().get(0);
            TableName way = new TableName(made.schema(), ReservedNames.onTheWay(1));
            Ledger ledger = new Ledger(session);
            ledger.open();
            ledger.step(new Settling.Step(
                    "CREATE TABLE " + session.dialect().quote(way) + " (n INTEGER)", new Deed.TableMade(way)));
            session.connection().commit();
        }
        try (Session session = session(system, url)) {
            // the user's table merely has such a name
            assertThat(Ledger.own(session))
                    .extracting(TableName::name)
                    .contains("orderly_ferry_1", "orderly_ferry_ledger")
                    .doesNotContain("orderly_ferry_7");
            assertThat(new Ledger(session).undo()).isTrue();
        }
        try (Session session = session(system, url)) {
            assertThat(Ledger.own(session)).isEmpty();
            assertThat(session.catalogue().tables()).extracting(TableName::name).containsExactly("orderly_ferry_7");
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aLedgerThatWasJustOpenedTellsOfNothingDone(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        try (Session session = session(system, url)) {
            new Ledger(session).open();
        }
        try (Session session = session(system, url)) {
            assertThat(DatabaseLoading.clear(session, "", false)).isEqualTo(Leftover.UNDONE);
            assertThat(session.catalogue().tables()).isEmpty();
            assertThat(DatabaseLoading.clear(session, "", false)).isEqualTo(Leftover.NONE);
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aStepThatWasWrittenDownAndNeverDoneNeedsNothing(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(url, "CREATE TABLE " + TestSystem.of(system).quote("label") + " (n INTEGER)");
        try (Session session = session(system, url)) {
            TableName label = session.catalogue().tables().get(0);
            TableName way = new TableName(label.schema(), ReservedNames.onTheWay(1));
            Ledger ledger = new Ledger(session);
            ledger.open();
            assertThatThrownBy(() -> ledger.step(new Settling.Step("CREATE TABLE ((", new Deed.TableMade(way))))
                    .isInstanceOf(SQLException.class);
            session.rollback();
        }
        try (Session session = session(system, url)) {
            new Ledger(session).undo();
            assertThat(session.catalogue().tables()).extracting(TableName::name).containsExactly("label");
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aTableOfTheLedgersNameThatNoLoadHasMadeIsRefused(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(url, "CREATE TABLE " + TestSystem.of(system).quote("orderly_ferry_ledger") + " (n INTEGER)");
        try (Session session = session(system, url)) {
            assertThatThrownBy(() -> Ledger.refuseStranger(session))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("the name of Ferry's own ledger")
                    .hasMessageContaining("nothing was changed");
            assertThat(Optional.of(Ledger.own(session))).contains(java.util.Set.of());
        }
    }
}
