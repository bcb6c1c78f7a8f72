package org.orderlyferry.databases.place;

import java.sql.SQLException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Session;

/** Which system it is that a session speaks with, and of which version. */
final class SystemVersion {

    /** The number alone: what stands behind it, or in front, tells of builds and machines. */
    private static final Pattern NUMBER = Pattern.compile("\\d+(?:\\.\\d+)*+\\w*");

    private SystemVersion() {}

    static String of(Session session) throws SQLException {
        return named(
                session.dialect().system(), session.connection().getMetaData().getDatabaseProductVersion());
    }

    static String named(String system, String told) {
        Matcher number = NUMBER.matcher(told);
        String version = number.find() ? number.group() : told;
        // some have the beginning of it in their name
        int last = system.lastIndexOf(' ') + 1;
        boolean twice = last > 0
                && NUMBER.matcher(system.substring(last)).matches()
                && version.startsWith(system.substring(last));
        return (twice ? system.substring(0, last) : system + " ") + version;
    }
}
