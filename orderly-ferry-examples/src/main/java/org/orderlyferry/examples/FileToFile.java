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
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;

/** A file that somebody sent: what is odd in it, and all its good records as JSON lines. */
public final class FileToFile {

    private FileToFile() {}

    /**
     * Converts a CSV file to JSON lines: {@code CSV LINES}. Without arguments, a small file that is made for it.
     *
     * @param arguments two files, or none
     */
    public static void main(String[] arguments) {
        Path folder =
                arguments.length == 2 ? Path.of(arguments[1]).toAbsolutePath().getParent() : Workplace.folder();
        Path csv = arguments.length == 2 ? Path.of(arguments[0]) : Workplace.sentFile(folder);
        Path lines = arguments.length == 2 ? Path.of(arguments[1]) : folder.resolve("sent.jsonl");
        System.out.println("Odd in it:");
        convert(csv, lines).forEach(odd -> System.out.println("  " + odd));
        System.out.println("Its good records: " + lines + ", the others: " + folder.resolve("rejects.csv"));
    }

    static List<String> convert(Path csv, Path lines) {
        try (RejectFile rejects = new RejectFile(lines.toAbsolutePath().resolveSibling("rejects.csv"));
                Place file = Places.open(
                        PlaceAddress.of(csv),
                        OpenOptions.builder().rejects(rejects).build());
                TargetPlace target = Places.openTarget(lines.toString())) {
            TableName table = file.tables().get(0);
            List<Finding> odd = ((FileTables) file).propose(table).findings();

            Place named = new Reshaping().named("label").where("id > 0").over(file, rejects);
            Load.from(named).into(target);
            return odd.stream().map(Finding::text).toList();
        }
    }
}
