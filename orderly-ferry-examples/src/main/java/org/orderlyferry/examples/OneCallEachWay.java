package org.orderlyferry.examples;

import java.nio.file.Path;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.transfer.Export;
import org.orderlyferry.transfer.Load;

/** Out of one database into files, into another, and compared: a call for each. */
public final class OneCallEachWay {

    private OneCallEachWay() {}

    /** Moves {@code herbarium.mv.db} of the given folder to {@code herbarium.sqlite} there. */
    public static void main(String[] arguments) {
        System.out.println(move(Path.of(arguments[0])));
    }

    static String move(Path folder) {
        String from = folder.resolve("herbarium.mv.db").toString();
        String to = folder.resolve("herbarium.sqlite").toString();
        Path set = folder.resolve("set");

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
