package org.orderlyferry.report;

import java.io.IOException;
import java.io.InputStream;
import java.util.Properties;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.problem.PlaceException;

/**
 * What did the work.
 *
 * @param version of Orderly Ferry
 * @param java of the Java runtime
 * @param system the operating system
 */
@NullMarked
public record Software(String version, String java, String system) {

    /** Of a record that doesn't say. */
    static final Software UNKNOWN = new Software("", "", "");

    public Software {
        version = Bounded.text(version);
        java = Bounded.text(java);
        system = Bounded.text(system);
    }

    /** This process's. */
    public static Software here() {
        return new Software(
                ownVersion(),
                System.getProperty("java.version", ""),
                System.getProperty("os.name", "") + " " + System.getProperty("os.version", "") + ", "
                        + System.getProperty("os.arch", ""));
    }

    /** Of this library. */
    public static String ownVersion() {
        Properties properties = new Properties();
        try (InputStream in = Software.class.getResourceAsStream("version.properties")) {
            properties.load(in);
            return properties.getProperty("version", "");
        } catch (IOException e) {
            throw new PlaceException("version.properties", "can't be read: " + e.getMessage(), e);
        }
    }
}
