package org.orderlyferry.examples;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import org.orderlyferry.testkit.herbarium.Herbarium;

/** Where an example works when it is started without arguments: a temporary folder, with a small herbarium in it. */
final class Workplace {

    private Workplace() {}

    static Path folder() {
        try {
            return Files.createTempDirectory("orderly-ferry-example-");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Makes a small herbarium and says where it is. */
    static Path herbarium(Path folder, boolean commonDates) {
        Path file = folder.resolve("herbarium.mv.db");
        try {
            new Herbarium()
                    .specimens(200)
                    .readings(100)
                    .commonDates(commonDates)
                    .create(file);
        } catch (SQLException e) {
            throw new IllegalStateException("the example's own database can't be made", e);
        }
        System.out.println("A small herbarium, made for this example: " + file);
        return file;
    }

    /** Makes a file as somebody might send it: with a record that is cut short. */
    static Path sentFile(Path folder) {
        try {
            Path file = Files.writeString(folder.resolve("sent.csv"), "id,code\n1,007\n2\n3,010\n");
            System.out.println("A small file, made for this example: " + file);
            return file;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
