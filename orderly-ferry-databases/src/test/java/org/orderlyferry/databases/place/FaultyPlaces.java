package org.orderlyferry.databases.place;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Optional;
import java.util.ServiceLoader;
import org.mockito.Mockito;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.testkit.faults.FaultyConnections;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import org.postgresql.copy.CopyOperation;

/** Places of each system whose connections pass through faults. */
final class FaultyPlaces {

    private FaultyPlaces() {}

    /** The dialect of a system, whose connections pass through faults. */
    private static Dialect dialect(String system, FaultyConnections faults) {
        Dialect real = ServiceLoader.load(Dialect.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(d -> d.system().equals(system))
                .findFirst()
                .orElseThrow();
        return (Dialect) Proxy.newProxyInstance(
                Dialect.class.getClassLoader(), new Class<?>[] {Dialect.class}, (self, method, arguments) -> {
                    Object answer;
                    try {
                        answer = method.invoke(real, arguments);
                    } catch (InvocationTargetException e) {
                        throw e.getCause();
                    }
                    return method.getName().equals("connect")
                            ? ((Optional<?>) answer).map(c -> faults.over((Connection) c))
                            : answer;
                });
    }

    /** The bulk lanes work through objects of the drivers' own. */
    static Object unwrapped(Object real, FaultyConnections faults, Connection connection) {
        if (real instanceof PGConnection pg) {
            return Proxy.newProxyInstance(
                    PGConnection.class.getClassLoader(),
                    new Class<?>[] {PGConnection.class},
                    (self, method, arguments) -> method.getName().equals("getCopyAPI")
                            ? Mockito.mock(
                                    CopyManager.class,
                                    call -> copying(
                                            faults.counted(
                                                    pg.getCopyAPI(), connection, call.getMethod(), call.getArguments()),
                                            faults,
                                            connection))
                            : method.invoke(pg, arguments));
        }
        if (real instanceof org.mariadb.jdbc.Statement) {
            return Mockito.mock(
                    org.mariadb.jdbc.Statement.class,
                    call -> faults.counted(real, connection, call.getMethod(), call.getArguments()));
        }
        return real;
    }

    private static Object copying(Object answer, FaultyConnections faults, Connection connection) {
        if (!(answer instanceof CopyOperation)) {
            return answer;
        }
        return Proxy.newProxyInstance(
                CopyOperation.class.getClassLoader(),
                answer.getClass().getInterfaces(),
                (self, method, arguments) -> faults.counted(answer, connection, method, arguments));
    }

    static DatabasePlace open(String system, String url, boolean write, FaultyConnections faults) throws SQLException {
        Dialect dialect = dialect(system, faults);
        Connector connector = new Connector(PlaceAddress.of(url), OpenOptions.DEFAULT, dialect, write);
        Session session = connector.session(dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, write)
                .orElseThrow());
        return new DatabasePlace(connector, session, write, Optional.empty(), false);
    }
}
