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
import java.sql.Types;
import java.util.Set;

/** A connection that answers as the system's own driver does. For one thread, as that is. */
final class StandIn {

    /** Oracle's own codes: for floating point numbers of two sizes, and for moments with a zone. */
    private static final Set<Integer> OWN_NUMBERS = Set.of(100, 101);

    private static final int OWN_MOMENT = -101;

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
        return of(type, (proxy, method, arguments) -> {
            boolean coded = method.getName().equals("setObject") && arguments.length == 3;
            if (coded && OWN_NUMBERS.contains(arguments[2])) {
                // H2 has no codes of its own for what it takes anyway
                ((PreparedStatement) statement).setObject((int) arguments[0], arguments[1]);
                return null;
            }
            if (method.getName().equals("setNull")
                    && Integer.valueOf(OWN_MOMENT).equals(arguments[1])) {
                arguments[1] = Types.TIMESTAMP_WITH_TIMEZONE;
            }
            return call(statement, method, translated(method, arguments));
        });
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
