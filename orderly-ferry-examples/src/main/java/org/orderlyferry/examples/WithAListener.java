package org.orderlyferry.examples;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.work.Export;

/** An export of some tables that tells how it goes on. */
public final class WithAListener {

    private WithAListener() {}

    /**
     * Exports the loans of a place: {@code PLACE SET}. Without arguments, those of a small herbarium.
     *
     * @param arguments a place and the folder of the export set, or none
     */
    public static void main(String[] arguments) {
        Path folder = arguments.length == 2 ? null : Workplace.folder();
        String place = folder == null
                ? arguments[0]
                : Workplace.herbarium(folder, false).toString();
        Path set = folder == null ? Path.of(arguments[1]) : folder.resolve("loans");
        export(place, set).forEach(System.out::println);
        System.out.println("The export set: " + set);
    }

    static List<String> export(String place, Path set) {
        List<String> heard = new ArrayList<>();
        ProgressListener listener = new ProgressListener() {
            @Override
            public void planned(List<TableName> tables, long rows) {
                heard.add(tables.size() + " tables, " + rows + " records");
            }

            @Override
            public void tableFinished(TableName table, long rows) {
                heard.add(table + ": " + rows + " records");
            }
        };
        try (Place source = Places.open(place)) {
            Export.from(source).tables("loan*").listener(listener).to(set);
        }
        return heard;
    }
}
