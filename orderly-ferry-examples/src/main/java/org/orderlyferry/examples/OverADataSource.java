package org.orderlyferry.examples;

import java.nio.file.Path;
import javax.sql.DataSource;
import org.h2.jdbcx.JdbcDataSource;
import org.orderlyferry.databases.place.DataSources;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.MovedTable;

/** Moves over a connection pool's, or a framework's, own {@link DataSource}, which knows how to connect and sign in. */
public final class OverADataSource {

    private OverADataSource() {}

    /**
     * Moves a place into a new database of H2's: {@code FROM}. Without arguments, a small herbarium.
     *
     * @param arguments a place, or none
     */
    public static void main(String[] arguments) {
        Path folder = Workplace.folder();
        String from = arguments.length == 1
                ? arguments[0]
                : Workplace.herbarium(folder, false).toString();
        JdbcDataSource target = new JdbcDataSource();
        target.setURL("jdbc:h2:" + folder.resolve("moved"));
        target.setUser("keeper");
        target.setPassword("a secret of the application's");
        System.out.println(move(from, target) + " records are in " + target.getURL());
    }

    static long move(String from, DataSource into) {
        try (Place source = Places.open(from);
                TargetPlace target = DataSources.openTarget(into, OpenOptions.DEFAULT)) {
            return Load.from(source).into(target).tables().stream()
                    .mapToLong(MovedTable::written)
                    .sum();
        }
    }
}
