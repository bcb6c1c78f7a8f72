package org.orderlyferry.columnar;

import java.io.IOException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * Reading through a library that fails as it likes where a file is damaged: whatever it throws says that the file can't be read.
 *
 * @param shown the file, for messages
 * @param kind as what it is read
 */
public record Guarded(String shown, String kind) {

    /** A step of reading. */
    @FunctionalInterface
    public interface Step<T> {
        /** Does it. */
        T run() throws IOException;
    }

    /**
     * Does one.
     *
     * @throws MalformedFileException if the library fails
     */
    public <T> T read(Step<T> step) {
        try {
            return step.run();
        } catch (FerryException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw failed(e);
        } catch (OutOfMemoryError | StackOverflowError e) {
            // so much room as the file asks for is not to be had
            throw failed(new IOException("it asks for more memory than there is: " + e.getMessage(), e));
        }
    }

    private RuntimeException failed(Exception e) {
        Throwable cause = OneTableWriter.first(e);
        String what = cause.getMessage() == null ? cause.getClass().getSimpleName() : cause.getMessage();
        return new MalformedFileException(new Origin("", shown, 0, true), "can't be read as " + kind + ": " + what);
    }
}
