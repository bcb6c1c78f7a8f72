package org.orderlyferry.testkit.faults;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;

/** A connection that is lost at one of its commits, so that nobody is told whether it was done. */
public final class LossyConnection {

    private final Connection real;
    private final int fatal;
    private final boolean done;
    private int commits;
    private boolean lost;

    /**
     * A connection to be lost.
     *
     * @param fatal at which commit, from 1
     * @param done whether that one is done
     */
    public LossyConnection(Connection real, int fatal, boolean done) {
        this.real = real;
        this.fatal = fatal;
        this.done = done;
    }

    /** Whether it is gone. */
    public boolean isLost() {
        return lost;
    }

    /** The connection that is given to whoever is tested. */
    public Connection connection() {
        return (Connection) Proxy.newProxyInstance(
                LossyConnection.class.getClassLoader(),
                new Class<?>[] {Connection.class},
                (proxy, method, arguments) -> {
                    if (method.getName().equals("commit") && !lost && ++commits == fatal) {
                        lose();
                    }
                    if (lost && method.getName().equals("isValid")) {
                        return false;
                    }
                    if (lost && !method.getName().equals("isClosed")) {
                        throw new SQLException("the connection is gone", "08006");
                    }
                    try {
                        return method.invoke(real, arguments);
                    } catch (InvocationTargetException e) {
                        throw e.getCause();
                    }
                });
    }

    private void lose() throws SQLException {
        lost = true;
        if (done) {
            real.commit();
        } else {
            real.rollback();
        }
        real.close();
    }
}
