package org.orderlyferry.matrix;

import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** A PostgreSQL database of forty chambers, and of as many readings in them as a test wants. */
final class Readings {

    private Readings() {}

    /** A new one's URL. */
    static String of(int rows) throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE chamber (id int PRIMARY KEY, name varchar(40) NOT NULL)",
                "INSERT INTO chamber SELECT g, 'chamber \"' || g FROM generate_series(1, 40) g",
                "CREATE TABLE reading (id bigint PRIMARY KEY, chamber int NOT NULL REFERENCES chamber, degrees double precision,"
                        + " note text, taken timestamp)",
                "INSERT INTO reading SELECT g, 1 + g % 40, g * 0.37, CASE WHEN g % 7 = 0 THEN NULL ELSE 'moss, \"sheet\" ' || g END,"
                        + " timestamp '2031-01-01' + g * interval '1 second' FROM generate_series(1, " + rows + ") g",
                "ANALYZE");
        return url;
    }
}
