package org.orderlyferry.databases.driver;

import java.io.File;
import java.sql.Driver;
import java.sql.SQLException;
import java.util.Locale;
import java.util.Properties;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.problem.UsageException;

/** What some drivers do when they connect that nobody has asked for, and what they are told so that they don't. */
final class DriverHabits {

    private static final String DERBY = "jdbc:derby:";
    private static final String DERBY_LOG = "derby.stream.error.file";

    private static final Pattern CHANGING = Pattern.compile(".*;\\s*(upgrade|drop|shutdown\\w*|restorefrom|createfrom|"
            + "rollforwardrecoveryfrom|dataencryption|bootpassword|newbootpassword)\\s*=.*");

    private DriverHabits() {}

    /**
     * What a driver is given along with a URL.
     *
     * @throws UsageException if the URL asks for a change of a database that is only read
     */
    static Properties properties(Driver driver, String url, boolean write) throws SQLException {
        Properties properties = new Properties();
        String small = url.toLowerCase(Locale.ROOT);
        if (url.startsWith("jdbc:hsqldb:")) {
            // it keeps what was committed for a while in memory, and makes a database that isn't there
            properties.setProperty("shutdown", "true");
            if (!write) {
                properties.setProperty("ifexists", "true");
            }
        } else if (url.startsWith("jdbc:duckdb:") && !write) {
            properties.setProperty("duckdb.read_only", "true");
        } else if (url.startsWith(DERBY) && System.getProperty(DERBY_LOG) == null) {
            // it would make one in the folder that somebody works in
            System.setProperty(DERBY_LOG, System.getProperty("java.io.tmpdir") + File.separator + "derby.log");
        }
        if (url.startsWith(DERBY) && !write && CHANGING.matcher(small).matches()) {
            throw new UsageException("the URL of a database that is only read can't ask for it to be changed");
        }
        for (ConnectedSql system : KnownSystems.systems()) {
            // others' drivers aren't asked, since one may make what it is asked about
            if (url.startsWith(system.urlPrefix())) {
                system.properties(DriverFolder.properties(driver, url), write).forEach((name, value) -> {
                    // what the address says goes first
                    if (!small.contains(name.toLowerCase(Locale.ROOT))) {
                        properties.setProperty(name, value);
                    }
                });
            }
        }
        return properties;
    }

    /** Without Derby's attribute that makes a database which isn't there: one that was made so is read by the same address. */
    static String withoutMaking(String url) {
        return url.startsWith(DERBY) ? url.replaceAll("(?i);\\s*create\\s*=\\s*true\\b", "") : url;
    }
}
