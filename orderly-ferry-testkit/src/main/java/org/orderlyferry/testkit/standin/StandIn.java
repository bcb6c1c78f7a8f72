package org.orderlyferry.testkit.standin;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.CallableStatement;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;

/** A connection that answers as the system's own driver does. For one thread, as that is. */
final class StandIn {

    private final Connection connection;
    private final StandInDriver.System system;
    private final String url;
    private final Translation translation;

    StandIn(Connection connection, StandInDriver.System system, String url) {
        this.connection = connection;
        this.system = system;
        this.url = url;
        this.translation =
                system == StandInDriver.System.SQLSERVER ? new SqlServerWords(connection) : new OracleWords();
    }

    Connection proxy() {
        return of(Connection.class, (proxy, method, arguments) -> switch (method.getName()) {
            case "getMetaData" -> metaData(connection.getMetaData());
            case "unwrap" -> connection.unwrap((Class<?>) arguments[0]);
            // neither system's driver has it
            case "releaseSavepoint" -> throw new SQLException("This operation is not supported.");
            default -> {
                Object result = call(connection, method, translated(method, arguments));
                yield result instanceof Statement statement ? statement(statement) : result;
            }
        });
    }

    private DatabaseMetaData metaData(DatabaseMetaData data) {
        return of(DatabaseMetaData.class, (proxy, method, arguments) -> switch (method.getName()) {
            case "getDatabaseProductName" -> system.product();
            case "getURL" -> url;
            case "getDatabaseProductVersion" -> "stand-in";
            case "getDriverName" -> "a stand-in for " + system.product();
            default -> call(data, method, arguments);
        });
    }

    private Statement statement(Statement statement) {
        Class<? extends Statement> type = statement instanceof CallableStatement
                ? CallableStatement.class
                : statement instanceof PreparedStatement ? PreparedStatement.class : Statement.class;
        return of(type, (proxy, method, arguments) -> call(statement, method, translated(method, arguments)));
    }

    /** A statement's text, which is the first argument of whatever prepares or runs one. */
    private Object[] translated(Method method, Object[] arguments) throws SQLException {
        boolean sql = arguments != null
                && arguments.length > 0
                && arguments[0] instanceof String
                && (method.getName().startsWith("prepare") || method.getName().startsWith("execute"));
        if (!sql) {
            return arguments;
        }
        Object[] changed = arguments.clone();
        changed[0] = translation.of((String) arguments[0]);
        return changed;
    }

    private static Object call(Object target, Method method, Object[] arguments) throws Throwable {
        try {
            return method.invoke(target, arguments);
        } catch (InvocationTargetException e) {
            throw e.getCause();
        }
    }

    private static <T> T of(Class<T> type, InvocationHandler handler) {
        return type.cast(Proxy.newProxyInstance(StandIn.class.getClassLoader(), new Class<?>[] {type}, handler));
    }
}
