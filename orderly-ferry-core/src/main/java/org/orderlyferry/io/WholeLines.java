package org.orderlyferry.io;

import java.nio.charset.StandardCharsets;
import org.apiguardian.api.API;

/** The lines of a journal: the last one may not be whole, since a process was killed while it wrote it. */
@API(status = API.Status.INTERNAL)
public final class WholeLines {

    private WholeLines() {}

    /** Takes a line. */
    @FunctionalInterface
    public interface Each {
        /**
         * One of them.
         *
         * @param number from 1
         */
        void line(String text, int number);
    }

    /**
     * Goes through all lines that are whole.
     *
     * @return how many bytes they take
     */
    public static long each(byte[] bytes, Each each) {
        int from = 0;
        int number = 1;
        for (int i = 0; i < bytes.length; i++) {
            if (bytes[i] == '\n') {
                each.line(new String(bytes, from, i - from, StandardCharsets.UTF_8), number++);
                from = i + 1;
            }
        }
        return from;
    }
}
