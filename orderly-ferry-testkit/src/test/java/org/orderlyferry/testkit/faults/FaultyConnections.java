package org.orderlyferry.testkit.faults;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.CallableStatement;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Connections of which the n-th call fails that goes to the server, counted over all of them, their statements and results.
 * Safe for use by several threads.
 */
public final class FaultyConnections {

    /** What happens at the fatal call. */
    public enum Kind {
        /** The connection is gone before the call is done. */
        LOST,
        /** The call is done, and the connection gone before its answer comes. */
        LOST_AFTERWARDS,
        /** The server refuses this call, and answers all others. */
        REFUSED,
        /** The process is gone before the call is done: no connection makes another one. */
        KILLED,
        /** The call is done, and then the process is gone. */
        KILLED_AFTERWARDS;

        /** Those after which the process goes on, and may put things right. */
        public static Kind[] survived() {
            return new Kind[] {LOST, LOST_AFTERWARDS, REFUSED};
        }
    }

    /** What a driver has of its own, and what is done through it goes to the server too. */
    @FunctionalInterface
    public interface Unwrapping {
        /** A double of a driver's own object. */
        Object over(Object real, FaultyConnections faults, Connection connection);
    }

    /** Calls that go to the server, or may. */
    private static final Set<String> COUNTED = Set.of(
            "execute",
            "executeQuery",
            "executeUpdate",
            "executeLargeUpdate",
            "executeBatch",
            "executeLargeBatch",
            "commit",
            "rollback",
            "setSavepoint",
            "releaseSavepoint",
            "close",
            "next",
            "setAutoCommit",
            "setReadOnly",
            "setTransactionIsolation",
            "copyIn",
            "copyOut",
            "writeToCopy",
            "readFromCopy",
            "endCopy",
            "cancelCopy");

    private final int fatal;
    private final Kind kind;
    private final Unwrapping unwrapping;
    private final AtomicInteger calls = new AtomicInteger();
    private volatile String struck = "";

    /**
     * A fault.
     *
     * @param fatal which call fails, from 1; 0 for none
     */
    public FaultyConnections(int fatal, Kind kind, Unwrapping unwrapping) {
        this.fatal = fatal;
        this.kind = kind;
        this.unwrapping = unwrapping;
    }

    /** How many calls were made. */
    public int calls() {
        return calls.get();
    }

    /** The call that failed; empty as long as none has. */
    public String struck() {
        return struck;
    }

    /** A double of a connection. */
    public Connection over(Connection real) {
        boolean[] lost = {false};
        return (Connection) proxy(Connection.class, real, real, lost);
    }

    private Object proxy(Class<?> type, Object real, Connection connection, boolean[] lost) {
        return Proxy.newProxyInstance(
                FaultyConnections.class.getClassLoader(),
                new Class<?>[] {type},
                (self, method, arguments) -> call(real, connection, lost, method, arguments));
    }

    private Object call(Object real, Connection connection, boolean[] lost, Method method, Object[] arguments)
            throws Throwable {
        switch (method.getName()) {
            case "isClosed", "toString", "hashCode", "abort" -> {
                return invoke(method, real, arguments);
            }
            case "isValid" -> {
                return !lost[0] && (boolean) invoke(method, real, arguments);
            }
            case "unwrap" -> {
                return unwrapping.over(invoke(method, real, arguments), this, connection);
            }
            case "getConnection" -> {
                return over(connection);
            }
            default -> {
                // below
            }
        }
        return wrapped(counted(real, connection, lost, method, arguments), connection, lost);
    }

    private Object wrapped(Object answer, Connection connection, boolean[] lost) {
        if (answer instanceof CallableStatement) {
            return proxy(CallableStatement.class, answer, connection, lost);
        }
        if (answer instanceof PreparedStatement) {
            return proxy(PreparedStatement.class, answer, connection, lost);
        }
        if (answer instanceof Statement) {
            return proxy(Statement.class, answer, connection, lost);
        }
        if (answer instanceof ResultSet) {
            return proxy(ResultSet.class, answer, connection, lost);
        }
        return answer;
    }

    /**
     * Makes a call that a double of a driver's own object was asked for.
     *
     * @throws Throwable what the call throws, or the fault
     */
    public Object counted(Object real, Connection connection, Method method, Object[] arguments) throws Throwable {
        return counted(real, connection, new boolean[1], method, arguments);
    }

    private Object counted(Object real, Connection connection, boolean[] lost, Method method, Object[] arguments)
            throws Throwable {
        boolean dead = !struck.isEmpty() && isKilling();
        if (dead) {
            end(connection);
        }
        if (dead || lost[0] && !method.getName().equals("close")) {
            throw gone();
        }
        if (!COUNTED.contains(method.getName()) || calls.incrementAndGet() != fatal) {
            return invoke(method, real, arguments);
        }
        struck = method.getDeclaringClass().getSimpleName() + "." + method.getName();
        if (kind == Kind.REFUSED) {
            throw new SQLException("the server has had enough", "58000");
        }
        if (kind == Kind.LOST_AFTERWARDS || kind == Kind.KILLED_AFTERWARDS) {
            invoke(method, real, arguments);
        }
        lost[0] = true;
        end(connection);
        throw gone();
    }

    private boolean isKilling() {
        return kind == Kind.KILLED || kind == Kind.KILLED_AFTERWARDS;
    }

    private static void end(Connection connection) throws SQLException {
        connection.abort(Runnable::run);
        if (!connection.isClosed()) {
            // a driver that can't do that
            connection.close();
        }
    }

    private static SQLException gone() {
        return new SQLException("the connection is gone", "08006");
    }

    private static Object invoke(Method method, Object real, Object[] arguments) throws Throwable {
        try {
            return method.invoke(real, arguments);
        } catch (InvocationTargetException e) {
            throw e.getCause();
        }
    }
}
