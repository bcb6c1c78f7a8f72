package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.reshape.Reshaping;
import picocli.CommandLine.Option;

/** What is to be different about tables on their way. */
final class ReshapeOptions {

    @Option(
            names = "--columns",
            split = ",",
            paramLabel = "COLUMN",
            description = "Only these columns, in this order; TABLE.COLUMN for one table's, * for any characters.")
    private List<String> columns = new ArrayList<>();

    @Option(names = "--skip", split = ",", paramLabel = "COLUMN", description = "All columns but these.")
    private List<String> skip = new ArrayList<>();

    @Option(
            names = "--leave-behind",
            split = ",",
            paramLabel = "NAME",
            description = "Without the indexes, unique keys, references and checks of these names; TABLE.NAME for one"
                    + " table's, A+B for one of two columns that has no name, * for any characters.")
    private List<String> without = new ArrayList<>();

    @Option(names = "--rename", paramLabel = "COLUMN=NAME", description = "A column by another name.")
    private Map<String, String> rename = new LinkedHashMap<>();

    @Option(
            names = "--type",
            paramLabel = "COLUMN=TYPE",
            description = "A column of another type, such as 'DECIMAL(12,2)' or DATE.")
    private Map<String, String> types = new LinkedHashMap<>();

    @Option(
            names = "--where",
            paramLabel = "CONDITION",
            description =
                    "Only records for which a condition of SQL holds, such as \"height > 3 AND note IS NOT NULL\".")
    private List<String> where = new ArrayList<>();

    @Option(names = "--as", paramLabel = "NAME", description = "The one table by another name than the file's.")
    private String name;

    @Option(
            names = "--number-by",
            paramLabel = "COLUMN",
            description = "Put a column of this name in front, which numbers the records from 1 and is their key.")
    private String number;

    @Option(names = "--readable-headings", description = "Columns by names for readers: field_code as Field code.")
    private boolean readable;

    Reshaping reshaping() {
        Reshaping reshaping =
                new Reshaping().only(columns).skip(skip).without(without).readable(readable);
        rename.forEach(reshaping::rename);
        types.forEach(reshaping::type);
        where.forEach(reshaping::where);
        if (name != null) {
            reshaping.named(name);
        }
        return number == null ? reshaping : reshaping.numbered(number);
    }
}
