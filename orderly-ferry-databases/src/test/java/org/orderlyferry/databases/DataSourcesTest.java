package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.databases.place.DataSources;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** A database whose connections somebody else opens is a place like any other, and gives all connections back. */
class DataSourcesTest {

    @TempDir
    Path folder;

    private final List<Connection> given = new ArrayList<>();

    private DataSource source(String url) throws SQLException {
        DataSource source = mock(DataSource.class);
        when(source.getConnection()).thenAnswer(call -> {
            Connection connection = DriverManager.getConnection(url);
            given.add(connection);
            return connection;
        });
        return source;
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsLoadedThroughASourceOfConnectionsIsAllThere(String system) throws Exception {
        Path old = folder.resolve("old.mv.db");
        new Herbarium().specimens(200).readings(300).commonDates(true).create(old);
        String url = TestSystem.of(system).fresh(folder);
        String jdbc = url.startsWith("jdbc:") ? url : "jdbc:sqlite:" + url;
        jdbc += system.equals("MariaDB") ? "&useServerPrepStmts=true" : "";
        try (Place from = Places.open(old);
                TargetPlace target = DataSources.openTarget(source(jdbc), OpenOptions.DEFAULT)) {
            assertThat(target.system()).startsWith(system);
            assertThat(Load.from(from)
                            .mode(LoadMode.CREATE)
                            .lanes(2)
                            .into(target)
                            .rows())
                    .isPositive();
        }
        try (Place from = Places.open(old);
                Place loaded = DataSources.open(source(jdbc), OpenOptions.DEFAULT)) {
            assertThat(Reconcile.between(from, loaded).lanes(2).compare().isEqual())
                    .isTrue();
        }
        for (Connection connection : given) {
            assertThat(connection.isClosed()).isTrue();
        }
    }

    @Test
    void connectionsThatWouldLoseDigitsAreRefused() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        assertThatThrownBy(() -> DataSources.open(source(url), OpenOptions.DEFAULT))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("useServerPrepStmts=true");
        assertThat(given.get(0).isClosed()).isTrue();
    }

    @Test
    void aSourceWithoutConnectionsIsToldWithoutItsSecrets() throws Exception {
        DataSource source = mock(DataSource.class);
        when(source.getConnection()).thenThrow(new SQLException("no entry: password=s3cret-moss;"));
        assertThatThrownBy(() -> DataSources.open(source, OpenOptions.DEFAULT))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("can't be opened")
                .hasMessageNotContaining("s3cret-moss");
    }

    @Test
    void aSystemThatIsKnownByItsDriverAloneIsReadByIt() throws Exception {
        String url = "jdbc:hsqldb:mem:garden";
        try (Connection connection = DriverManager.getConnection(url);
                var statement = connection.createStatement()) {
            statement.execute("CREATE TABLE bed (id INTEGER PRIMARY KEY)");
            statement.execute("INSERT INTO bed VALUES (7)");
        }
        try (Place place = DataSources.open(source(url), OpenOptions.DEFAULT)) {
            assertThat(place.system()).startsWith("HSQL");
            assertThat(place.count(place.tables().get(0))).isEqualTo(1);
        }
        assertThat(given.get(0).isClosed()).isTrue();
    }

    @Test
    void aDriverThatSaysNothingIsToldAndItsConnectionGivenBack() throws Exception {
        Connection connection = mock(Connection.class);
        DatabaseMetaData data = mock(DatabaseMetaData.class);
        when(connection.getMetaData()).thenReturn(data);
        when(data.getURL()).thenReturn("jdbc:moss:garden");
        when(data.getDatabaseProductName()).thenReturn("Mossbase");
        when(data.getTypeInfo()).thenThrow(new SQLException("no types"));
        DataSource source = mock(DataSource.class);
        when(source.getConnection()).thenReturn(connection);
        when(source.unwrap(any())).thenThrow(new SQLException());
        assertThatThrownBy(() -> DataSources.open(source, OpenOptions.DEFAULT))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("no types");
        org.mockito.Mockito.verify(connection).close();
    }
}
