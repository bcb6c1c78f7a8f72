package org.orderlyferry.examples;

import java.nio.file.Path;
import java.util.List;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.transfer.Load;
import org.orderlyferry.transfer.RejectFile;

/** A file that somebody sent: what is odd in it, and all its good records as JSON lines. */
public final class FileToFile {

    private FileToFile() {}

    /** Converts the CSV file of the first argument to the JSON lines of the second. */
    public static void main(String[] arguments) {
        System.out.println(String.join("\n", convert(Path.of(arguments[0]), Path.of(arguments[1]))));
    }

    static List<String> convert(Path csv, Path lines) {
        try (RejectFile rejects = new RejectFile(lines.resolveSibling("rejects.csv"));
                Place file = Places.open(PlaceAddress.of(csv), OpenOptions.DEFAULT.withRejects(rejects));
                TargetPlace target = Places.openTarget(lines.toString())) {
            TableName table = file.tables().get(0);
            List<Finding> odd = ((FileTables) file).propose(table).findings();

            Place named = new Reshaping().named("label").where("id > 0").over(file, rejects);
            Load.from(named).into(target);
            return odd.stream().map(Finding::text).toList();
        }
    }
}
