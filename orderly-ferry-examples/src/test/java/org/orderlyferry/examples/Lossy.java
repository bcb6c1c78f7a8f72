package org.orderlyferry.examples;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;

/** A connection that is lost at one of its commits, so that nobody is told whether it was done. */
final class Lossy {

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
    Lossy(Connection real, int fatal, boolean done) {
        this.real = real;
        this.fatal = fatal;
        this.done = done;
    }

    boolean isLost() {
        return lost;
    }

    Connection connection() {
        return (Connection) Proxy.newProxyInstance(
                Lossy.class.getClassLoader(), new Class<?>[] {Connection.class}, (proxy, method, arguments) -> {
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
