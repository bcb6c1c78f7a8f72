package org.orderlyferry.examples;

import java.nio.file.Path;
import java.util.List;
import org.orderlyferry.documents.simulated.SimulatedStore;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.LocalDocuments;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/**
 * From documents to tables, back, and on into a store that is reached over HTTP: lists in documents are taken apart into tables of their own with keys back, and put together
 * again. Each way is proved.
 */
public final class FromDocuments {

    private FromDocuments() {}

    /**
     * Moves all collections of a database of documents to tables: {@code FROM TO SET}. Without arguments, a small herbarium whose
     * determinations stand in the documents of its specimens, in a server in memory.
     *
     * @param arguments the documents' address, that of another database, and the folder of the export set; or none
     */
    public static void main(String[] arguments) {
        if (arguments.length == 3) {
            move(arguments[0], arguments[1], Path.of(arguments[2])).forEach(System.out::println);
            return;
        }
        Path folder = Workplace.folder();
        Path set = folder.resolve("set");
        try (LocalDocuments server = LocalDocuments.start()) {
            String herbarium = Workplace.herbarium(folder, false).toString();
            copy(herbarium, server.url("herbarium") + "?nest=determination:specimen,loan_item:loan");
            String tables = folder.resolve("tables.sqlite").toString();
            System.out.println("From documents to tables, at " + tables);
            move(server.url("herbarium") + "?form=apart", tables, set).forEach(line -> System.out.println("  " + line));
            System.out.println("And back into documents");
            move(set.toString(), server.url("again") + "?form=apart", folder.resolve("second"))
                    .forEach(line -> System.out.println("  " + line));
        }
        try (SimulatedStore store = SimulatedStore.start()) {
            Path key = folder.resolve("key.json");
            store.makeKey("herbarium", key);
            System.out.println("And from the tables into a store that is reached with the key in " + key);
            move(folder.resolve("tables.sqlite").toString(), store.url("herbarium", key), folder.resolve("third"))
                    .forEach(line -> System.out.println("  " + line));
        }
        System.out.println("The export set: " + set);
    }

    private static void copy(String from, String to) {
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            Load.from(source).into(target);
        }
    }

    static List<String> move(String from, String to, Path set) {
        try (Place source = Places.open(from)) {
            Export.from(source).to(set);
        }
        try (Place files = Places.open(set);
                TargetPlace target = Places.openTarget(to)) {
            Load.from(files).mode(LoadMode.REPLACE).into(target);
        }
        try (Place source = Places.open(from);
                Place target = Places.open(to)) {
            return Reconcile.between(source, target).compare().tables().stream()
                    .map(t -> t.table() + ": " + t.verdict())
                    .toList();
        }
    }
}
