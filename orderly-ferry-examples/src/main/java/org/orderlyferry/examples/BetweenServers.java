package org.orderlyferry.examples;

import java.nio.file.Path;
import java.util.List;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.LocalMaria;
import org.orderlyferry.testkit.servers.LocalPostgres;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * From one server to another: tries the load first, and does it only if every value would be taken; then proves that all
 * arrived. {@code ./ferry demo --servers} does the same on the command line.
 */
public final class BetweenServers {

    private BetweenServers() {}

    /**
     * Moves all tables of a server to another: {@code FROM TO SET}. Without arguments, a small herbarium to a PostgreSQL
     * and from there to a MariaDB, both started for it and stopped again.
     *
     * @param arguments two JDBC URLs and the folder of the export set, or none
     */
    public static void main(String[] arguments) {
        if (arguments.length == 3) {
            move(arguments[0], arguments[1], Path.of(arguments[2])).forEach(System.out::println);
            return;
        }
        Path folder = Workplace.folder();
        String herbarium = Workplace.herbarium(folder, true).toString();
        try (LocalPostgres postgres = LocalPostgres.start();
                LocalMaria maria = LocalMaria.start("--local-infile=1")) {
            String from = postgres.url("postgres");
            System.out.println("To PostgreSQL, at " + from);
            move(herbarium, from, folder.resolve("first")).forEach(line -> System.out.println("  " + line));
            String to = maria.url("test");
            System.out.println("And from there to MariaDB, at " + to);
            move(from, to, folder.resolve("second")).forEach(line -> System.out.println("  " + line));
        }
        System.out.println("The export sets: " + folder.resolve("first") + ", " + folder.resolve("second"));
    }

    static List<String> move(String from, String to, Path set) {
        try (Place source = Places.open(from)) {
            Export.from(source).to(set);
        }
        try (Place files = Places.open(set.toString());
                TargetPlace target = Places.openTarget(to)) {
            TransferResult tried =
                    Load.from(files).mode(LoadMode.REPLACE).rehearsal(true).into(target);
            if (tried.refused()) {
                return tried.findings().stream().map(Object::toString).toList();
            }
            Load.from(files).mode(LoadMode.REPLACE).into(target);
        }
        try (Place source = Places.open(from);
                Place target = Places.open(to)) {
            return Reconcile.between(source, target).depth(Depth.DIGESTS).compare().tables().stream()
                    .map(t -> t.table() + ": " + t.verdict())
                    .toList();
        }
    }
}
