package org.orderlyferry.io;

import org.apiguardian.api.API;
import org.jspecify.annotations.Nullable;

/** What was opened is closed when something else has failed. */
@API(status = API.Status.INTERNAL)
public final class Closing {

    private Closing() {}

    /**
     * Closes all that there is, in this order.
     *
     * @param failure why; what fails in closing is told with it
     */
    public static void after(Throwable failure, @Nullable AutoCloseable... opened) {
        for (AutoCloseable one : opened) {
            if (one != null) {
                try {
                    one.close();
                } catch (Exception second) {
                    failure.addSuppressed(second);
                }
            }
        }
    }
}
