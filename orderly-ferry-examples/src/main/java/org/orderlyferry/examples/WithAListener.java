package org.orderlyferry.examples;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.transfer.Export;

/** An export of some tables that tells how it goes on. */
public final class WithAListener {

    private WithAListener() {}

    /** Exports the loans of {@code herbarium.mv.db} in the given folder. */
    public static void main(String[] arguments) {
        export(Path.of(arguments[0])).forEach(System.out::println);
    }

    static List<String> export(Path folder) {
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
        try (Place source = Places.open(folder.resolve("herbarium.mv.db").toString())) {
            Export.from(source).tables("loan*").listener(listener).to(folder.resolve("loans"));
        }
        return heard;
    }
}
