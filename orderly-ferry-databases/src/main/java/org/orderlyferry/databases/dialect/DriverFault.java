package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.Optional;
import org.apiguardian.api.API;

/**
 * What a driver throws that JDBC knows nothing of: its own mistakes, such as a time of day that Java has no object for. They are
 * failures of the database as any SQLException is, and told as such; mistakes of this program stay what they are.
 */
@API(status = API.Status.INTERNAL)
public final class DriverFault {

    private DriverFault() {}

    /** The driver's own failure as JDBC would have it; nothing if the exception comes from this program. */
    public static Optional<SQLException> of(RuntimeException e) {
        for (StackTraceElement frame : e.getStackTrace()) {
            String name = frame.getClassName();
            if (name.startsWith("org.orderlyferry.")) {
                return Optional.empty();
            }
            if (!isOfJava(name)) {
                return Optional.of(new SQLException("its driver fails: " + told(e), e));
            }
        }
        return Optional.empty();
    }

    /**
     * The driver's own failure as JDBC would have it.
     *
     * @throws RuntimeException as it is, if it comes from this program
     */
    public static SQLException in(RuntimeException e) {
        return of(e).orElseThrow(() -> e);
    }

    private static boolean isOfJava(String name) {
        return name.startsWith("java.") || name.startsWith("jdk.") || name.startsWith("sun.");
    }

    private static String told(RuntimeException e) {
        String kind = e.getClass().getSimpleName();
        return e.getMessage() == null ? kind : kind + ": " + e.getMessage();
    }
}
