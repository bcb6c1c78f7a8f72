package org.orderlyferry.io;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.apiguardian.api.API;

/** Files that are there for a while only, for their owner alone: where they stand, and that it is there that room is lacking. */
@API(status = API.Status.INTERNAL)
public final class TemporaryFolder {

    private static final String PREFIX = "orderly-ferry-";

    private TemporaryFolder() {}

    /** Where it is. */
    public static Path path() {
        return Path.of(System.getProperty("java.io.tmpdir"));
    }

    /**
     * Makes an empty file.
     *
     * @param ending of its name
     * @throws IOException if it can't be made; the message says where
     */
    public static Path newFile(String ending) throws IOException {
        try {
            return Files.createTempFile(PREFIX, ending);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /**
     * Writes into a file that was made.
     *
     * @return a stream whose failures say where the file stands
     * @throws IOException if it can't be opened
     */
    public static OutputStream into(Path file) throws IOException {
        return new FilterOutputStream(Files.newOutputStream(file)) {
            @Override
            public void write(int b) throws IOException {
                try {
                    out.write(b);
                } catch (IOException e) {
                    throw failed(e);
                }
            }

            @Override
            public void write(byte[] b, int from, int length) throws IOException {
                try {
                    out.write(b, from, length);
                } catch (IOException e) {
                    throw failed(e);
                }
            }
        };
    }

    /** A failure that has to do with such a file. */
    public static IOException failed(IOException e) {
        return new IOException("in the temporary folder, " + path() + ": " + e.getMessage(), e);
    }
}
