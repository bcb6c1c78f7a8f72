package org.orderlyferry.examples;

import java.nio.file.Path;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** Out of one database into files, into another, and compared: a call for each. */
public final class OneCallEachWay {

    private OneCallEachWay() {}

    /**
     * Moves a place to another: {@code FROM TO SET}. Without arguments, a small herbarium of H2's to SQLite.
     *
     * @param arguments two places and the folder of the export set, or none
     */
    public static void main(String[] arguments) {
        if (arguments.length == 3) {
            System.out.println(move(arguments[0], arguments[1], Path.of(arguments[2])));
            return;
        }
        Path folder = Workplace.folder();
        String from = Workplace.herbarium(folder, false).toString();
        String to = folder.resolve("herbarium.sqlite").toString();
        System.out.println("Source and target are " + move(from, to, folder.resolve("set")) + ".");
        System.out.println("The target: " + to + ", the export set: " + folder.resolve("set"));
    }

    static String move(String from, String to, Path set) {
        try (Place source = Places.open(from)) {
            Export.from(source).to(set);
        }
        try (Place files = Places.open(set.toString());
                TargetPlace target = Places.openTarget(to)) {
            Load.from(files).into(target);
        }
        try (Place source = Places.open(from);
                Place target = Places.open(to)) {
            return Reconcile.between(source, target).compare().isEqual() ? "equal" : "different";
        }
    }
}
